import { callOf, newId, subtreeOf, type Id, type Kit } from '@itchkit/core/document';
import { boundsByPart, restWorlds } from '@itchkit/core/geometry';
import { insertParent } from '@itchkit/core/shape';
import { adjustMotion, AS_IT_IS, bakePose, echo, keysToTwin, legsOf, showParts } from '@itchkit/core/motion';
import { fittingName, type Rulebook } from '@itchkit/core/rulebook';
import { chosen, needsKeys, needsPart, num, type MotionTool, type ToolContext } from './motion-tool';
import { twinPairs } from '../../parts/twin-pairs';

/** What hangs below a part in one line, the nearest first: down a chain of fins or a tail. */
function chainBelow(kit: Kit, part: Id): Id[] {
  const out: Id[] = [];
  for (let at = part; ;) {
    const children = Object.values(kit.parts).filter(({ parent }) => parent === at);
    const next = children.length === 1 ? children[0] : children.find((child) => child.role === 'joint' || child.skin === null);
    if (!next || out.length > 100) return out;
    out.push(next.id);
    at = next.id;
  }
}

const chainOf = ({ kit, parts }: ToolContext) => (parts.length === 1 ? chainBelow(kit, parts[0]) : parts.slice(1));

function withoutLegs({ kit, clip }: ToolContext): string | null {
  if (legsOf(kit).length === 0) return 'No leg of three joints is known in this kit: say so under Put a motion on …, Joints';
  return clip.tracks.length === 0 ? 'There is no motion yet' : null;
}

const shownAs = (rulebook: Rulebook | undefined) =>
  (rulebook?.motion?.tracks && !rulebook.motion.tracks.includes('shown') ? 'size' : 'shown') as 'size' | 'shown';

/** Tools from part to part, and on rest. */
export const PART_TOOLS: MotionTool[] = [
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
    blocked: (context) =>
      needsPart(context) ?? (chainOf(context).length === 0 ? 'Nothing hangs below it: choose the parts it is to go on to as well' : null),
    calls: (context, values) =>
      callOf(echo, {
        clip: context.clip.id,
        from: context.parts[0],
        chain: chainOf(context),
        delaySeconds: num(values, 'delay'),
        gain: num(values, 'gain'),
      }),
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
    calls: (context, { later }) =>
      callOf(keysToTwin, {
        ...chosen(context),
        pairs: twinPairs(context.kit, context.blobs),
        axis: 0,
        bySeconds: later === 'half' ? context.clip.lengthSeconds / 2 : 0,
      }),
  },
  {
    id: 'feet',
    title: 'Pin feet',
    group: 'Across parts',
    about: 'Each foot stays on its place while it stands, by bending its leg; For motion that was taken from elsewhere.',
    verb: 'Pin them',
    fields: [],
    blocked: withoutLegs,
    calls: ({ clip }) => callOf(adjustMotion, { clip: clip.id, choices: AS_IT_IS, pinned: true, planted: null }),
  },
  {
    id: 'fit',
    title: 'Fit to the body',
    group: 'Across parts',
    about: 'The whole clip with its arms further out, longer steps, lower hips, or left for right; feet stay where they stand.',
    verb: 'Fit it',
    fields: [
      { kind: 'number', id: 'arms', label: 'Arms out', unit: '°', step: 2, min: -60, max: 90, begin: () => 0 },
      { kind: 'number', id: 'stride', label: 'Stride', unit: '%', step: 5, min: 10, max: 300, begin: () => 100 },
      { kind: 'number', id: 'hips', label: 'Hips, of their height', unit: '%', step: 2, min: -60, max: 30, begin: () => 0 },
      {
        kind: 'choice',
        id: 'sides',
        label: 'Sides',
        begin: 'same',
        options: [
          ['same', 'as they are'],
          ['other', 'left for right'],
        ],
      },
      {
        kind: 'choice',
        id: 'travel',
        label: 'Over the ground',
        begin: 'along',
        options: [
          ['along', 'goes along'],
          ['stays', 'stays in place'],
        ],
      },
    ],
    blocked: withoutLegs,
    calls: ({ clip }, values) =>
      callOf(adjustMotion, {
        clip: clip.id,
        choices: {
          armSpread: num(values, 'arms'),
          stride: num(values, 'stride') / 100,
          hipHeight: num(values, 'hips') / 100,
          mirrored: values.sides === 'other',
          inPlace: values.travel === 'stays',
        },
        pinned: false,
        planted: null,
      }),
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
    calls: ({ clip, parts, time, rulebook }, { shown }) =>
      callOf(showParts, { clip: clip.id, parts, time, shown: shown === 'appear', as: shownAs(rulebook) }),
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
      const middle = (low[1] + high[1]) / 2;
      const y = { bottom: low[1], top: high[1] }[at] ?? middle;
      const name = (rulebook && fittingName(rulebook, `${kit.parts[part].name}_pivot`, null)) ?? `${kit.parts[part].name}_pivot`;
      return callOf(insertParent, { id: newId(), parts: [part], name, at: [(low[0] + high[0]) / 2, y, (low[2] + high[2]) / 2] });
    },
  },
];
