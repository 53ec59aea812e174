import type { Rulebook } from './types';

/** The order in which a rulebook's fields are written, whatever a database has made of it. */
const ORDER = (
  'format id version title name role check grade limit roles summary pattern prefix group unit short space metresPerUnit up forward handedness tileMetres stepMetres stepDegrees sizeClasses naming ' +
  'root maxLength min max neutral indices kind positive parent under place left right anchor axis needed loop path holds patterns explain examples reserved sides required hierarchy parents ' +
  'drivenOrder pivots materials slots formats alphaModes skeleton motion clips rate easings tracks loops rest variables packaging rules about why'
).split(' ');
const PLACE = new Map(ORDER.map((key, i) => [key, i]));

function ordered(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(ordered);
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).sort(([a], [b]) => (PLACE.get(a) ?? ORDER.length) - (PLACE.get(b) ?? ORDER.length));
  return Object.fromEntries(entries.map(([key, one]) => [key, ordered(one)]));
}

/** A rulebook as JSON to be read by people: its fields in their usual order. */
export function rulebookText(rulebook: Rulebook): string {
  return JSON.stringify(ordered(rulebook), null, 1);
}
