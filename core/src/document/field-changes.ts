import { current, isDraft, produce } from 'immer';
import { KitError } from './errors';
import type { Kit } from './kit';
import { SECTIONS } from './sections';

/** What tells one element of a list from the others: its id, or in an ascending list its time (seconds) or value. */
export type Element = { id: string } | { time: number } | { value: number };

/** A step into a document: a field's name, a component of a vector by its number, or an element of a list. */
export type PathStep = string | number | Element;

/** What one field was and what it is now. A field that is not there has no `was`, or no `now`. Values are JSON. */
export interface FieldChange {
  path: PathStep[];
  was?: unknown;
  now?: unknown;
}

/** A field that is not as a change found it: two people changed it. */
export interface Clash {
  change: FieldChange;
  /** What it is in the document that the change was to be made on; undefined where it is not there. */
  theirs: unknown;
  /** Whether what it stands in is there no more, so that no decision for the change alone could be followed. */
  gone: boolean;
}

/** A change that names no field of a kit. */
export class FieldPathError extends KitError {
  constructor(path: readonly PathStep[]) {
    super(
      'patch',
      'The change does not fit this kit. Reload the page; what was saved before is kept.',
      path.map((step) => (typeof step === 'object' ? Object.values(step)[0] : step)).join('.'),
    );
  }
}

/** Vectors whose components are told one by one. Rotations, axes and colours mean nothing in halves. */
const BY_COMPONENT = new Set(['translation', 'scale', 'tail', 'offset', 'turn', 'size', 'at']);
const NAMES_OF_OBJECTS = new Set(['__proto__', 'constructor', 'prototype']);
const MOST_STEPS = 16;

/** Whether two values are the same as JSON, in whatever order their fields stand: a database keeps an order of its own. */
function same(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const names = Object.keys(a);
  return (
    names.length === Object.keys(b).length &&
    names.every((name) => Object.hasOwn(b, name) && same((a as Fields)[name], (b as Fields)[name]))
  );
}

type Fields = Record<string, unknown>;
const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value);
const isArrayOfData = (value: unknown): boolean => isFields(value) && 'blob' in value;

/**
 * What makes one document the other, field by field. What both share costs nothing, as immer keeps it.
 *
 * Lists are told element by element where their elements have an id and new ones stand at the end, or where times or values ascend; other
 * lists, records that hold arrays of data, and sections that merge by records are one field each.
 */
export function fieldChanges(from: Kit, to: Kit): FieldChange[] {
  const changes: FieldChange[] = [];
  for (const name of namesOf(from as unknown as Fields, to as unknown as Fields))
    walk([name], (from as unknown as Fields)[name], (to as unknown as Fields)[name], changes);
  return changes;
}

const namesOf = (a: Fields, b: Fields): string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])];

/** Whether what stands at a path is told as a whole, whatever it is. */
function isWhole(path: readonly PathStep[]): boolean {
  const section = SECTIONS[path[0] as keyof typeof SECTIONS] as { kind: string; merges: string } | undefined;
  return section?.merges === 'records' && path.length === (section.kind === 'table' ? 2 : 1);
}

function walk(path: PathStep[], was: unknown, now: unknown, changes: FieldChange[]): void {
  if (was === now) return;
  const inside = !isWhole(path) && elementsOf(path, was, now);
  if (inside) for (const [step, a, b] of inside) walk([...path, step], a, b, changes);
  else if (!same(was, now)) changes.push({ path, ...(was === undefined ? {} : { was }), ...(now === undefined ? {} : { now }) });
}

/** What two values are made of, step by step; null where they are told as a whole. */
function elementsOf(path: readonly PathStep[], was: unknown, now: unknown): [PathStep, unknown, unknown][] | null {
  if (isFields(was) && isFields(now)) {
    if (isArrayOfData(was) || [...Object.values(was), ...Object.values(now)].some(isArrayOfData)) return null;
    return namesOf(was, now).map((name) => [name, was[name], now[name]]);
  }
  if (!Array.isArray(was) || !Array.isArray(now)) return null;
  if (BY_COMPONENT.has(String(path.at(-1))))
    return was.length === now.length ? now.map((value, i): [PathStep, unknown, unknown] => [i, was[i], value]) : null;
  const key = keyOfLists(was, now);
  if (key === null) return null;
  const [old, next] = [was, now].map((list) => new Map((list as Fields[]).map((one) => [one[key], one])));
  return [...new Set([...old.keys(), ...next.keys()])].map((of) => [{ [key]: of } as Element, old.get(of), next.get(of)]);
}

/** By what the elements of both lists are told apart, such that putting them back one by one gives the same list; null for nothing. */
function keyOfLists(was: readonly unknown[], now: readonly unknown[]): 'id' | 'time' | 'value' | null {
  const all = [...was, ...now];
  if (all.length === 0 || !all.every(isFields)) return null;
  const [old, next] = [was, now] as Fields[][];
  if (all.every((one) => typeof (one as Fields).id === 'string')) {
    const ids = [old, next].map((list) => list.map((one) => one.id as string));
    const [had, has] = ids.map((list) => new Set(list));
    const unique = had.size === old.length && has.size === next.length;
    const kept = [...ids[0].filter((id) => has.has(id)), ...ids[1].filter((id) => !had.has(id))];
    return unique && same(kept, ids[1]) ? 'id' : null;
  }
  for (const key of ['time', 'value'] as const)
    if ([old, next].every((list) => list.every((one, i) => Number.isFinite(one[key]) && (i === 0 || one[key]! > list[i - 1][key]!))))
      return key;
  return null;
}

/**
 * Makes changes on a document, which may be another one than they were made on. A field that is not what the change found, and not what it
 * makes of it, is a clash: it stays as it is, unless `decide` gives it to the change.
 *
 * @param decide Whether the change has its way at a clash; without it none has.
 * @throws {FieldPathError} where a path can't be one of a kit
 */
export function makeChanges(
  kit: Kit,
  changes: readonly FieldChange[],
  decide: (clash: Clash) => boolean = () => false,
): { kit: Kit; clashes: Clash[] } {
  const clashes: Clash[] = [];
  for (const { path } of changes) mustBePath(path);
  const next = produce(kit, (draft) => {
    for (const change of changes) {
      const found = placeOf(draft, change.path);
      const theirs = found === null ? undefined : plain(found.get());
      if (same(theirs, change.now) && (found !== null || change.now === undefined)) continue;
      if (found === null || !same(theirs, change.was)) {
        const clash = { change, theirs, gone: found === null };
        clashes.push(clash);
        if (found === null || !decide(clash)) continue;
      }
      found.set(change.now);
    }
  });
  return { kit: next, clashes };
}

const plain = (value: unknown): unknown => (isDraft(value) ? current(value) : value);

function mustBePath(path: readonly PathStep[]): void {
  const [section] = path;
  const known = section === 'format' || (typeof section === 'string' && Object.hasOwn(SECTIONS, section));
  if (!known || path.length > MOST_STEPS || path.some((step) => typeof step === 'string' && NAMES_OF_OBJECTS.has(step)))
    throw new FieldPathError(path);
}

interface Place {
  get(): unknown;
  /** Undefined takes it out. */
  set(value: unknown): void;
}

/** Where a path leads in a document; null where what it leads through is not there. */
function placeOf(document: unknown, path: readonly PathStep[]): Place | null {
  let at = document;
  for (const step of path.slice(0, -1)) {
    const next = placeIn(at, step)?.get();
    if (next === undefined) return null;
    at = next;
  }
  return placeIn(at, path.at(-1)!);
}

function placeIn(at: unknown, step: PathStep): Place | null {
  if (typeof step === 'object') return Array.isArray(at) ? elementPlace(at as Fields[], step) : null;
  if (typeof step === 'number') return Array.isArray(at) ? componentPlace(at as unknown[], step) : null;
  if (!isFields(at)) return null;
  return {
    get: () => (Object.hasOwn(at, step) ? at[step] : undefined),
    set: (value) => {
      if (value === undefined) delete at[step];
      else at[step] = value;
    },
  };
}

/** Components stay as many as they are. */
function componentPlace(list: unknown[], index: number): Place | null {
  if (!Number.isInteger(index) || index < 0 || index >= list.length) return null;
  return {
    get: () => list[index],
    set: (value) => {
      if (value !== undefined) list[index] = value;
    },
  };
}

function elementPlace(list: Fields[], element: Element): Place {
  const [[key, of]] = Object.entries(element) as [string, string | number][];
  const indexOf = () => list.findIndex((one) => isFields(one) && one[key] === of);
  return {
    get: () => list[indexOf()],
    set: (value) => {
      const index = indexOf();
      if (value === undefined) list.splice(index, index < 0 ? 0 : 1);
      else if (index >= 0) list[index] = value as Fields;
      else {
        const after = key === 'id' ? -1 : list.findIndex((one) => (one[key] as number) > (of as number));
        list.splice(after < 0 ? list.length : after, 0, value as Fields);
      }
    },
  };
}
