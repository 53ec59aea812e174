import { KitError, type BindingRow, type Id, type Kit, type Link, type LinkKind, type Vec3 } from '../document';
import { largestStretch, pointBefore, transformPoint, type Mat4 } from '../geometry';
import { neutralFirst, neutralRow } from './binding-operations';
import {
  angleAbout,
  armAbout,
  axisOf,
  bendOf,
  contactOf,
  endOf,
  LinkStand,
  meetingOf,
  originOf,
  rolledBetween,
  type LinkFrames,
} from './link-frames';

/** How near to one another ends that meet stay, metres; half of it is each one's. */
export const LINK_METRES = 0.0002;
/** What a link may be off as its tables are posed: the same, and what rounding adds. */
export const LINK_GAP = 1.01 * LINK_METRES;
/** How near to the true turn a table stays, degrees. */
export const LINK_DEGREES = 0.05;

/** Values over the range at which a link is worked out before its tables are thinned. */
const SAMPLES = 240;
/** How often a step between two of them is halved where the way bends much: at the end of the reach it bends without end. */
const HALVINGS = 16;
const DEGREES = 180 / Math.PI;
/** Axes that are to be parallel may be this far from it, as the sine. */
const PARALLEL = 1e-3;
/** Turns do not change by more from one value to the next, degrees. */
const LEAP = 60;
/** Turns below this are none, degrees. */
const STILL = 1e-6;

/** Parts that can't be linked, and why. */
export class LinkError extends KitError {}

/** What a link comes to. */
export interface SolvedLink {
  /** Of each part: rows of its table, neutral first. */
  rows: BindingRow[][];
  /** Values between which it could be worked out: the link’s own range, or less where its parts no longer reach. */
  from: number;
  to: number;
}

/** A value with the turns there, degrees from rest. */
interface Solved {
  value: number;
  turns: number[];
}

/** Works out turns at values one after the other, away from neutral; null where its parts no longer reach one another. */
type Follow = (value: number, before: Solved) => Solved | null;

const flat = (kit: Kit, id: Id): never => {
  const { name } = kit.parts[id];
  throw new LinkError('link-flat', `What carries “${name}” has no size along one of its axes. Give it one first.`, name);
};

/** A frame’s point, or an error that says whose frame has no room for it. */
const within = (kit: Kit, link: Link, frames: readonly Mat4[], i: number, point: Vec3): Vec3 =>
  pointBefore(frames[i], point) ?? flat(kit, link.parts[i]);

function mustBeParallel(kit: Kit, { parts, axes }: Link, frames: readonly Mat4[]): void {
  const [a, b] = axes.map((axis, i) => axisOf(frames[i], axis));
  const sine = Math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
  if (sine <= PARALLEL) return;
  const [first, second] = parts.map((id) => kit.parts[id].name);
  const degrees = Math.asin(Math.min(1, sine)) * DEGREES;
  throw new LinkError(
    'link-askew',
    `“${first}” and “${second}” turn about axes that stand ${degrees.toFixed(1)}° to one another. Choose axes that lie alike, or set their hinges in Shape.`,
    first,
  );
}

/** Two links that turn about one line fold no way. */
function mustFold(kit: Kit, link: Link, frames: readonly Mat4[]): void {
  const { parts, axes } = link;
  if (armAbout(axes[0], within(kit, link, frames, 0, originOf(frames[1]))) * largestStretch(frames[0]) > LINK_METRES) return;
  const [first, second] = parts.map((id) => kit.parts[id].name);
  throw new LinkError(
    'link-one-line',
    `“${first}” and “${second}” turn about one and the same line at rest: nothing says which way they fold. Set the pivot of each to its own hinge in Shape.`,
    first,
  );
}

/** The same turn, as near to the one before as whole rounds allow. */
const nearest = (degrees: number, before: number) => degrees + 360 * Math.round((before - degrees) / 360);

function followMeeting(kit: Kit, link: Link, stand: LinkStand): { follow: Follow; arms: number[] } {
  const { frames } = stand.at(link.neutral);
  mustBeParallel(kit, link, frames);
  const end = endOf(kit, link);
  const joint = transformPoint(frames[0], end);
  const ends = [end, within(kit, link, frames, 1, joint)];
  const arms = ends.map((one, i) => largestStretch(frames[i]) * armAbout(link.axes[i], one));
  arms.forEach((arm, i) => {
    const { name } = kit.parts[link.parts[i]];
    if (arm < LINK_METRES)
      throw new LinkError(
        'link-short',
        `The ends would meet on the line that “${name}” turns about. Say another place where they meet.`,
        name,
      );
  });
  mustFold(kit, link, frames);
  const bend = bendOf(frames, link.axes[0], joint);
  const follow: Follow = (value, before) => {
    const now = stand.at(value).frames;
    const met = meetingOf(now, link.axes[0], ends, bend);
    if (!met) return null;
    const turns = ends.map((from, i) => {
      const turn = angleAbout(link.axes[i], from, within(kit, link, now, i, met)) * DEGREES;
      return nearest(turn, before.turns[i]);
    });
    // Where both pivots come to stand at one place the links would leap over to another side.
    return turns.some((turn, i) => Math.abs(turn - before.turns[i]) > LEAP) ? null : { value, turns };
  };
  return { follow, arms };
}

function followAim(kit: Kit, link: Link, stand: LinkStand): { follow: Follow; arms: number[] } {
  const { frames } = stand.at(link.neutral);
  mustBeParallel(kit, link, frames);
  const seen = (now: readonly Mat4[], i: number) => within(kit, link, now, i, originOf(now[1 - i]));
  const rest = [seen(frames, 0), seen(frames, 1)];
  const arms = rest.map((one, i) => largestStretch(frames[i]) * armAbout(link.axes[i], one));
  if (Math.min(...arms) < LINK_METRES) {
    const [first, second] = link.parts.map((id) => kit.parts[id].name);
    throw new LinkError(
      'link-short',
      `“${first}” and “${second}” turn about one line: there is nowhere to aim. Move a pivot in Shape.`,
      first,
    );
  }
  const follow: Follow = (value, before) => {
    const now = stand.at(value).frames;
    const turns = rest.map((from, i) => nearest(angleAbout(link.axes[i], from, seen(now, i)) * DEGREES, before.turns[i]));
    return { value, turns };
  };
  return { follow, arms };
}

function followRoll(kit: Kit, link: Link, stand: LinkStand): { follow: Follow; arms: number[] } {
  const rest = stand.at(link.neutral);
  const [axis] = link.axes;
  const touches = endOf(kit, link);
  const radius = largestStretch(rest.frames[0]) * armAbout(axis, touches);
  const contact = contactOf(rest, axis, touches);
  if (radius < LINK_METRES) {
    const { name } = kit.parts[link.parts[0]];
    throw new LinkError('link-short', `“${name}” would touch on its own axle. Say a radius.`, name);
  }
  let last: { value: number; frames: LinkFrames } | null = null;
  const follow: Follow = (value, before) => {
    // Each step goes on from the one before; away from neutral twice, so that the first one is found again.
    const start = last?.value === before.value ? last.frames : stand.at(before.value);
    const frames = stand.at(value);
    last = { value, frames };
    const { way, turned } = rolledBetween(start, frames, axis, contact);
    return { value, turns: [before.turns[0] + (way / radius - turned) * DEGREES] };
  };
  return { follow, arms: [radius] };
}

const FOLLOWED = { meet: followMeeting, aim: followAim, roll: followRoll } as const satisfies Record<LinkKind, unknown>;

/** The last value that is reached between one that is and one that is not, to a thousandth of a millionth of the way. */
function lastReached(follow: Follow, reached: Solved, lost: number): Solved {
  let best = reached;
  let beyond = lost;
  for (let i = 0; i < 30; i++) {
    const middle = follow((best.value + beyond) / 2, best);
    if (middle) best = middle;
    else beyond = (best.value + beyond) / 2;
  }
  return best;
}

/** Follows a link from neutral towards one end of its range. */
function followTo(follow: Follow, rest: Solved, values: readonly number[]): Solved[] {
  const found = [rest];
  for (const value of values) {
    const before = found[found.length - 1];
    const next = follow(value, before);
    if (next) found.push(next);
    else {
      const end = lastReached(follow, before, value);
      if (end !== before) found.push(end);
      return found;
    }
  }
  return found;
}

/** The part that is furthest off where one value lies between two others straight, as a share of its limit. */
function offStraight(from: Solved, to: Solved, one: Solved, limits: readonly number[]): number {
  const u = (one.value - from.value) / (to.value - from.value);
  return Math.max(...limits.map((limit, part) => Math.abs(one.turns[part] - mix(from.turns[part], to.turns[part], u)) / limit));
}

const mix = (a: number, b: number, u: number) => a + (b - a) * u;

/** A share of the limit by which the middle of a step may be off before it is halved. */
const BENT = 0.1;

/** What was worked out, with values between where it bends too much to be straight from one to the next. */
function refined(follow: Follow, found: readonly Solved[], limits: readonly number[]): Solved[] {
  const between = (from: Solved, to: Solved, depth: number): Solved[] => {
    const middle = depth === 0 ? null : follow((from.value + to.value) / 2, from);
    if (!middle || offStraight(from, to, middle, limits) < BENT) return [];
    return [...between(from, middle, depth - 1), middle, ...between(middle, to, depth - 1)];
  };
  return found.flatMap((one, i) => (i === 0 ? [one] : [...between(found[i - 1], one, HALVINGS), one]));
}

/** Keeps of what was worked out as few values as give all the others, straight between, within the tolerance. */
function thinned(found: readonly Solved[], keep: ReadonlySet<number>, limits: readonly number[]): Solved[] {
  const kept: Solved[] = [];
  /** Between two that are kept: the one that is furthest off goes in, as long as it is off too far. */
  const between = (from: number, to: number): void => {
    let worst = -1;
    let most = 1;
    for (let i = from + 1; i < to; i++) {
      const off = offStraight(found[from], found[to], found[i], limits);
      if (off > most) [worst, most] = [i, off];
    }
    if (worst < 0) return;
    between(from, worst);
    kept.push(found[worst]);
    between(worst, to);
  };
  const knots = found.flatMap(({ value }, i) => (i === 0 || i === found.length - 1 || keep.has(value) ? [i] : []));
  knots.forEach((at, k) => {
    if (k > 0) between(knots[k - 1], at);
    kept.push(found[at]);
  });
  return kept;
}

/**
 * Works out how the parts of a link have to turn over the range of its variable, from rest at neutral outward, and thins that to tables:
 * no end that meets is further than 0.1 mm from its place, no turn further than 0.05° from the true one.
 *
 * @throws {LinkError} where axes stand askew, an end lies on its own axis, or nothing turns
 */
export function solveLink(kit: Kit, link: Link): SolvedLink {
  const stand = new LinkStand(kit, link);
  const { follow, arms } = FOLLOWED[link.kind](kit, link, stand);
  const { min, max, neutral } = link;
  const even = Array.from({ length: SAMPLES + 1 }, (_, i) => min + ((max - min) * i) / SAMPLES);
  const values = [...new Set([...even, ...stand.stations])].sort((a, b) => a - b);
  const rest: Solved = { value: neutral, turns: arms.map(() => 0) };
  const up = followTo(
    follow,
    rest,
    values.filter((value) => value > neutral),
  );
  const down = followTo(follow, rest, values.filter((value) => value < neutral).reverse());
  const limits = arms.map((arm) => Math.min(LINK_DEGREES, (LINK_METRES / 2 / arm) * DEGREES));
  const found = [...refined(follow, down, limits).slice(1).reverse(), ...refined(follow, up, limits)];
  if (found.every(({ turns }) => turns.every((turn) => Math.abs(turn) < STILL))) {
    const { name } = kit.parts[link.parts[0]];
    throw new LinkError(
      'link-still',
      `Nothing that ${link.variable} moves changes how “${name}” has to turn. Bind what carries it to ${link.variable} first.`,
      name,
    );
  }
  const kept = thinned(found, new Set([neutral, ...stand.stations]), limits);
  const rows = arms.map((_, part) =>
    neutralFirst(
      kept.map(({ value, turns }): BindingRow => {
        const row = neutralRow(value);
        row.turn[link.axes[part]] = Number(turns[part].toPrecision(12)) + 0;
        return row;
      }),
      neutral,
    ),
  );
  return { rows, from: found[0].value, to: found[found.length - 1].value };
}
