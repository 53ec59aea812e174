import { KitError } from '../document';

/** A file that was refused: why, and where in it. */
export class IntakeError extends KitError {}

export function notKnown(fileName: string): IntakeError {
  return new IntakeError(
    'not-known',
    `“${fileName}” is neither a GLB nor a glTF file, nor OBJ, PLY, STL, COLLADA, BVH or ZIP: it does not begin like one, whatever its name says. Export the model as GLB (glTF 2.0) and drop that.`,
    fileName,
  );
}

export function truncated(fileName: string, have: number, need: number): IntakeError {
  return new IntakeError(
    'truncated',
    `“${fileName}” is cut short: it holds ${have.toLocaleString('en')} bytes of the ${need.toLocaleString('en')} that it announces. Copy or export it again.`,
    fileName,
  );
}

export function invalid(fileName: string, where: string, what: string): IntakeError {
  return new IntakeError(
    'invalid',
    `“${fileName}” can't be read: ${what} (at ${where}). Export it again, or mend it with the program that wrote it.`,
    where,
  );
}
