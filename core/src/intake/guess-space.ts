import type { Blobs, Kit, Space } from '../document';
import { isEmptyBounds, restBounds, sizeOf } from '../geometry';

export const UNITS = [
  { name: 'metres', short: 'm', metres: 1 },
  { name: 'decimetres', short: 'dm', metres: 0.1 },
  { name: 'centimetres', short: 'cm', metres: 0.01 },
  { name: 'millimetres', short: 'mm', metres: 0.001 },
  { name: 'feet', short: 'ft', metres: 0.3048 },
  { name: 'inches', short: 'in', metres: 0.0254 },
] as const;

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

/**
 * The unit that a file's numbers are most likely in. The standard's metres are taken where the size that they give is
 * believable; otherwise the first unit whose size is. Axes are the standard's.
 */
export function guessSpace(kit: Kit, blobs: Blobs): SpaceGuess {
  const current = kit.source!.space;
  const bounds = restBounds(kit, blobs);
  if (isEmptyBounds(bounds)) return { space: current, why: 'There is no mesh to judge a size by.' };
  const units = Math.max(...sizeOf(bounds)) / current.metresPerUnit;
  const believable = (metres: number) => units * metres >= BELIEVABLE.least && units * metres <= BELIEVABLE.most;
  const unit = UNITS.filter((one) => one.metres === 1 || one.metres === 0.01 || one.metres === 0.001).find((one) => believable(one.metres)) ?? UNITS[0];
  const figure = `${Number((units * unit.metres).toPrecision(3))} m`;
  const why =
    unit.metres === 1
      ? `In metres, as the standard says, its longest side is ${figure}.`
      : `In metres its longest side would be ${Number(units.toPrecision(3)).toLocaleString('en')} m; in ${unit.name} it is ${figure}.`;
  return { space: { ...current, metresPerUnit: unit.metres }, why };
}
