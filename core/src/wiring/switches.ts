import Joi from 'joi';
import {
  countSchema,
  defineOperation,
  idSchema,
  KitError,
  newId,
  partOf,
  switchSchema,
  type Id,
  type Kit,
  type Span,
  type Switch,
} from '../document';

/** A switch that is not in the kit any more, or an edge that can’t go where it was to go. */
export class SwitchError extends KitError {
  constructor(message: string, where: string | null = null) {
    super('switch', message, where);
  }
}

/** Whether a value is within a span: from it on, up to where it ends and not that itself. */
const within = ({ from, to }: Span, value: number): boolean => (from === null || value >= from) && (to === null || value < to);

/** Whether a switch shows its part at a value of its variable. */
export const isShown = ({ spans }: Pick<Switch, 'spans'>, value: number): boolean => spans.some((span) => within(span, value));

/** A stretch of values at which parts that stand for one another are not shown once: none of them, or more than one. */
export interface CoverFault {
  from: number;
  to: number;
  /** Whether `to` is one of them: at the end of the range alone. */
  withEnd: boolean;
  /** By their places in the list; none where there is a gap. */
  shown: number[];
}

/** The pieces into which the ends of all spans cut a range; the last is its end alone, which nothing cuts. */
function piecesOf(list: readonly Pick<Switch, 'spans'>[], min: number, max: number): [from: number, to: number][] {
  const ends = list.flatMap(({ spans }) => spans.flatMap(({ from, to }) => [from, to]));
  const inside = ends.filter((value): value is number => value !== null && value > min && value < max);
  const cuts = [...new Set([min, ...inside, max])].sort((a, b) => a - b);
  return cuts.map((from, i) => [from, cuts[i + 1] ?? from]);
}

/**
 * Where parts that stand for one another leave a gap over a range of values, or are shown over one another: spans are cut at all of their
 * ends, and each piece is shown once or not (interval arithmetic, exact). The end of the range counts.
 */
export function coverFaults(list: readonly Pick<Switch, 'spans'>[], min: number, max: number): CoverFault[] {
  const out: CoverFault[] = [];
  for (const [from, to] of piecesOf(list, min, max)) {
    const shown = list.flatMap((one, i) => (isShown(one, from) ? [i] : []));
    if (shown.length === 1) continue;
    const last = out.at(-1);
    const withEnd = from === to;
    if (last && last.to === from && String(last.shown) === String(shown)) Object.assign(last, { to, withEnd });
    else out.push({ from, to, withEnd, shown });
  }
  return out;
}

/** Spans beside one another become one; what begins with the range, or has its end, goes on beyond it. */
function joined(pieces: readonly [number, number][], min: number): Span[] {
  const out: Span[] = [];
  for (const [from, to] of pieces) {
    const last = out.at(-1);
    const end = from === to ? null : to;
    if (last && last.to === from) last.to = end;
    else if (!last || last.to !== null) out.push({ from: from <= min ? null : from, to: end });
  }
  return out;
}

/**
 * Spans under which each value of a range is shown once, changing only those at which it is not: a gap goes to the part that is shown just
 * before it (at the very start: after it), of several the one that is shown before stays, else the first.
 *
 * @returns The spans of each, in the order of the list.
 */
export function closeCover(list: readonly Pick<Switch, 'spans'>[], min: number, max: number): Span[][] {
  const pieces = piecesOf(list, min, max);
  const shown = pieces.map(([from]) => list.flatMap((one, i) => (isShown(one, from) ? [i] : [])));
  const first = shown.find((one) => one.length > 0)?.[0] ?? 0;
  const owner: number[] = [];
  shown.forEach((own, i) => {
    const before = owner[i - 1] ?? first;
    owner.push(own.length === 0 || own.includes(before) ? before : own[0]);
  });
  return list.map((_, i) =>
    joined(
      pieces.filter((__, p) => owner[p] === i),
      min,
    ),
  );
}

/** Switches whose parts stand for one another, by what they are called and what moves them. */
export function switchGroups(kit: Pick<Kit, 'switches'>): Switch[][] {
  const groups = new Map<string, Switch[]>();
  for (const one of kit.switches ?? []) {
    if (one.among === '') continue;
    const key = JSON.stringify([one.among, one.variable, one.index]);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()];
}

/** @throws {SwitchError} */
function switchOf(kit: Kit, id: Id): Switch {
  const found = kit.switches?.find((one) => one.id === id);
  if (!found) throw new SwitchError('That switch is no longer in the kit. Choose another part.', id);
  return found;
}

const spansSchema = switchSchema.extract('spans');

/** Spans in order, those that meet or lie over one another as one. @throws {SwitchError} where one is nothing */
function tidy(spans: readonly Span[]): Span[] {
  for (const { from, to } of spans)
    if (from !== null && to !== null && !(from < to)) throw new SwitchError(`From ${from} to ${to} is nothing. Let it end further up.`);
  const sorted = [...spans].sort((a, b) => (a.from ?? -Infinity) - (b.from ?? -Infinity));
  const out: Span[] = [];
  for (const span of sorted) {
    const last = out.at(-1);
    if (last && (last.to === null || (span.from ?? -Infinity) <= last.to))
      last.to = last.to === null || span.to === null ? null : Math.max(last.to, span.to);
    else out.push({ ...span });
  }
  return out;
}

/** Shows a part within spans of a variable and hides it elsewhere; what it was switched by before is given up. */
export const setSwitch = defineOperation<{ part: Id; variable: string; index: number | null; spans: Span[]; among: string; id?: Id }>({
  id: 'wiring.set-switch',
  title: (kit, { part, variable }) => `Show “${kit.parts[part]?.name}” by ${variable}`,
  args: Joi.object({
    id: idSchema,
    part: idSchema.required(),
    variable: Joi.string().min(1).max(120).required(),
    index: countSchema.allow(null).required(),
    spans: spansSchema.required(),
    among: Joi.string().allow('').max(120).required(),
  }),
  change(kit, { id, spans, ...said }) {
    partOf(kit, said.part);
    const before = kit.switches?.find(({ part }) => part === said.part);
    const made: Switch = { id: before?.id ?? id ?? newId(), ...said, spans: tidy(spans) };
    kit.switches = before ? kit.switches!.map((one) => (one === before ? made : one)) : [...(kit.switches ?? []), made];
  },
});

/** Spans of several switches at once. */
export const setSpans = defineOperation<{ switches: Record<Id, Span[]> }>({
  id: 'wiring.set-spans',
  title: (kit, { switches }) =>
    `Show ${Object.keys(switches)
      .map((id) => `“${kit.parts[kit.switches?.find((one) => one.id === id)?.part ?? '']?.name}”`)
      .join(', ')} at other values`,
  args: Joi.object({ switches: Joi.object().pattern(idSchema, spansSchema).min(1).required() }),
  change(kit, { switches }) {
    for (const [id, spans] of Object.entries(switches)) switchOf(kit, id).spans = tidy(spans);
  },
});

/** Parts are shown always again. */
export const removeSwitches = defineOperation<{ switches: Id[] }>({
  id: 'wiring.remove-switches',
  title: (_, { switches }) => `Show ${switches.length === 1 ? 'a part' : `${switches.length} parts`} always`,
  args: Joi.object({ switches: Joi.array().items(idSchema).min(1).required() }),
  change(kit, { switches }) {
    for (const id of switches) switchOf(kit, id);
    const left = kit.switches!.filter(({ id }) => !switches.includes(id));
    if (left.length > 0) kit.switches = left;
    else delete kit.switches;
  },
});

/** Moves the edge at a value, of all given switches that have one there, to another value. @throws {SwitchError} beyond a neighbour */
export const moveEdge = defineOperation<{ switches: Id[]; at: number; to: number }>({
  id: 'wiring.move-edge',
  title: (_, { at, to }) => `Move the edge at ${at} to ${to}`,
  args: Joi.object({
    switches: Joi.array().items(idSchema).min(1).required(),
    at: Joi.number().required(),
    to: Joi.number().required(),
  }),
  change(kit, { switches, at, to }) {
    for (const id of switches) {
      const one = switchOf(kit, id);
      for (const span of one.spans) {
        if (span.from === at) span.from = to;
        if (span.to === at) span.to = to;
      }
      const { spans } = one;
      spans.forEach(({ from, to: end }, i) => {
        const before = spans[i - 1]?.to ?? -Infinity;
        if ((from !== null && end !== null && from >= end) || (i > 0 && (from ?? -Infinity) <= before))
          throw new SwitchError(`At ${to} the edge would pass the next one. Move that first, or take a span away.`);
      });
    }
  },
});
