import { callOf } from '@itchkit/core/document';
import { dwell, evenOut, repeatKeys, returnTrip, reverseKeys, shiftTracks, stretchClip, stretchKeys } from '@itchkit/core/motion';
import { chosen, needsKeys, num, spanOf, type MotionTool } from './motion-tool';

/** Tools that move keys in time. */
export const TIME_TOOLS: MotionTool[] = [
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
    calls: (context, values) =>
      callOf(repeatKeys, { ...chosen(context), times: Math.round(num(values, 'times')), gapSeconds: num(values, 'gap') }),
  },
  {
    id: 'shift',
    title: 'Offset in time',
    group: 'In time',
    about: 'The tracks play later, or earlier where it is negative. In a loop what leaves at the end comes in at the beginning.',
    verb: 'Offset',
    fields: [
      {
        kind: 'number',
        id: 'by',
        label: 'By',
        unit: 's',
        step: 0.1,
        min: -3600,
        max: 3600,
        begin: ({ clip }) => Number((clip.lengthSeconds / 4).toFixed(3)),
      },
    ],
    blocked: needsKeys,
    calls: ({ clip, keys }, values) =>
      callOf(shiftTracks, {
        clip: clip.id,
        tracks: [...new Set(keys.map(({ track }) => track))],
        bySeconds: num(values, 'by'),
        wrap: clip.loop === 'loop',
      }),
  },
  {
    id: 'stretch',
    title: 'Stretch keys',
    group: 'In time',
    about: 'Keys further from a time, or nearer to it; values stay.',
    verb: 'Stretch',
    fields: [
      { kind: 'number', id: 'share', label: 'To', unit: '%', step: 10, min: 1, max: 100000, begin: () => 150 },
      {
        kind: 'number',
        id: 'about',
        label: 'About',
        unit: 's',
        step: 0.1,
        min: 0,
        begin: (context) => Number(spanOf(context)[0].toFixed(4)),
      },
    ],
    blocked: needsKeys,
    calls: (context, values) =>
      callOf(stretchKeys, { ...chosen(context), about: num(values, 'about'), factor: num(values, 'share') / 100 }),
  },
  {
    id: 'stretch-clip',
    title: 'Stretch the clip',
    group: 'In time',
    about: 'The whole clip to a length, with its keys, cues and flags.',
    verb: 'Stretch the clip',
    fields: [
      {
        kind: 'number',
        id: 'seconds',
        label: 'To',
        unit: 's',
        step: 0.1,
        min: 0.01,
        max: 3600,
        begin: ({ clip }) => Number(clip.lengthSeconds.toFixed(4)),
      },
    ],
    calls: ({ clip }, values) => callOf(stretchClip, { clip: clip.id, lengthSeconds: num(values, 'seconds') }),
  },
];
