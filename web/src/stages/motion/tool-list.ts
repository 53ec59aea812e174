import {
  bakePose,
  boundsByPart,
  brakeKeys,
  callOf,
  clipsInOrder,
  closeLoop,
  dwell,
  echo,
  EASING_FAMILIES,
  evenOut,
  findTwins,
  fittingName,
  flipKeys,
  insertParent,
  keysToTwin,
  mendSeam,
  newId,
  pinFeet,
  repeatKeys,
  restWorlds,
  returnTrip,
  reverseKeys,
  rolesByName,
  scaleValues,
  settle,
  shiftTracks,
  showParts,
  stretchClip,
  stretchKeys,
  strokeBias,
  subtreeOf,
  sway,
  thinTracks,
  trimTail,
  type Blobs,
  type Call,
  type Clip,
  type EasingFamily,
  type Id,
  type KeyRef,
  type Kit,
  type Rulebook,
} from '@itchkit/core';

/** What a tool of Motion is given to work on. */
export interface ToolContext {
  kit: Kit;
  blobs: Blobs;
  clip: Clip;
  /** The chosen keys, or all of the chosen parts, or all of the clip. */
  keys: KeyRef[];
  /** Chosen parts that are there. */
  parts: Id[];
  /** Seconds, on a frame. */
  time: number;
  rulebook: Rulebook | undefined;
}

export type ToolValue = number | string;
export type ToolField =
  | { kind: 'number'; id: string; label: string; unit?: string; step?: number; min?: number; max?: number; digits?: number; begin: (context: ToolContext) => number }
  | { kind: 'choice'; id: string; label: string; options: readonly (readonly [string, string])[]; begin: string };

export interface MotionTool {
  id: string;
  title: string;
  group: 'In time' | 'Values' | 'Loop' | 'Feel' | 'Across parts' | 'Rest and parts' | 'Fewer keys';
  about: string;
  fields: ToolField[];
  /** What is missing, or null. */
  blocked?: (context: ToolContext) => string | null;
  calls: (context: ToolContext, values: Record<string, ToolValue>) => Call | Call[];
  /** What is done with it, for the button. */
  verb: string;
}

const num = (values: Record<string, ToolValue>, id: string) => Number(values[id]);
const chosen = ({ clip, keys }: ToolContext) => ({ clip: clip.id, keys });
const needsKeys = ({ keys }: ToolContext) => (keys.length === 0 ? 'There are no keys yet' : null);
const needsPart = ({ parts }: ToolContext) => (parts.length === 0 ? 'Choose a part first' : null);
const times = ({ keys }: ToolContext) => keys.map(({ time }) => time);
const spanOf = (context: ToolContext) => [Math.min(...times(context)), Math.max(...times(context))];

/** The twin of every part: of those in the middle they are it themselves. */
export function twinPairs(kit: Kit, blobs: Blobs): Record<Id, Id> {
  const pairs: Record<Id, Id> = Object.fromEntries(Object.keys(kit.parts).map((id) => [id, id]));
  const worlds = restWorlds(kit);
  for (const id of Object.keys(kit.parts)) if (Math.abs(worlds.get(id)![12]) > 1e-3) delete pairs[id];
  for (const { left, right } of findTwins(kit, boundsByPart(kit, blobs))) Object.assign(pairs, { [left]: right, [right]: left });
  return pairs;
}

/** What hangs below a part in one line, the nearest first: down a chain of fins or a tail. */
export function chainBelow(kit: Kit, part: Id): Id[] {
  const out: Id[] = [];
  for (let at = part; ;) {
    const children = Object.values(kit.parts).filter(({ parent }) => parent === at);
    const next = children.length === 1 ? children[0] : children.find((child) => child.role === 'joint' || child.skin === null);
    if (!next || out.length > 100) return out;
    out.push(next.id);
    at = next.id;
  }
}

/** Legs by the names of their joints, upper, lower and foot. */
function legsOf(kit: Kit): [Id, Id, Id][] {
  const roles = rolesByName(kit);
  return (['l', 'r'] as const).flatMap((side) =>
    (
      [
        [`thigh_${side}`, `shin_${side}`, `foot_${side}`],
        [`fore_upper_${side}`, `fore_lower_${side}`, `fore_foot_${side}`],
        [`hind_upper_${side}`, `hind_lower_${side}`, `hind_foot_${side}`],
      ] as const
    ).flatMap((names): [Id, Id, Id][] => {
      const [a, b, c] = names.map((name) => roles[name]);
      return a !== undefined && b !== undefined && c !== undefined && kit.parts[b].parent === a && kit.parts[c].parent === b ? [[a, b, c]] : [];
    }),
  );
}

const chainOf = ({ kit, parts }: ToolContext) => (parts.length > 1 ? parts.slice(1) : parts.length === 1 ? chainBelow(kit, parts[0]) : []);
const shownAs = (rulebook: Rulebook | undefined) => (rulebook?.motion?.tracks && !rulebook.motion.tracks.includes('shown') ? 'size' : 'shown') as 'size' | 'shown';

export const MOTION_TOOLS: MotionTool[] = [
  {
    id: 'reverse',
    title: 'Reverse',
    group: 'In time',
    about: 'The keys in the opposite order, within the time they take.',
    verb: 'Reverse',
    fields: [],
    blocked: needsKeys,
    calls: (context) => callOf(reverseKeys, chosen(context)),
  },
  {
    id: 'return',
    title: 'Return trip',
    group: 'In time',
    about: 'The keys once more, backwards, so that it ends where it began.',
    verb: 'Go there and back',
    fields: [],
    blocked: needsKeys,
    calls: (context) => callOf(returnTrip, chosen(context)),
  },
  {
    id: 'even',
    title: 'Even out',
    group: 'In time',
    about: 'Keys spaced evenly between the first and the last.',
    verb: 'Even out',
    fields: [
      {
        kind: 'choice',
        id: 'by',
        label: 'So that',
        begin: 'time',
        options: [
          ['time', 'times are equal'],
          ['speed', 'the speed along the path is'],
        ],
      },
    ],
    blocked: needsKeys,
    calls: (context, { by }) => callOf(evenOut, { ...chosen(context), by: by as 'time' | 'speed' }),
  },
  {
    id: 'dwell',
    title: 'Dwell',
    group: 'In time',
    about: 'Everything stands still at the time you are at; what comes later is put off.',
    verb: 'Dwell here',
    fields: [{ kind: 'number', id: 'seconds', label: 'For', unit: 's', step: 0.1, min: 0.01, max: 3600, begin: () => 1 }],
    calls: ({ clip, time }, values) => callOf(dwell, { clip: clip.id, time, seconds: num(values, 'seconds') }),
  },
  {
    id: 'repeat',
    title: 'Repeat',
    group: 'In time',
    about: 'The keys again, so many times more.',
    verb: 'Repeat',
    fields: [
      { kind: 'number', id: 'times', label: 'Times', step: 1, min: 1, max: 1000, digits: 0, begin: () => 1 },
      { kind: 'number', id: 'gap', label: 'Between', unit: 's', step: 0.1, min: 0, max: 3600, begin: () => 0 },
    ],
    blocked: needsKeys,
    calls: (context, values) => callOf(repeatKeys, { ...chosen(context), times: Math.round(num(values, 'times')), gapSeconds: num(values, 'gap') }),
  },
  {
    id: 'shift',
    title: 'Offset in time',
    group: 'In time',
    about: 'The tracks play later, or earlier where it is negative. In a loop what leaves at the end comes in at the beginning.',
    verb: 'Offset',
    fields: [{ kind: 'number', id: 'by', label: 'By', unit: 's', step: 0.1, min: -3600, max: 3600, begin: ({ clip }) => Number((clip.lengthSeconds / 4).toFixed(3)) }],
    blocked: needsKeys,
    calls: ({ clip, keys }, values) => callOf(shiftTracks, { clip: clip.id, tracks: [...new Set(keys.map(({ track }) => track))], bySeconds: num(values, 'by'), wrap: clip.loop === 'loop' }),
  },
  {
    id: 'stretch',
    title: 'Stretch keys',
    group: 'In time',
    about: 'Keys further from a time, or nearer to it; values stay.',
    verb: 'Stretch',
    fields: [
      { kind: 'number', id: 'share', label: 'To', unit: '%', step: 10, min: 1, max: 100000, begin: () => 150 },
      { kind: 'number', id: 'about', label: 'About', unit: 's', step: 0.1, min: 0, begin: (context) => Number(spanOf(context)[0].toFixed(4)) },
    ],
    blocked: needsKeys,
    calls: (context, values) => callOf(stretchKeys, { ...chosen(context), about: num(values, 'about'), factor: num(values, 'share') / 100 }),
  },
  {
    id: 'stretch-clip',
    title: 'Stretch the clip',
    group: 'In time',
    about: 'The whole clip to a length, with its keys, cues and flags.',
    verb: 'Stretch the clip',
    fields: [{ kind: 'number', id: 'seconds', label: 'To', unit: 's', step: 0.1, min: 0.01, max: 3600, begin: ({ clip }) => Number(clip.lengthSeconds.toFixed(4)) }],
    calls: ({ clip }, values) => callOf(stretchClip, { clip: clip.id, lengthSeconds: num(values, 'seconds') }),
  },
  {
    id: 'bias',
    title: 'Stroke bias',
    group: 'Feel',
    about: 'The two halves of a cycle get a share of its time each: a fast stroke down, a slow one up.',
    verb: 'Bias',
    fields: [
      { kind: 'number', id: 'bias', label: 'First half', unit: '%', step: 5, min: 1, max: 99, begin: () => 35 },
      { kind: 'number', id: 'middle', label: 'Turns at', unit: 's', step: 0.1, min: 0, begin: (context) => Number(((spanOf(context)[0] + spanOf(context)[1]) / 2).toFixed(4)) },
    ],
    blocked: needsKeys,
    calls: (context, values) => callOf(strokeBias, { ...chosen(context), middle: num(values, 'middle'), bias: num(values, 'bias') / 100 }),
  },
  {
    id: 'scale',
    title: 'Scale values',
    group: 'Values',
    about: 'The motion larger or smaller, about rest.',
    verb: 'Scale',
    fields: [{ kind: 'number', id: 'share', label: 'To', unit: '%', step: 10, min: -1000, max: 100000, begin: () => 150 }],
    blocked: needsKeys,
    calls: (context, values) => callOf(scaleValues, { ...chosen(context), factor: num(values, 'share') / 100 }),
  },
  {
    id: 'flip',
    title: 'Flip',
    group: 'Values',
    about: 'Offsets and turns the other way round.',
    verb: 'Flip',
    fields: [],
    blocked: needsKeys,
    calls: (context) => callOf(flipKeys, chosen(context)),
  },
  {
    id: 'close',
    title: 'Close the loop',
    group: 'Loop',
    about: 'The first pose once more, one frame after the last key, and there the clip ends.',
    verb: 'Close the loop',
    fields: [],
    calls: ({ clip }) => callOf(closeLoop, { clip: clip.id }),
  },
  {
    id: 'tail',
    title: 'Trim the tail',
    group: 'Loop',
    about: 'The clip ends at its last key.',
    verb: 'End at the last key',
    fields: [],
    calls: ({ clip }) => callOf(trimTail, { clip: clip.id }),
  },
  {
    id: 'seam',
    title: 'Mend the seam',
    group: 'Loop',
    about: 'Spreading adds what is missing over the end; fading blends the end into the beginning, and the clip gets shorter by as much.',
    verb: 'Mend the seam',
    fields: [
      {
        kind: 'choice',
        id: 'by',
        label: 'By',
        begin: 'spread',
        options: [
          ['spread', 'spreading it over the end'],
          ['fade', 'fading the end into the start'],
        ],
      },
      { kind: 'number', id: 'seconds', label: 'Over', unit: 's', step: 0.05, min: 0.01, max: 3600, begin: ({ clip }) => Number(Math.min(0.5, clip.lengthSeconds / 4).toFixed(3)) },
    ],
    calls: ({ clip }, values) => callOf(mendSeam, { clip: clip.id, by: values.by as 'spread' | 'fade', seconds: num(values, 'seconds') }),
  },
  {
    id: 'brake',
    title: 'Brake keys',
    group: 'Feel',
    about: 'Keys ever nearer to the chosen ones, so that straight motion slows into them.',
    verb: 'Set brake keys',
    fields: [
      { kind: 'number', id: 'count', label: 'Keys', step: 1, min: 1, max: 20, digits: 0, begin: () => 3 },
      { kind: 'number', id: 'reach', label: 'From', unit: '%', step: 5, min: 1, max: 99, begin: () => 60 },
      { kind: 'number', id: 'ratio', label: 'Each nearer', unit: '×', step: 0.05, min: 0.05, max: 0.95, begin: () => 0.5 },
      { kind: 'choice', id: 'family', label: 'On the ease', begin: 'sine', options: EASING_FAMILIES.map((one) => [one, one] as const) },
      {
        kind: 'choice',
        id: 'sides',
        label: 'Keys',
        begin: 'both',
        options: [
          ['before', 'before them'],
          ['after', 'after them'],
          ['both', 'on both sides'],
        ],
      },
    ],
    blocked: needsKeys,
    calls: (context, values) =>
      callOf(brakeKeys, {
        ...chosen(context),
        count: Math.round(num(values, 'count')),
        reach: num(values, 'reach') / 100,
        ratio: num(values, 'ratio'),
        family: values.family as EasingFamily,
        sides: values.sides as 'both',
      }),
  },
  {
    id: 'settle',
    title: 'Settle',
    group: 'Feel',
    about: 'It runs past each chosen key, swings back and forth ever less, and comes to rest.',
    verb: 'Settle',
    fields: [
      { kind: 'number', id: 'share', label: 'Past it by', unit: '%', step: 5, min: 1, max: 200, begin: () => 15 },
      { kind: 'number', id: 'swings', label: 'Swings', step: 1, min: 1, max: 20, digits: 0, begin: () => 3 },
      { kind: 'number', id: 'decay', label: 'Each weaker', unit: '×', step: 0.05, min: 0.05, max: 0.95, begin: () => 0.5 },
      { kind: 'number', id: 'seconds', label: 'Within', unit: 's', step: 0.1, min: 0.05, max: 60, begin: () => 0.6 },
    ],
    blocked: needsKeys,
    calls: (context, values) =>
      callOf(settle, { ...chosen(context), share: num(values, 'share') / 100, swings: Math.round(num(values, 'swings')), decay: num(values, 'decay'), seconds: num(values, 'seconds') }),
  },
  {
    id: 'sway',
    title: 'Sway',
    group: 'Feel',
    about: 'A gentle irregular motion between two frequencies; the same number gives the same again.',
    verb: 'Sway',
    fields: [
      {
        kind: 'choice',
        id: 'what',
        label: 'What',
        begin: 'turn 2',
        options: (['turn', 'offset'] as const).flatMap((property) => [0, 1, 2].map((axis) => [`${property} ${axis}`, `${property} ${'xyz'[axis]}`] as const)),
      },
      { kind: 'number', id: 'amount', label: 'At most', step: 0.5, min: -1000, max: 1000, begin: () => 3 },
      { kind: 'number', id: 'low', label: 'From', unit: 'Hz', step: 0.1, min: 0.01, max: 60, begin: ({ clip }) => Number((1 / clip.lengthSeconds).toFixed(3)) },
      { kind: 'number', id: 'high', label: 'To', unit: 'Hz', step: 0.1, min: 0.01, max: 60, begin: () => 1.5 },
      { kind: 'number', id: 'seed', label: 'Number', step: 1, min: 0, max: 4294967295, digits: 0, begin: () => 7 },
    ],
    blocked: needsPart,
    calls: ({ clip, parts }, values) => {
      const [property, axis] = String(values.what).split(' ');
      const [low, high] = [num(values, 'low'), num(values, 'high')];
      return callOf(sway, {
        clip: clip.id,
        parts,
        property: property as 'turn',
        axis: Number(axis),
        amount: num(values, 'amount'),
        lowHz: Math.min(low, high),
        highHz: Math.max(low, high),
        seed: Math.round(num(values, 'seed')),
      });
    },
  },
  {
    id: 'echo',
    title: 'Echo',
    group: 'Across parts',
    about: 'The chosen part’s motion down the chain below it, or on to the parts chosen after it, later and weaker each time.',
    verb: 'Echo',
    fields: [
      { kind: 'number', id: 'delay', label: 'Later by', unit: 's', step: 0.05, min: -60, max: 60, begin: () => 0.15 },
      { kind: 'number', id: 'gain', label: 'Each', unit: '×', step: 0.1, min: -10, max: 10, begin: () => 0.8 },
    ],
    blocked: (context) => needsPart(context) ?? (chainOf(context).length === 0 ? 'Nothing hangs below it: choose the parts it is to go on to as well' : null),
    calls: (context, values) => callOf(echo, { clip: context.clip.id, from: context.parts[0], chain: chainOf(context), delaySeconds: num(values, 'delay'), gain: num(values, 'gain') }),
  },
  {
    id: 'twin',
    title: 'To the twin',
    group: 'Across parts',
    about: 'The keys in the mirror, for the parts on the other side; half a cycle later, for a walk.',
    verb: 'Copy to the twin',
    fields: [
      {
        kind: 'choice',
        id: 'later',
        label: 'When',
        begin: 'same',
        options: [
          ['same', 'at the same time'],
          ['half', 'half the clip later'],
        ],
      },
    ],
    blocked: needsKeys,
    calls: (context, { later }) => callOf(keysToTwin, { ...chosen(context), pairs: twinPairs(context.kit, context.blobs), axis: 0, bySeconds: later === 'half' ? context.clip.lengthSeconds / 2 : 0 }),
  },
  {
    id: 'feet',
    title: 'Pin feet',
    group: 'Across parts',
    about: 'Each foot stays on its place while it stands, by bending its leg; found by the names of thighs, shins and feet. For motion that was taken from elsewhere.',
    verb: 'Pin them',
    fields: [],
    blocked: ({ kit, clip }) => (legsOf(kit).length === 0 ? 'No leg of three joints is named in this kit' : clip.tracks.length === 0 ? 'There is no motion yet' : null),
    calls: ({ kit, clip }) => callOf(pinFeet, { clip: clip.id, legs: legsOf(kit) }),
  },
  {
    id: 'show',
    title: 'Appear or vanish',
    group: 'Rest and parts',
    about: 'The chosen parts come or go at the time you are at.',
    verb: 'Set it here',
    fields: [
      {
        kind: 'choice',
        id: 'shown',
        label: 'They',
        begin: 'vanish',
        options: [
          ['vanish', 'vanish'],
          ['appear', 'appear'],
        ],
      },
    ],
    blocked: needsPart,
    calls: ({ clip, parts, time, rulebook }, { shown }) => callOf(showParts, { clip: clip.id, parts, time, shown: shown === 'appear', as: shownAs(rulebook) }),
  },
  {
    id: 'bake-pose',
    title: 'Pose into rest',
    group: 'Rest and parts',
    about: 'The chosen parts’ pose at this time becomes their rest; every clip is compensated, so nothing else moves.',
    verb: 'Make it rest',
    fields: [],
    blocked: needsPart,
    calls: ({ clip, parts, time }) => callOf(bakePose, { clip: clip.id, parts, time }),
  },
  {
    id: 'sub-pivot',
    title: 'Sub-pivot',
    group: 'Rest and parts',
    about: 'A parent above the chosen part, at its foot, middle or top: size and turn it to grow or swing from there.',
    verb: 'Insert it',
    fields: [
      {
        kind: 'choice',
        id: 'at',
        label: 'At',
        begin: 'bottom',
        options: [
          ['bottom', 'its bottom'],
          ['middle', 'its middle'],
          ['top', 'its top'],
        ],
      },
    ],
    blocked: (context) => needsPart(context) ?? (context.parts.length > 1 ? 'Choose one part alone' : null),
    calls: ({ kit, blobs, parts: [part], rulebook }, { at }) => {
      const below = [...subtreeOf(kit, part)].map((id) => boundsByPart(kit, blobs).get(id)).filter((one) => one !== undefined);
      const world = restWorlds(kit).get(part)!;
      const [low, high] = [0, 1, 2].reduce<[number[], number[]]>(
        ([a, b], axis) => [
          [...a, below.length === 0 ? world[12 + axis] : Math.min(...below.map(({ min }) => min[axis]))],
          [...b, below.length === 0 ? world[12 + axis] : Math.max(...below.map(({ max }) => max[axis]))],
        ],
        [[], []],
      );
      const y = at === 'bottom' ? low[1] : at === 'top' ? high[1] : (low[1] + high[1]) / 2;
      const name = (rulebook && fittingName(rulebook, `${kit.parts[part].name}_pivot`, null)) ?? `${kit.parts[part].name}_pivot`;
      return callOf(insertParent, { id: newId(), parts: [part], name, at: [(low[0] + high[0]) / 2, y, (low[2] + high[2]) / 2] });
    },
  },
  {
    id: 'thin',
    title: 'Thin',
    group: 'Fewer keys',
    about: 'Dense tracks, formulas and crowded keys become few keys within a tolerance, measured at the furthest vertex.',
    verb: 'Thin',
    fields: [
      {
        kind: 'choice',
        id: 'fit',
        label: 'With',
        begin: 'curve',
        options: [
          ['curve', 'curves'],
          ['straight', 'straight lines'],
        ],
      },
      { kind: 'number', id: 'mm', label: 'Within', unit: 'mm', step: 0.5, min: 0.01, max: 10000, begin: () => 1 },
      { kind: 'number', id: 'degrees', label: 'And within', unit: '°', step: 0.1, min: 0.01, max: 90, begin: () => 0.25 },
    ],
    blocked: ({ clip }) => (clip.tracks.length === 0 ? 'There is nothing to thin yet' : null),
    calls: ({ clip, parts }, values) => {
      const own = clip.tracks.filter((track) => parts.length === 0 || parts.includes(track.part));
      return callOf(thinTracks, { clip: clip.id, tracks: own.map(({ id }) => id), fit: values.fit as 'curve', metres: num(values, 'mm') / 1000, degrees: num(values, 'degrees') });
    },
  },
];

/** What a tool's fields begin with. */
export function beginValues(tool: MotionTool, context: ToolContext): Record<string, ToolValue> {
  return Object.fromEntries(tool.fields.map((field) => [field.id, field.kind === 'choice' ? field.begin : field.begin(context)]));
}

/** Clips that could be joined to one, in order. */
export const othersThan = (kit: Kit, clip: Clip) => clipsInOrder(kit).filter((one) => one.id !== clip.id);
