import { KitError } from '../document';

/** A file that was refused: why, and where in it. */
export class IntakeError extends KitError {}

/** @param formats Those that are read, in words. */
export function notKnown(fileName: string, formats = 'glTF'): IntakeError {
  return new IntakeError(
    'not-known',
    `“${fileName}” is no ${formats} file, and no ZIP of one: it does not begin like one, whatever its name says. Export the model as GLB (glTF 2.0) and drop that.`,
    fileName,
  );
}

/** The refusal of a file that ends too early, bytes. */
export function truncated(fileName: string, have: number, need: number): IntakeError {
  return new IntakeError(
    'truncated',
    `“${fileName}” is cut short: it holds ${have.toLocaleString('en')} bytes of the ${need.toLocaleString('en')} that it announces. Copy or export it again.`,
    fileName,
  );
}

/** The refusal of a file in which something is not as its format says. */
export function invalid(fileName: string, where: string, what: string): IntakeError {
  return new IntakeError(
    'invalid',
    `“${fileName}” can't be read: ${what} (at ${where}). Export it again, or mend it with the program that wrote it.`,
    where,
  );
}
