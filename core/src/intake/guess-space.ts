import type { Blobs, Kit, Space } from '../document';
import { FORMATS } from './formats';
import { kitBounds, sizeOf, type Bounds } from '../geometry';

/** Units that files are made in, in metres. */
export const UNITS = [
  { name: 'metres', short: 'm', metres: 1 },
  { name: 'decimetres', short: 'dm', metres: 0.1 },
  { name: 'centimetres', short: 'cm', metres: 0.01 },
  { name: 'millimetres', short: 'mm', metres: 0.001 },
  { name: 'feet', short: 'ft', metres: 0.3048 },
  { name: 'inches', short: 'in', metres: 0.0254 },
] as const;

/** The unit of so many metres, or its number where it has no name. */
export function unitOf(metresPerUnit: number): { name: string; short: string } {
  return UNITS.find((unit) => Math.abs(unit.metres - metresPerUnit) < 1e-9) ?? { name: `units of ${metresPerUnit} m`, short: 'u' };
}

/** Longest side of things that people model, metres: from a cup to a harbour basin. */
const BELIEVABLE = { least: 0.05, most: 60 };

export interface SpaceGuess {
  space: Space;
  /** A sentence: what speaks for it. */
  why: string;
}

/** Formats that say nothing of axes are written by many with z up. */
const saysAxes = (id: string) => FORMATS.find((format) => format.id === id)?.says ?? id !== 'frames';
/** A thing stands on the ground where its lowest point is this near to it, as a share of its height. */
const STANDS = 0.02;

/** Which way is up: the standard's y, unless the thing stands on the ground along z and does not along y. */
function guessAxes(kit: Kit, bounds: Bounds): { axes: Partial<Space>; why: string } {
  const current = kit.source!.space;
  if (saysAxes(kit.source!.format) || current.up !== '+y') return { axes: {}, why: '' };
  const stands = (axis: number) => Math.abs(bounds.min[axis]) <= STANDS * (bounds.max[axis] - bounds.min[axis]);
  if (stands(1) || !stands(2) || bounds.max[2] <= 0) return { axes: {}, why: '' };
  return { axes: { up: '+z', forward: '-y' }, why: ' It stands on the ground along z and not along y, so z is taken to be up.' };
}

/**
 * The unit that a file's numbers are most likely in. The standard's metres are taken where the size that they give is
 * believable; otherwise the first unit whose size is. Axes are the standard's, or z up where the thing stands so.
 */
export function guessSpace(kit: Kit, blobs: Blobs): SpaceGuess {
  const current = kit.source!.space;
  if (kit.source!.notes.some((note) => note.code === 'space-stated')) return { space: current, why: 'So the file says itself.' };
  const bounds = kitBounds(kit, blobs);
  if (!(Math.max(...sizeOf(bounds)) > 0)) return { space: current, why: 'There is nothing to judge a size by.' };
  const units = Math.max(...sizeOf(bounds)) / current.metresPerUnit;
  const believable = (metres: number) => units * metres >= BELIEVABLE.least && units * metres <= BELIEVABLE.most;
  const unit =
    UNITS.filter((one) => one.metres === 1 || one.metres === 0.01 || one.metres === 0.001).find((one) => believable(one.metres)) ??
    UNITS[0];
  const figure = `${Number((units * unit.metres).toPrecision(3))} m`;
  const why =
    unit.metres === 1
      ? `In metres, as the standard says, its longest side is ${figure}.`
      : `In metres its longest side would be ${Number(units.toPrecision(3)).toLocaleString('en')} m; in ${unit.name} it is ${figure}.`;
  const axes = guessAxes(kit, bounds);
  return { space: { ...current, ...axes.axes, metresPerUnit: unit.metres }, why: `${why}${axes.why}` };
}
