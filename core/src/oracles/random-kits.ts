import {
  EASINGS,
  emptyKit,
  MemoryBlobs,
  newPart,
  putArray,
  TURN_ORDERS,
  type Clip,
  type Easing,
  type Id,
  type Key,
  type KeyProperty,
  type Kit,
  type Mesh,
  type Quat,
  type SampleTrack,
  type Track,
} from '../document';
import { invertMatrix, restWorlds } from '../geometry';
import { Random } from './random';

export interface RandomKit {
  kit: Kit;
  blobs: MemoryBlobs;
  clip: Clip;
  /** The seed's numbers go on, for what an oracle does with the kit. */
  random: Random;
}

/** What may be in a random kit; all of it where nothing is said. */
export interface Ingredients {
  easings?: readonly Easing[];
  kinds?: readonly ('keys' | 'samples' | 'formula')[];
  properties?: readonly KeyProperty[];
  /** Tangents of curves as steep as so many of the property's range a second; 0 leaves them free. */
  steep?: number;
  skins?: boolean;
  shown?: boolean;
}

/** How far values of a property go: metres, degrees, factors. */
const RANGE: Record<KeyProperty, [number, number]> = {
  offset: [-0.6, 0.6],
  turn: [-170, 170],
  size: [0.5, 1.8],
  shown: [0, 1],
  weight: [0, 1],
};

/**
 * A small kit of its seed: parts below one another in any way, turned and sized at rest, some with morph targets, one held by the joints
 * of others, and a clip of one to two seconds with tracks of all kinds.
 */
export function randomKit(seed: number, ingredients: Ingredients = {}): RandomKit {
  const random = new Random(seed);
  const blobs = new MemoryBlobs();
  const kit = emptyKit(`Random ${seed}`);
  const count = random.whole(3, 6);
  const ids: Id[] = [];
  for (let i = 0; i < count; i++) {
    const id = `p${i}`;
    const scale = random.oneOf([1, 1, random.between(0.5, 2)]);
    const uneven = random.chance(0.2) ? ([1, random.between(0.6, 1.6), 1] as const) : ([1, 1, 1] as const);
    kit.parts[id] = newPart({
      id,
      name: id,
      order: i,
      parent: i === 0 || random.chance(0.1) ? null : random.oneOf(ids),
      translation: random.vector(0.8),
      rotation: random.chance(0.6) ? random.turn() : [0, 0, 0, 1],
      scale: [scale * uneven[0], scale * uneven[1], scale * uneven[2]],
      turnOrder: random.oneOf(TURN_ORDERS),
      mesh: random.chance(0.8) ? putMesh(kit, blobs, random, `m${i}`, random.chance(0.35)) : null,
    });
    ids.push(id);
  }
  if (ingredients.skins ?? random.chance(0.6)) putSkinned(kit, blobs, random, ids);
  const clip: Clip = {
    id: 'clip',
    name: 'clip',
    order: 0,
    lengthSeconds: random.whole(30, 60) / 30,
    rate: 30,
    loop: 'once',
    tracks: [],
  };
  clip.tracks = Object.values(kit.parts).flatMap((part) => tracksFor(kit, blobs, random, clip, part.id, ingredients));
  kit.clips.clip = clip;
  return { kit, blobs, clip, random };
}

function putMesh(kit: Kit, blobs: MemoryBlobs, random: Random, id: Id, morphs: boolean, vertices = 8): Id {
  const floats = (most: number) =>
    putArray(
      blobs,
      Float32Array.from({ length: 3 * vertices }, () => random.between(-most, most)),
      3,
    );
  const indices = putArray(
    blobs,
    Uint32Array.from({ length: 3 * vertices }, (_, i) => (i + Math.floor(i / 3)) % vertices),
    1,
  );
  const mesh: Mesh = { id, name: id, primitives: [{ material: null, attributes: { POSITION: floats(0.5) }, indices }] };
  if (morphs) {
    mesh.targets = [0, 1].map((n) => ({ name: `t${n}`, weight: random.oneOf([0, random.share()]) }));
    mesh.primitives[0].targets = mesh.targets.map(() => ({ POSITION: floats(0.3) }));
  }
  kit.meshes[id] = mesh;
  return id;
}

function putSkinned(kit: Kit, blobs: MemoryBlobs, random: Random, ids: readonly Id[]): void {
  const joints = ids.slice(0, random.whole(2, Math.min(4, ids.length)));
  for (const joint of joints) {
    // The other loader gives a joint with a mesh a child of its own, and forgets the weights of that.
    const mesh = kit.parts[joint].mesh;
    if (mesh === null) continue;
    delete kit.meshes[mesh].targets;
    delete kit.meshes[mesh].primitives[0].targets;
  }
  const worlds = restWorlds(kit);
  const binds = new Float32Array(16 * joints.length);
  joints.forEach((joint, i) => binds.set(invertMatrix(worlds.get(joint)!)!, 16 * i));
  kit.skins.skin = { id: 'skin', name: 'skin', joints, inverseBindMatrices: putArray(blobs, binds, 16) };
  const vertices = 12;
  const mesh = putMesh(kit, blobs, random, 'hide', random.chance(0.4), vertices);
  const [primitive] = kit.meshes[mesh].primitives;
  const rows = Array.from({ length: vertices }, () => {
    const weights = [0, 1, 2, 3].map((j): number => (j < joints.length && random.chance(0.6) ? random.share() : 0));
    if (weights.every((weight) => weight <= 0)) weights[0] = 1;
    const sum = weights.reduce((a, b) => a + b);
    return weights.map((weight) => weight / sum);
  });
  primitive.attributes.JOINTS_0 = putArray(
    blobs,
    Uint16Array.from({ length: 4 * vertices }, (_, i) => Math.min(i % 4, joints.length - 1)),
    4,
  );
  primitive.attributes.WEIGHTS_0 = putArray(blobs, Float32Array.from(rows.flat()), 4);
  const parent = random.chance(0.5) ? random.oneOf(ids) : null;
  kit.parts.hide = newPart({ id: 'hide', name: 'hide', order: ids.length, mesh, skin: 'skin', parent, translation: random.vector(0.5) });
  if (random.chance(0.5)) return;
  // What hangs below a held part goes along with what is above it.
  const rider = putMesh(kit, blobs, random, 'rider', false);
  kit.parts.rider = newPart({ id: 'rider', name: 'rider', order: 0, mesh: rider, parent: 'hide', translation: random.vector(0.5) });
}

function tracksFor(kit: Kit, blobs: MemoryBlobs, random: Random, clip: Clip, part: Id, ingredients: Ingredients): Track[] {
  const { kinds = ['keys', 'samples', 'formula'], properties = ['offset', 'turn', 'size', 'shown', 'weight'] } = ingredients;
  const mesh = kit.parts[part].mesh;
  const targets = mesh === null ? 0 : (kit.meshes[mesh].targets?.length ?? 0);
  const skinned = kit.parts[part].skin !== null;
  const out: Track[] = [];
  for (const property of properties) {
    if (property === 'weight' ? targets === 0 : skinned) continue;
    if (property === 'shown' && !(ingredients.shown ?? true)) continue;
    if (!random.chance(property === 'shown' ? 0.08 : 0.5)) continue;
    const kind = property === 'shown' ? 'keys' : random.oneOf(kinds);
    const id = `${part}_${property}`;
    if (kind === 'samples') out.push(dense(blobs, random, clip, part, property as Exclude<KeyProperty, 'shown'>, id, targets));
    else {
      const axes = property === 'shown' ? [0] : [0, 1, 2].slice(0, property === 'weight' ? targets : 3).filter(() => random.chance(0.6));
      for (const axis of axes)
        out.push(
          kind === 'formula'
            ? { kind, id: `${id}${axis}`, part, property: property as 'offset', axis, source: formulaFor(property, random), gain: 1 }
            : { kind, id: `${id}${axis}`, part, property, axis: axis as 0, keys: keysFor(random, clip, property, ingredients) },
        );
    }
  }
  return out;
}

function keysFor(random: Random, clip: Clip, property: KeyProperty, { easings = EASINGS, steep = 4 }: Ingredients): Key[] {
  const frames = Math.round(clip.lengthSeconds * 30);
  const at = [...new Set([0, ...Array.from({ length: random.whole(1, 4) }, () => random.whole(1, frames - 1)), frames])];
  const [low, high] = RANGE[property];
  return at
    .sort((a, b) => a - b)
    .map((frame) => {
      const key: Key = {
        time: Math.min(clip.lengthSeconds, frame / 30),
        value: property === 'shown' ? random.whole(0, 1) : random.between(low, high),
        easing:
          property === 'shown'
            ? 'hold'
            : random.oneOf([...easings, 'hold', 'straight', 'curve', 'curve'].filter((one) => easings.includes(one as Easing)) as Easing[]),
      };
      if (key.easing === 'curve' && steep > 0 && random.chance(0.4)) {
        const slope = random.between(-steep, steep) * (high - low);
        key.slopeIn = slope;
        key.slopeOut = random.chance(0.7) ? slope : random.between(-steep, steep) * (high - low);
      }
      return key;
    });
}

function dense(
  blobs: MemoryBlobs,
  random: Random,
  clip: Clip,
  part: Id,
  property: Exclude<KeyProperty, 'shown'>,
  id: Id,
  targets: number,
): SampleTrack {
  const interpolation = random.oneOf(['hold', 'straight', 'straight', 'curve'] as const);
  const rows = random.whole(3, 9);
  const times = Float32Array.from({ length: rows }, (_, i) => (clip.lengthSeconds * i) / (rows - 1));
  times[rows - 1] = Math.min(times[rows - 1], clip.lengthSeconds);
  const width = { turn: 4, weight: targets, offset: 3, size: 3 }[property];
  const [low, high] = RANGE[property];
  let last: Quat = [0, 0, 0, 1];
  /** Of a turn that of its two quaternions which is nearer to the one before: a cubic between the others runs through no turn at all. */
  const turn = (): Quat => {
    const next = random.turn();
    const far = next[0] * last[0] + next[1] * last[1] + next[2] * last[2] + next[3] * last[3] < 0;
    return (last = far ? [-next[0], -next[1], -next[2], -next[3]] : next);
  };
  const row = () => (property === 'turn' ? turn() : Array.from({ length: width }, () => random.between(low, high)));
  const tangent = () => Array.from({ length: width }, () => random.between(-2, 2) * (property === 'turn' ? 1 : high - low));
  const values = Array.from({ length: rows }, () => (interpolation === 'curve' ? [...tangent(), ...row(), ...tangent()] : [...row()]));
  return {
    kind: 'samples',
    id,
    part,
    property: ({ turn: 'rotation', weight: 'weights', offset: 'offset', size: 'size' } as const)[property],
    interpolation,
    times: putArray(blobs, times, 1),
    values: putArray(blobs, Float32Array.from(values.flat()), width),
  };
}

function formulaFor(property: KeyProperty, random: Random): string {
  const speed = random.between(2, 14).toFixed(2);
  return {
    offset: `0.3 * sin(${speed} * t)`,
    turn: `70 * sin(${speed} * t) + 20 * u`,
    size: `1 + 0.3 * sin(${speed} * t)`,
    weight: `0.5 + 0.5 * cos(${speed} * t)`,
    shown: '1',
  }[property];
}
