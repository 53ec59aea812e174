import brinework from '../../../rulebooks/brinework.rulebook.json';
import clashmere from '../../../rulebooks/clashmere.rulebook.json';
import cubbin from '../../../rulebooks/cubbin.rulebook.json';
import emberfold from '../../../rulebooks/emberfold.rulebook.json';
import glasswink from '../../../rulebooks/glasswink.rulebook.json';
import lanternlot from '../../../rulebooks/lanternlot.rulebook.json';
import plotwick from '../../../rulebooks/plotwick.rulebook.json';
import {
  emptyKit,
  MemoryBlobs,
  newMaterial,
  newPart,
  putArray,
  type Axis,
  type Behaviour,
  type Condition,
  type Id,
  type Kit,
  type Layer,
  type LoopMode,
  type Part,
  type Passage,
} from '../document';
import { invertMatrix, quatFromTurn, restWorlds } from '../geometry';
import { checkRulebook, type Rulebook } from '../rulebook';
import { putWedge } from './helpers';

export const SHIPPED = Object.fromEntries(
  [brinework, clashmere, cubbin, emberfold, glasswink, lanternlot, plotwick].map((book) => [book.id, checkRulebook(book)]),
) as Record<string, Rulebook>;

export interface Made {
  kit: Kit;
  blobs: MemoryBlobs;
}

function kitOf(parts: (Partial<Part> & { id: Id })[], bare: Id[] = []): Made {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Sound');
  for (const fields of parts) {
    const mesh = bare.includes(fields.id) ? null : putWedge(kit, blobs, `mesh_${fields.id}`, 0.4);
    kit.parts[fields.id] = newPart({ name: fields.id, mesh, ...fields });
  }
  return { kit, blobs };
}

function addMotion(
  kit: Kit,
  order: number,
  name: string,
  part: Id,
  fields: { rate: number; loop: LoopMode; seconds?: number; axis?: Axis },
): void {
  const { rate, loop, seconds = 2, axis = 1 } = fields;
  const keys = [0, 10, 0].map((value, i) => ({ time: (seconds * i) / 2, value, easing: 'straight' as const }));
  kit.clips[name] = {
    id: name,
    name,
    order,
    lengthSeconds: seconds,
    rate,
    loop,
    tracks: [{ kind: 'keys', id: `${name}_turn`, part, property: 'turn', axis, keys }],
  };
}

const paint = (kit: Kit, name: string, part: Id) => {
  kit.materials[name] = newMaterial({ id: name, name });
  kit.meshes[`mesh_${part}`].primitives[0].material = name;
};

/** A square of a quarter of a metre that shows the whole picture once. */
function putSquare({ kit, blobs }: Made, id: Id): Id {
  const floats = (values: number[], size: number) => putArray(blobs, Float32Array.from(values), size);
  const attributes = {
    POSITION: floats([0, 0, 0, 0.25, 0, 0, 0.25, 0.25, 0, 0, 0.25, 0], 3),
    NORMAL: floats([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1], 3),
    TEXCOORD_0: floats([0, 1, 1, 1, 1, 0, 0, 0], 2),
  };
  kit.meshes[id] = {
    id,
    name: id,
    primitives: [{ attributes, indices: putArray(blobs, Uint32Array.from([0, 1, 2, 0, 2, 3]), 1), material: null }],
  };
  return id;
}

/** Kits that owe their rulebooks nothing. Ids are names. */
export const SOUND: Record<string, () => Made> = {
  brinework() {
    const made = kitOf([
      { id: 'base', role: 'base' },
      { id: 'drv_slew', role: 'driven', parent: 'base', translation: [0, 1, 0] },
      { id: 'drv_luff', role: 'driven', parent: 'drv_slew', translation: [0, 0.4, 0] },
      { id: 'hook', parent: 'drv_luff', translation: [0, 0.6, 0], rotation: quatFromTurn([0, 30, 0], 'xyz') },
    ]);
    const rows = (values: number[], axis: Axis, sign = 1) =>
      values.map((value) => ({
        value,
        offset: [0, 0, 0] as [number, number, number],
        turn: [0, 1, 2].map((i) => (i === axis ? sign * value + 0 : 0)) as [number, number, number],
        size: [1, 1, 1] as [number, number, number],
      }));
    made.kit.bindings.x = {
      id: 'x',
      variable: 'crane_slew_angle',
      index: 1,
      part: 'drv_slew',
      outside: 'clamp',
      rows: rows([0, -170, 170], 1),
    };
    made.kit.bindings.z = {
      id: 'z',
      variable: 'crane_luff_angle',
      index: 1,
      part: 'drv_luff',
      outside: 'clamp',
      rows: rows([0, -20, 55], 0, -1),
    };
    return made;
  },
  plotwick() {
    const made = kitOf(
      [
        { id: 'plot' },
        { id: 'ride-car', parent: 'plot', translation: [0.5, 0, 0.5] },
        { id: 'seat-01', parent: 'ride-car', translation: [0.25, 0.5, 0] },
      ],
      ['seat-01'],
    );
    paint(made.kit, 'recolour-1', 'plot');
    addMotion(made.kit, 0, 'round', 'ride-car', { rate: 24, loop: 'loop' });
    made.kit.grounds = {
      footprint: { low: [0, 0, 0], high: [2, 0, 2], holes: [] },
      states: [{ state: 'idle', clip: 'round', from: 0, to: null, over: 0 }],
      glows: [],
      facts: { price: 120, kind: 'ride' },
    };
    made.kit.walkway = {
      knots: [
        { id: 'gate', name: '', at: [2, 0, 1.5], edge: true, boards: [], leaves: [] },
        { id: 'stand', name: '', at: [1.4, 0, 1.2], edge: false, boards: ['ride-car'], leaves: ['ride-car'] },
      ],
      ropes: [{ id: 'lane', from: 'gate', to: 'stand', oneWay: false, rail: false }],
    };
    return made;
  },
  cubbin() {
    const made = kitOf([
      { id: 'origin' },
      { id: 'trunk', parent: 'origin', translation: [0, 0.5, 0] },
      { id: 'head', parent: 'trunk', translation: [0, 0.25, 0] },
      { id: 'l_arm', parent: 'trunk', translation: [0.25, 0.125, 0] },
    ]);
    made.kit.parts.plate = newPart({
      id: 'plate',
      name: 'plate',
      parent: 'trunk',
      translation: [0, 0.125, 0.125],
      mesh: putSquare(made, 'mesh_plate'),
    });
    addMotion(made.kit, 0, 'stand', 'head', { rate: 20, loop: 'loop' });
    addMotion(made.kit, 1, 'walk', 'l_arm', { rate: 20, loop: 'loop', axis: 0 });
    return made;
  },
  emberfold() {
    const skeleton = SHIPPED.emberfold.skeleton!;
    const made = kitOf(
      [
        { id: 'body', role: 'base' },
        ...skeleton.map(({ name, parent }) => ({
          id: name,
          parent: parent ?? 'body',
          translation: [0, parent === null ? 0 : 0.04, 0] as [number, number, number],
          role: 'joint' as const,
        })),
        { id: 'coat', parent: 'body' },
      ],
      ['body', ...skeleton.map(({ name }) => name)],
    );
    const { kit, blobs } = made;
    const joints = skeleton.map(({ name }) => name);
    const worlds = restWorlds(kit);
    const inverses = Float32Array.from(joints.flatMap((joint) => [...invertMatrix(worlds.get(joint)!)!]));
    kit.skins.skin = { id: 'skin', name: 'skin', joints, inverseBindMatrices: putArray(blobs, inverses, 16) };
    kit.parts.coat.skin = 'skin';
    setWeights(made, [1, 0, 0, 0]);
    for (const [i, name] of ['idle', 'walk', 'run'].entries()) addMotion(kit, i, name, 'hips', { rate: 30, loop: 'loop' });
    kit.behaviour = soundBehaviour();
    kit.mixes = [
      {
        id: 'going',
        name: 'going',
        kind: 'line',
        parameters: ['ahead'],
        pegs: [
          { id: 'slow', clip: 'walk', at: [1], speed: 1 },
          { id: 'fast', clip: 'walk', at: [3], speed: 1.5 },
        ],
      },
    ];
    Object.assign(kit.behaviour.layers[1].states[1], { mix: 'going' });
    return made;
  },
  glasswink() {
    const made = kitOf([{ id: 'Effect' }, { id: 'Diver', parent: 'Effect', translation: [0, 0.1, 0] }]);
    addMotion(made.kit, 0, 'dance', 'Diver', { rate: 30, loop: 'loop' });
    return made;
  },
  lanternlot() {
    const made = kitOf([{ id: 'Fixture' }, { id: 'Lid', parent: 'Fixture', translation: [0, 0.4, 0] }]);
    made.kit.bodies = [
      { id: 'frame', name: 'Frame', parts: ['Fixture'], anchored: true },
      { id: 'lid', name: 'Lid', parts: ['Lid'], anchored: false },
    ];
    made.kit.couplings = [
      { id: 'hinge', name: 'Lid hinge', kind: 'hinge', from: 'frame', to: 'lid', at: [0, 0.4, 0], axis: [1, 0, 0], min: 0, max: 100 },
    ];
    return made;
  },
  clashmere() {
    const made = kitOf(
      [{ id: 'Item' }, { id: 'Shaft', parent: 'Item', translation: [0, 0.1, 0] }, { id: 'GripRight', parent: 'Item' }],
      ['GripRight'],
    );
    paint(made.kit, 'Body', 'Item');
    made.kit.clips.Rest = { id: 'Rest', name: 'Rest', order: 0, lengthSeconds: 1 / 60, rate: 60, loop: 'hold', tracks: [] };
    addMotion(made.kit, 1, 'Draw', 'Shaft', { rate: 60, loop: 'once' });
    addMotion(made.kit, 2, 'Strike', 'Shaft', { rate: 60, loop: 'once' });
    return made;
  },
};

type Way = [from: string, to: string, when: Condition[], after?: Passage['after']];

/** A layer of states without clips where none are named, each passage over a fifth of a second. */
function layerOf(id: Id, how: Layer['how'], states: string[], ways: Way[], clips: string[] = []): Layer {
  return {
    id,
    name: id,
    parts: [],
    how,
    first: states[0],
    states: states.map((name) => ({ id: name, name, clip: clips.includes(name) ? name : null, speed: 1, loop: true })),
    passages: ways.map(([from, to, when, after = 'any']) => ({ id: `${from}-${to}`, from, except: [], to, when, after, over: 0.2 })),
  };
}

/** What Emberfold has nothing to say about: all that is passed in is asked about, and one way is open at a time. */
function soundBehaviour(): Behaviour {
  const ahead = (atLeast: number | null, below: number | null): Condition => ({ kind: 'range', parameter: 'ahead', atLeast, below });
  const is = (parameter: string, value: string): Condition => ({ kind: 'among', parameter, values: [value] });
  const between = (parameter: string, states: Record<string, string>): Way[] =>
    Object.entries(states).flatMap(([from]) =>
      Object.entries(states).flatMap(([to, value]): Way[] => (from === to ? [] : [[from, to, [is(parameter, value)]]])),
    );
  const sides = ['front', 'back', 'left', 'right'];
  return {
    layers: [
      layerOf(
        'body',
        'replaces',
        ['idle', 'walk', 'run'],
        [
          ['idle', 'walk', [ahead(0.5, null)]],
          ['walk', 'idle', [ahead(null, 0.5)]],
          ['walk', 'run', [ahead(3, null)]],
          ['run', 'walk', [ahead(null, 3)]],
        ],
        ['idle', 'walk', 'run'],
      ),
      layerOf('gait', 'adds', ['straight', 'lame', 'low'], between('gait', { straight: 'upright', lame: 'limping', low: 'crouching' })),
      layerOf('lamp', 'adds', ['lowered', 'raised'], between('lantern', { lowered: 'no', raised: 'yes' })),
      layerOf('lying', 'adds', ['up', 'flat'], between('down', { up: 'no', flat: 'yes' })),
      layerOf(
        'blows',
        'adds',
        ['calm', ...sides],
        sides.flatMap((side): Way[] => [
          ['calm', side, [is('from', side), is('struck', 'trunk'), { kind: 'sent', parameter: 'jolt' }]],
          [side, 'calm', [], 'end'],
        ]),
      ),
    ],
  };
}

/** Every vertex of the coat held by the first joints with these weights. */
export function setWeights({ kit, blobs }: Made, weights: number[]): void {
  const { attributes } = kit.meshes.mesh_coat.primitives[0];
  const { count } = attributes.POSITION;
  for (let n = 0; 4 * n < weights.length; n++) {
    const own = [0, 1, 2, 3].map((k) => weights[4 * n + k] ?? 0);
    attributes[`JOINTS_${n}`] = putArray(
      blobs,
      Uint16Array.from({ length: 4 * count }, (_, i) => 4 * n + (i % 4) + 1),
      4,
    );
    attributes[`WEIGHTS_${n}`] = putArray(
      blobs,
      Float32Array.from({ length: 4 * count }, (_, i) => own[i % 4]),
      4,
    );
  }
}
