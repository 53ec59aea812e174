import { KitError, SIGNED_AXES, type Blobs, type Kit, type SignedAxis, type Space } from '@itchkit/core/document';
import { CANONICAL, changeOfSpace, conformKit } from '@itchkit/core/geometry';
import { UNITS } from '@itchkit/core/intake';
import { writeGlb } from '@itchkit/core/ship';

export class OptionError extends KitError {}

export interface SpaceOptions {
  unit?: string;
  up?: string;
  forward?: string;
}

function axis(option: string, value: string | undefined): SignedAxis | undefined {
  if (value === undefined) return undefined;
  const full = (/^[xyz]$/i.test(value) ? `+${value}` : value).toLowerCase();
  if (!(SIGNED_AXES as readonly string[]).includes(full))
    throw new OptionError('option', `“--${option} ${value}” is no axis. Give one of ${SIGNED_AXES.join(', ')}.`, option);
  return full as SignedAxis;
}

/** The space that options ask for. Forward is +z where it is free, otherwise −y for z up. @throws {OptionError} */
export function spaceOf({ unit, up, forward }: SpaceOptions): Space {
  const upAxis = axis('up', up) ?? (axis('forward', forward)?.[1] === 'y' ? '+z' : CANONICAL.up);
  const forwardAxis = axis('forward', forward) ?? (upAxis[1] === 'z' ? '-y' : '+z');
  if (upAxis[1] === forwardAxis[1])
    throw new OptionError('option', `Up (${upAxis}) and forward (${forwardAxis}) lie on one axis. Choose two different ones.`, 'forward');
  const known = UNITS.find((one) => one.short === unit || one.name === unit || one.name === `${unit}s`);
  const metresPerUnit = unit === undefined ? 1 : (known?.metres ?? Number(unit));
  if (!(metresPerUnit > 0) || !Number.isFinite(metresPerUnit))
    throw new OptionError(
      'option',
      `“--unit ${unit}” is no unit. Give ${UNITS.map((one) => one.short).join(', ')}, or how many metres one unit is.`,
      'unit',
    );
  return { metresPerUnit, up: upAxis, forward: forwardAxis, handedness: 'right' };
}

/** The kit as GLB in another unit and other axes, without a scaled or turned root. */
export async function convertKit(kit: Kit, blobs: Blobs, space: Space): Promise<Uint8Array> {
  conformKit(kit, changeOfSpace(CANONICAL, space), blobs);
  return (await writeGlb(kit, blobs, { extras: true })).bytes;
}
