import type { FormulaTrack, KeyProperty } from '../document';
import { FormulaError, readFormula, type Formula } from '../formula';

/** What a formula gives at a time, in the track's unit; rest where it gives no number. */
export function formulaValue(formula: Formula, gain: number, rest: number, time: number, length: number): number {
  const value = gain * formula(time, length > 0 ? time / length : 0);
  return Number.isFinite(value) ? value : rest;
}

/** A formula of a track, or one that is rest where it can't be read: constants may have gone since. */
export function formulaOf(track: FormulaTrack, constants: Readonly<Record<string, number>> | undefined): Formula {
  try {
    return readFormula(track.source, constants);
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
    const rest = restValue(track.property);
    return () => rest / (track.gain || 1);
  }
}

/** Rest's value of a property: what a part has where nothing says otherwise. */
export function restValue(property: KeyProperty): number {
  return property === 'size' || property === 'shown' ? 1 : 0;
}
