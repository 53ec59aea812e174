import { callOf, EASING_FAMILIES, type EasingFamily } from '@itchkit/core/document';
import {
  brakeKeys,
  closeLoop,
  flipKeys,
  mendSeam,
  scaleValues,
  settle,
  strokeBias,
  sway,
  thinTracks,
  trimTail,
} from '@itchkit/core/motion';
import { chosen, needsKeys, needsPart, num, spanOf, type MotionTool } from './motion-tool';

/** Tools on values, loops and the feel of a motion. */
export const FEEL_TOOLS: MotionTool[] = [
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
      {
        kind: 'number',
        id: 'seconds',
        label: 'Over',
        unit: 's',
        step: 0.05,
        min: 0.01,
        max: 3600,
        begin: ({ clip }) => Number(Math.min(0.5, clip.lengthSeconds / 4).toFixed(3)),
      },
    ],
    calls: ({ clip }, values) => callOf(mendSeam, { clip: clip.id, by: values.by as 'spread' | 'fade', seconds: num(values, 'seconds') }),
  },
  {
    id: 'bias',
    title: 'Stroke bias',
    group: 'Feel',
    about: 'The two halves of a cycle get a share of its time each: a fast stroke down, a slow one up.',
    verb: 'Bias',
    fields: [
      { kind: 'number', id: 'bias', label: 'First half', unit: '%', step: 5, min: 1, max: 99, begin: () => 35 },
      {
        kind: 'number',
        id: 'middle',
        label: 'Turns at',
        unit: 's',
        step: 0.1,
        min: 0,
        begin: (context) => Number(((spanOf(context)[0] + spanOf(context)[1]) / 2).toFixed(4)),
      },
    ],
    blocked: needsKeys,
    calls: (context, values) => callOf(strokeBias, { ...chosen(context), middle: num(values, 'middle'), bias: num(values, 'bias') / 100 }),
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
      callOf(settle, {
        ...chosen(context),
        share: num(values, 'share') / 100,
        swings: Math.round(num(values, 'swings')),
        decay: num(values, 'decay'),
        seconds: num(values, 'seconds'),
      }),
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
        options: (['turn', 'offset'] as const).flatMap((property) =>
          [0, 1, 2].map((axis) => [`${property} ${axis}`, `${property} ${'xyz'[axis]}`] as const),
        ),
      },
      { kind: 'number', id: 'amount', label: 'At most', step: 0.5, min: -1000, max: 1000, begin: () => 3 },
      {
        kind: 'number',
        id: 'low',
        label: 'From',
        unit: 'Hz',
        step: 0.1,
        min: 0.01,
        max: 60,
        begin: ({ clip }) => Number((1 / clip.lengthSeconds).toFixed(3)),
      },
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
      return callOf(thinTracks, {
        clip: clip.id,
        tracks: own.map(({ id }) => id),
        fit: values.fit as 'curve',
        metres: num(values, 'mm') / 1000,
        degrees: num(values, 'degrees'),
      });
    },
  },
];
