import type { DutyLine } from '../document';
import { leverKey } from '../formula';
import type { Variable } from '../rulebook';
import { lineAt, type Duty } from './duties';
import type { Lever } from './lever';

/** An order and what it moves, by `leverKey`. */
export interface Order {
  key: string;
  variable: Variable;
  index: number | null;
  moves: NonNullable<Variable['moves']>;
  /** What says where it stands. */
  position: { key: string; variable: Variable; index: number | null };
}

/** What an order of a platform moves, of a variable with an index the one of the same; null where it moves nothing. */
export function orderOf(variables: readonly Variable[], name: string, index: number | null): Order | null {
  const variable = variables.find((one) => one.name === name);
  const to = variable?.position === undefined ? undefined : variables.find((one) => one.name === variable.position);
  if (!variable?.moves || !to) return null;
  const own = to.indices === 0 ? null : (index ?? 0);
  return {
    key: leverKey(name, index),
    variable,
    index,
    moves: variable.moves,
    position: { key: leverKey(to.name, own), variable: to, index: own },
  };
}

/** The orders that move what levers stand for. */
export function ordersOf(levers: readonly Lever[], variables: readonly Variable[]): Order[] {
  return levers.flatMap((lever) =>
    variables
      .filter(({ moves, position }) => moves && position === lever.variable.name)
      .map(({ name, indices }) => orderOf(variables, name, indices === 0 ? null : (lever.index ?? 0))!),
  );
}

/** Where a value of an order is, in the range of what it moves: ends to ends. */
const placeFor = (value: number, { variable: from, position: { variable: to } }: Order): number =>
  to.min + ((value - from.min) / (from.max - from.min)) * (to.max - to.min);

/**
 * Where what an order moves stands a little later.
 *
 * @param at Where it stands, in its unit
 * @param order What is asked for all the while
 */
export function followed(order: Order, at: number, asked: number, seconds: number): number {
  const { how, perSecond } = order.moves;
  const { min, max } = order.position.variable;
  if (how === 'to') {
    const way = Math.min(max, Math.max(min, placeFor(asked, order))) - at;
    return at + Math.sign(way) * Math.min(Math.abs(way), perSecond * seconds);
  }
  const next = at + asked * perSecond * seconds;
  if (how === 'at') return Math.min(max, Math.max(min, next));
  return min + ((((next - min) % (max - min)) + (max - min)) % (max - min));
}

/**
 * Levers a little later: what orders move has gone on. The same object where nothing has.
 *
 * @param levers By `leverKey`, orders among them; one that is not there asks for nothing
 */
export function followOrders(levers: Record<string, number>, orders: readonly Order[], seconds: number): Record<string, number> {
  let out = levers;
  for (const order of orders) {
    const { key, position } = order;
    const asked = levers[key];
    if (asked === undefined) continue;
    const at = levers[position.key] ?? position.variable.neutral;
    const next = followed(order, at, asked, seconds);
    if (Math.abs(next - at) < 1e-12) continue;
    if (out === levers) out = { ...levers };
    out[position.key] = next;
  }
  return out;
}

/** Levers with some of them set by hand: orders that would move these on again are let go. */
export function setByHand(
  levers: Readonly<Record<string, number>>,
  set: Readonly<Record<string, number>>,
  orders: readonly Order[],
): Record<string, number> {
  const out = { ...levers, ...set };
  for (const { key, position } of orders) if (position.key in set && !(key in set)) delete out[key];
  return out;
}

/** Seconds of a step; what is asked for is taken from its middle, so that an order that rises evenly is followed exactly. */
const STEP = 1 / 60;
/** How early before it begins again a round ends, seconds. */
const BLINK = 1e-6;

/**
 * A duty with lines for what its orders move, worked out step by step at the platform’s rates. What has a line of its own
 * keeps that; of two orders that move one thing the first counts.
 *
 * @returns The same duty where none of its lines is an order.
 */
export function withOrdersFollowed(duty: Duty, variables: readonly Variable[]): Duty {
  const own = new Set(duty.lines.map(({ variable, index }) => leverKey(variable, index)));
  const more = duty.lines.flatMap((line): DutyLine[] => {
    const order = orderOf(variables, line.variable, line.index);
    if (!order || own.has(order.position.key)) return [];
    own.add(order.position.key);
    const { variable, index } = order.position;
    return [{ variable: variable.name, index, points: followLine(order, line, duty.seconds) }];
  });
  return more.length === 0 ? duty : { ...duty, lines: [...duty.lines, ...more] };
}

/** The points that what an order moves goes through; those on a straight line between others are left out. */
function followLine(order: Order, line: DutyLine, seconds: number): DutyLine['points'] {
  const { min, max, neutral } = order.position.variable;
  const points = [{ time: 0, value: neutral }];
  const put = (time: number, value: number) => {
    const [a, b] = [points.at(-2), points.at(-1)!];
    const straight = a && Math.abs(a.value + ((b.value - a.value) / (b.time - a.time)) * (time - a.time) - value) < 1e-9;
    if (straight) Object.assign(b, { time, value });
    else points.push({ time, value });
  };
  const steps = Math.ceil(seconds / STEP - 1e-9);
  let at = neutral;
  for (let i = 0; i < steps; i++) {
    const [from, to] = [i * STEP, Math.min(seconds, (i + 1) * STEP)];
    const asked = lineAt(line, (from + to) / 2);
    const next = followed(order, at, asked, to - from);
    const way = asked * order.moves.perSecond * (to - from);
    if (order.moves.how === 'round' && Math.abs(next - at - way) > 1e-6) {
      // Once round within this step: up to the end of the range, and on from its other one.
      const [end, start] = way > 0 ? [max, min] : [min, max];
      const when = from + ((end - at) / way) * (to - from);
      put(Math.max(when - BLINK, from + BLINK / 2), end);
      points.push({ time: Math.max(when, from + BLINK), value: start });
      if (to > when + BLINK) put(to, next);
    } else put(to, next);
    at = next;
  }
  return points;
}
