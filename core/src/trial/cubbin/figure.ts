import { clipsInOrder, type Clip, type Id, type Kit } from '../../document';
import { cuesBetween } from '../../motion';
import type { Rulebook } from '../../rulebook';
import type { LoadedPackage } from '../../ship';
import { levers } from '../levers';
import { REST, type PoseSource } from '../pose-kit';

/** What a figure does with its legs. */
export const GAITS = ['stands', 'walks', 'sits'] as const;
export type Gait = (typeof GAITS)[number];

/** The clip that a gait plays, by name; where there is none, that of standing. */
const CLIP_OF: Readonly<Record<Gait, string>> = { stands: 'stand', walks: 'walk', sits: 'sit' };

/** How fast a head turns, degrees a second. */
export const HEAD_SPEED = 240;
/** How fast a body turns after it, degrees a second. */
export const BODY_SPEED = 150;
/** A body that stands lets its head look as far aside, degrees, before it turns after it. */
export const HEAD_ALONE = 50;
/** It turns until it looks ahead but for this, degrees. */
const AHEAD = 1;
/** How fast a figure walks, metres a second. */
export const WALK_SPEED = 1;
/** No step is longer, seconds. */
const STEP = 1 / 60;
/** Cues that are kept. */
const KEPT = 12;

/** What of a package the world of cubes goes by. */
export interface FigureFacts {
  /** What it stands by. */
  root: Id | null;
  clips: Readonly<Record<Gait, Clip | null>>;
  /** How far the head may be turned, degrees; null where nothing of the package follows. */
  turn: readonly [min: number, max: number] | null;
  nod: readonly [min: number, max: number] | null;
}

/** What a figure is asked to do. */
export interface FigureWish {
  /** Where it looks, degrees: aside counter-clockwise seen from above, as the world counts; and up. */
  gaze: readonly [aside: number, up: number];
  gait: Gait;
}

export interface HeardCue {
  /** Seconds since the trial began. */
  at: number;
  kind: string;
  name: string;
  clip: string;
}

/** A figure at a moment. */
export interface Figure {
  seconds: number;
  /** Where its body faces, degrees counter-clockwise seen from above, and where it stands, metres. */
  facing: number;
  place: readonly [x: number, z: number];
  /** Whether its body is turning after its head. */
  following: boolean;
  /** How its head is turned in its body, degrees. */
  turn: number;
  nod: number;
  /** What it plays, and since when, seconds. */
  clip: Id | null;
  time: number;
  /** A clip that is played once in place of its gait’s. */
  once: Id | null;
  /** The last cues that came, the newest last. */
  heard: readonly HeardCue[];
}

/** A figure that has just been put down. */
export const NEW_FIGURE: Figure = {
  seconds: 0,
  facing: 0,
  place: [0, 0],
  following: false,
  turn: 0,
  nod: 0,
  clip: null,
  time: 0,
  once: null,
  heard: [],
};

/** Clips that a figure can be asked to play: those that do not run along by themselves. */
export const clipsToAsk = (kit: Kit): Clip[] => clipsInOrder(kit).filter(({ overlay }) => !overlay);

/** What the world of cubes finds in a package. */
export function figureFacts(loaded: LoadedPackage, rulebook: Rulebook): FigureFacts {
  const { kit } = loaded;
  const driven = levers(loaded, rulebook);
  const rangeOf = (name: string) => {
    const lever = driven.find(({ variable, bindings }) => variable.name === name && bindings.length > 0);
    return lever ? ([lever.variable.min, lever.variable.max] as const) : null;
  };
  const named = (name: string) => clipsToAsk(kit).find((clip) => clip.name === name) ?? null;
  const stand = named(CLIP_OF.stands);
  return {
    root: Object.values(kit.parts).find(({ parent }) => parent === null)?.id ?? null,
    clips: { stands: stand, walks: named(CLIP_OF.walks) ?? stand, sits: named(CLIP_OF.sits) ?? stand },
    turn: rangeOf('look_turn'),
    nod: rangeOf('look_nod'),
  };
}

/** An angle as −180 to 180. */
export const aboutNothing = (degrees: number): number => degrees - 360 * Math.round(degrees / 360);

const toward = (from: number, to: number, most: number): number => from + Math.max(-most, Math.min(most, to - from));

const within = (value: number, range: readonly [number, number] | null): number =>
  range ? Math.max(range[0], Math.min(range[1], value)) : 0;

/** Where the body faces after a step, and whether it goes on turning. */
function turnBody(
  { facing, following }: Figure,
  { gaze, gait }: FigureWish,
  alone: number,
  dt: number,
): Pick<Figure, 'facing' | 'following'> {
  if (gait === 'sits') return { facing, following: false };
  const off = aboutNothing(gaze[0] - facing);
  const follows = Math.abs(off) > AHEAD && (following || gait === 'walks' || Math.abs(off) > alone);
  return follows ? { facing: aboutNothing(facing + toward(0, off, BODY_SPEED * dt)), following: true } : { facing, following: false };
}

/** The clip after a step, with the cues that came in it. */
function playOn(kit: Kit, facts: FigureFacts, figure: Figure, gait: Gait, dt: number): Pick<Figure, 'clip' | 'time' | 'once' | 'heard'> {
  const asked = figure.once === null ? undefined : kit.clips[figure.once];
  const wanted = asked ?? facts.clips[gait];
  if (!wanted) return { clip: null, time: 0, once: null, heard: figure.heard };
  const goesOn = figure.clip === wanted.id;
  const before = goesOn ? figure.time : 0;
  let time = before + dt;
  let { once } = figure;
  const ends = time >= wanted.lengthSeconds;
  if (ends && asked) once = null;
  else if (ends && wanted.loop === 'loop') time %= wanted.lengthSeconds;
  // What comes at the very start of a clip comes as it begins.
  const cues = cuesBetween(wanted, goesOn ? before : -dt, time);
  const heard = cues.map(({ kind, name }): HeardCue => ({ at: figure.seconds + dt, kind, name, clip: wanted.name }));
  return { clip: wanted.id, time, once, heard: heard.length > 0 ? [...figure.heard, ...heard].slice(-KEPT) : figure.heard };
}

function step(kit: Kit, facts: FigureFacts, figure: Figure, wish: FigureWish, dt: number): Figure {
  // A head that nothing turns looks where its body does: that turns at once.
  const body = turnBody(figure, wish, facts.turn ? HEAD_ALONE : AHEAD, dt);
  const turn = toward(figure.turn, within(aboutNothing(wish.gaze[0] - body.facing), facts.turn), HEAD_SPEED * dt);
  const nod = toward(figure.nod, within(wish.gaze[1], facts.nod), HEAD_SPEED * dt);
  const way = (body.facing * Math.PI) / 180;
  const goes = wish.gait === 'walks' ? WALK_SPEED * dt : 0;
  const place = [figure.place[0] + goes * Math.sin(way), figure.place[1] + goes * Math.cos(way)] as const;
  return { ...figure, ...body, turn, nod, place, ...playOn(kit, facts, figure, wish.gait, dt), seconds: figure.seconds + dt };
}

/**
 * A figure some time later: its head goes to where it is to look, as far as what follows it goes; a body that stands turns after its head
 * where that looks far aside, one that walks goes where it looks, one that sits stays.
 *
 * @param seconds How much later; worked out in steps of a sixtieth
 */
export function playFigure(kit: Kit, facts: FigureFacts, figure: Figure, wish: FigureWish, seconds: number): Figure {
  let now = figure;
  for (let left = seconds; left > 1e-9; left -= STEP) now = step(kit, facts, now, wish, Math.min(STEP, left));
  return now;
}

/** What poses a package’s kit as the figure is. @param quiet Overlays that do not run along */
export function poseOfFigure({ root }: FigureFacts, { facing, place, turn, nod, clip, time }: Figure, quiet: readonly Id[]): PoseSource {
  const stands = root === null || (facing === 0 && place[0] === 0 && place[1] === 0);
  const delta = { offset: [place[0], 0, place[1]] as [number, number, number], turn: [0, facing, 0], size: [1, 1, 1] };
  return {
    ...REST,
    clip,
    time,
    levers: { look_turn: turn, look_nod: nod },
    held: stands ? [] : [{ part: root, delta: delta as PoseSource['held'][number]['delta'] }],
    quiet,
  };
}
