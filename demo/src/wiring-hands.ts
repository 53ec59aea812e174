import { callOf, type Axis, type Binding, type Id, type PoseDelta, type Span, type Vec3 } from '@itchkit/core/document';
import { addBinding, addLink, setBindingRow, setSwitch } from '@itchkit/core/wiring';
import type { Hands } from './hands';

const REST: PoseDelta = { offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };

/** Rows of a table: at a value, what is not at rest. */
export type Rows = [value: number, pose: Partial<PoseDelta>][];

export const rowsOf = (rows: Rows): Binding['rows'] => rows.map(([value, pose]) => ({ ...REST, ...pose, value }));

/** The own axis that lies upright, or across, at rest, where nothing is turned. */
export const [ACROSS, UPRIGHT] = [0, 1] as const;

interface Ranged {
  variable: string;
  min: number;
  max: number;
}

export function bind(
  hands: Hands,
  part: string,
  variable: string,
  index: number,
  rows: Rows,
  outside: 'clamp' | 'wrap' | 'extend' = 'clamp',
): void {
  hands.do(callOf(addBinding, { part: hands.part(part), variable, index, outside, rows: rowsOf(rows) }));
}

export const bindingsOf = (hands: Hands, ...names: string[]): Binding[] => {
  const parts = names.map((name) => hands.part(name));
  return Object.values(hands.kit.bindings).filter(({ part }) => parts.includes(part));
};

/** Lets two parts meet that turn about one axis; `at` from the pivot of the first, metres in its axes. */
export function meet(hands: Hands, parts: [string, string], axis: Axis, at: readonly number[], driver: Ranged): void {
  const rounded = at.map((value) => Number(value.toFixed(6))) as Vec3;
  const ids = parts.map((name) => hands.part(name));
  hands.do(callOf(addLink, { kind: 'meet', parts: ids, axes: [axis, axis], at: rounded, on: null, index: 0, neutral: 0, ...driver }));
}

/** Lets a wheel roll about what lies across. */
export function roll(hands: Hands, part: string, radius: number, driver: Ranged): void {
  const at: Vec3 = [0, -radius, 0];
  hands.do(callOf(addLink, { kind: 'roll', parts: [hands.part(part)], axes: [ACROSS], at, on: null, index: 0, neutral: 0, ...driver }));
}

/** Turns one row of a linked part's table by hand, as somebody does who has no tool for it. */
export function bend(hands: Hands, part: string, row: number, axis: Axis, degrees: number): void {
  const [{ id, rows }] = bindingsOf(hands, part);
  const moved = rows.at(row)!;
  const turn = moved.turn.map((value, k) => (k === axis ? value + degrees : value)) as Vec3;
  hands.do(callOf(setBindingRow, { binding: id, row: { ...moved, turn } }));
}

/** Shows and hides parts, one for the other. */
export function switchPair(hands: Hands, variable: string, among: string, spans: Record<string, Span[]>): void {
  for (const [name, own] of Object.entries(spans))
    hands.do(callOf(setSwitch, { part: hands.part(name), variable, index: 0, spans: own, among }));
}

/** Pairs of parts by the ends of their names. */
export const sides = (hands: Hands, words: string[], from: string, to: string): Record<Id, Id> =>
  Object.fromEntries(words.map((word) => [hands.part(`${word}${from}`), hands.part(`${word}${to}`)]));
