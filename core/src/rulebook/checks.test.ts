import fc from 'fast-check';
import { encode } from 'fast-png';
import {
  KitError,
  newMaterial,
  newPart,
  putArray,
  readArray,
  type BindingRow,
  type Condition,
  type Id,
  type KeyTrack,
  type Kit,
  type MemoryBlobs,
  type Passage,
  type Track,
} from '../document';
import { quatFromTurn } from '../geometry';
import { AS_IT_IS, fittedMotion, LIBRARY } from '../motion';
import { mendAllSafe } from '../operations';
import { loadSimplifier } from '../shape';
import { extentOf, greatestDifference, putWedge, run, worldVertices } from '../tests/helpers';
import { setWeights, SHIPPED, SOUND, type Made } from '../tests/sound-kits';
import { CHECKS } from './checks';
import { countGrades, runChecks } from './check-runner';
import { mendKind, type Finding, type PivotRule } from './types';

beforeAll(loadSimplifier);

const check = (kit: Kit, blobs: MemoryBlobs, book: string) => runChecks({ kit, rulebook: SHIPPED[book], blobs });

test.each(Object.keys(SHIPPED))('a sound kit owes %s nothing', (book) => {
  const { kit, blobs } = SOUND[book]();
  expect(check(kit, blobs, book)).toEqual([]);
});

function putImage(
  { kit, blobs }: Made,
  mesh: string,
  width: number,
  height: number,
  fields: Partial<Kit['materials'][string]> = {},
  mediaType = 'image/png',
): void {
  const bytes = encode({ width, height, channels: 3, depth: 8, data: new Uint8Array(width * height * 3).fill(90) });
  kit.images.img = { id: 'img', name: 'planks', mediaType, blob: blobs.put(bytes), bytes: bytes.length, width, height };
  const slot = { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 };
  const primitive = kit.meshes[mesh].primitives[0];
  const id = primitive.material ?? 'mat';
  kit.materials[id] = newMaterial({ id, name: kit.materials[id]?.name ?? 'wood', baseColorTexture: slot, ...fields });
  primitive.material = id;
  putUv({ kit, blobs }, mesh, [0, 0, 0.5, 0, 0, 0.5, 1, 1]);
}

function putUv({ kit, blobs }: Made, mesh: string, uv: number[], set = 0): void {
  kit.meshes[mesh].primitives[0].attributes[`TEXCOORD_${set}`] = putArray(blobs, Float32Array.from(uv), 2);
}

const keysOf = (kit: Kit, clip: string) => (kit.clips[clip].tracks[0] as KeyTrack).keys;
const addPart = ({ kit, blobs }: Made, fields: Partial<Kit['parts'][string]> & { id: string }, mesh = true) =>
  (kit.parts[fields.id] = newPart({ name: fields.id, mesh: mesh ? putWedge(kit, blobs, `mesh_${fields.id}`, 0.4) : null, ...fields }));
/** A flat sheet of twice as many triangles as there are squares, where the wedge was. */
const bigMesh = ({ kit, blobs }: Made, mesh: string, triangles: number) => {
  const side = Math.ceil(Math.sqrt(triangles / 2));
  const points = Array.from({ length: (side + 1) ** 2 }, (_, i) => [
    (0.5 * (i % (side + 1))) / side,
    0,
    (0.5 * Math.floor(i / (side + 1))) / side,
  ]);
  const squares = Array.from({ length: side ** 2 }, (_, i) => Math.floor(i / side) * (side + 1) + (i % side));
  const [primitive] = kit.meshes[mesh].primitives;
  primitive.attributes = {
    POSITION: putArray(blobs, Float32Array.from(points.flat()), 3),
    NORMAL: putArray(blobs, Float32Array.from(points.flatMap(() => [0, 1, 0])), 3),
  };
  primitive.indices = putArray(
    blobs,
    Uint32Array.from(squares.flatMap((at) => [at, at + side + 1, at + 1, at + 1, at + side + 1, at + side + 2])),
    1,
  );
};

/** Another passage of the body's layer, after all others. */
const addWay = ({ kit }: Made, from: Id, to: Id, when: Condition[], more: Partial<Passage> = {}) =>
  void kit.behaviour!.layers[0].passages.push({
    id: `${from}-${to}-${kit.behaviour!.layers[0].passages.length}`,
    from,
    except: [],
    to,
    when,
    after: 'any',
    over: 0.2,
    ...more,
  });

/** Also: rules of the same rulebook that the fault sets off besides, none of them a stop. */
type Fault = [book: string, rule: string, what: string, spoil: (made: Made) => void, mend: 'safe' | 'asking' | null, also?: string[]];

const FAULTS: Fault[] = [
  // hierarchy
  ['brinework', 'single-root', 'a second root', ({ kit }) => void (kit.parts.hook.parent = null), 'safe'],
  ['brinework', 'root-at-origin', 'a root that stands aside', ({ kit }) => void (kit.parts.base.translation = [0, 0, 2]), 'safe'],
  [
    'brinework',
    'root-at-origin',
    'a root that is turned',
    ({ kit }) => void (kit.parts.base.rotation = quatFromTurn([0, 45, 0], 'xyz')),
    'safe',
  ],
  [
    'brinework',
    'carriers',
    'a seat below a part without a role',
    (made) => void addPart(made, { id: 'seat_operator', parent: 'hook', translation: [0.1, 0, 0] }),
    null,
  ],
  [
    'brinework',
    'driven-order',
    'luffing that carries slewing',
    ({ kit }) => void ((kit.bindings.x.part = 'drv_luff'), (kit.bindings.z.part = 'drv_slew')),
    'asking',
  ],
  ['brinework', 'nothing-in-it', 'a part with nothing in it', (made) => void addPart(made, { id: 'spare', parent: 'base' }, false), 'safe'],
  ['brinework', 'hidden', 'a part that is hidden', ({ kit }) => void (kit.parts.hook.hidden = true), 'asking'],
  [
    'cubbin',
    'depth',
    'parts nine levels deep',
    (made) => {
      for (let i = 0; i < 7; i++)
        addPart(made, { id: `tail_${'abcdefg'[i]}`, parent: i === 0 ? 'trunk' : `tail_${'abcdefg'[i - 1]}`, translation: [0, 0, 0.125] });
    },
    null,
  ],
  [
    'plotwick',
    'plot-still',
    'a plot that rises',
    ({ kit }) =>
      void kit.clips.round.tracks.push({
        kind: 'keys',
        id: 'sway',
        part: 'plot',
        property: 'offset',
        axis: 1,
        keys: [0, 0.05, 0].map((value, i) => ({ time: i, value, easing: 'straight' })),
      }),
    'asking',
  ],
  // names
  ['brinework', 'names', 'capitals and blanks', ({ kit }) => void (kit.parts.hook.name = 'Hook Block 2'), 'safe'],
  ['brinework', 'names', 'a driven part without its first letters', ({ kit }) => void (kit.parts.drv_slew.name = 'slew'), 'safe'],
  ['brinework', 'names-unique', 'one name twice', (made) => void addPart(made, { id: 'other', name: 'hook', parent: 'base' }), 'safe'],
  ['brinework', 'names-reserved', 'a name of the platform', ({ kit }) => void (kit.parts.hook.name = 'water'), 'asking'],
  ['clashmere', 'grip', 'no grip', ({ kit }) => void delete kit.parts.GripRight, null],
  ['cubbin', 'sides', 'a side at the wrong end', ({ kit }) => void (kit.parts.l_arm.name = 'arm_left'), 'safe'],
  [
    'cubbin',
    'needed',
    'a head that hangs elsewhere',
    ({ kit }) => void ((kit.parts.head.parent = 'origin'), (kit.parts.head.translation = [0, 0.75, 0])),
    'asking',
  ],
  ['cubbin', 'needed', 'no head', ({ kit }) => void (kit.parts.head.name = 'skull'), null],
  // transforms
  ['brinework', 'unit-scale', 'a scaled part', ({ kit }) => void (kit.parts.hook.scale = [2, 2, 2]), 'safe'],
  ['glasswink', 'mirror', 'a mirrored part', ({ kit }) => void (kit.parts.Diver.scale = [-1, 1, 1]), 'safe'],
  [
    'glasswink',
    'skew',
    'a turn below an uneven scale',
    (made) => {
      made.kit.parts.Diver.scale = [1, 1.5, 1];
      addPart(made, { id: 'Fin', parent: 'Diver', rotation: quatFromTurn([0, 0, 30], 'xyz') });
    },
    null,
  ],
  ['brinework', 'number-noise', 'a hair off a millimetre', ({ kit }) => void (kit.parts.hook.translation = [0.5999998, 0.6, 0]), 'safe'],
  [
    'brinework',
    'number-noise',
    'a hair off a hundredth of a degree',
    ({ kit }) => void (kit.parts.hook.rotation = quatFromTurn([0, 29.99995, 0], 'xyz')),
    'safe',
  ],
  ['brinework', 'number-noise', 'a scale a hair off 1', ({ kit }) => void (kit.parts.hook.scale = [1.00002, 1, 1]), 'safe'],
  [
    'plotwick',
    'seats-upright',
    'a seat that leans',
    ({ kit }) => void (kit.parts['seat-01'].rotation = quatFromTurn([20, 0, 0], 'xyz')),
    'safe',
  ],
  ['plotwick', 'seats-on-step', 'a seat off the step', ({ kit }) => void (kit.parts['seat-01'].translation = [0.31, 0.5, 0]), 'asking'],
  // pivots
  [
    'plotwick',
    'ride-pivots',
    'a pivot beside its mesh',
    ({ kit, blobs }) => void (kit.meshes['mesh_ride-car'] = shifted(kit, blobs, 'mesh_ride-car', 0.3)),
    'asking',
  ],
  // budgets
  ['plotwick', 'triangles', 'too many triangles', (made) => void bigMesh(made, 'mesh_plot', 12_001), 'asking', ['triangles-advised']],
  ['brinework', 'part-triangles', 'one part with too many', (made) => void bigMesh(made, 'mesh_hook', 6001), 'asking'],
  [
    'emberfold',
    'part-vertices',
    'one part with too many vertices',
    (made) => (
      addPart(made, { id: 'belt', parent: 'body' }),
      void (made.kit.meshes.mesh_belt = manyVertices(made.kit, made.blobs, 'mesh_belt', 12_001))
    ),
    null,
  ],
  [
    'clashmere',
    'vertices',
    'too many vertices',
    ({ kit, blobs }) => void (kit.meshes.mesh_Shaft = manyVertices(kit, blobs, 'mesh_Shaft', 8001)),
    null,
    ['unused'],
  ],
  [
    'clashmere',
    'materials',
    'a third material',
    (made) =>
      ['Glow', 'Trim'].forEach(
        (name) => (
          addPart(made, { id: name, parent: 'Item', translation: [0.1, 0, 0] }),
          (made.kit.materials[name] = newMaterial({ id: name, name })),
          (made.kit.meshes[`mesh_${name}`].primitives[0].material = name)
        ),
      ),
    null,
  ],
  ['cubbin', 'one-texture', 'a second picture', (made) => (putImage(made, 'mesh_head', 64, 64), twoImages(made)), null],
  [
    'emberfold',
    'texture-memory',
    'pictures that take too much',
    (made) => {
      putImage(made, 'mesh_coat', 64, 64);
      Object.assign(made.kit.images.img, { width: 2048, height: 2048 });
      twoImages(made);
    },
    null,
    ['uv-overlap'],
  ],
  [
    'emberfold',
    'joints',
    'too many joints',
    (made) =>
      Array.from({ length: 41 }, (_, i) =>
        addPart(made, { id: `extra_${i}`, role: 'joint', parent: 'head', translation: [0, 0, 0.1] }, false),
      ) as never,
    null,
  ],
  [
    'cubbin',
    'clip-count',
    'too many clips',
    ({ kit }) =>
      Array.from({ length: 39 }, (_, i) => (kit.clips[`c${i}`] = { ...kit.clips.walk, id: `c${i}`, name: `c${i}`, order: i + 2 })) as never,
    null,
    ['clips-played'],
  ],
  ['glasswink', 'clip-length', 'a clip that is too long', ({ kit }) => stretch(kit, 'dance', 9), null],
  [
    'glasswink',
    'clip-keys',
    'too many keys',
    ({ kit }) =>
      void ((kit.clips.dance.tracks[0] as KeyTrack).keys = Array.from({ length: 6001 }, (_, i) => ({
        time: i / 3000,
        value: i === 6000 ? 0 : Math.sin(i / 50),
        easing: 'straight',
      }))),
    null,
  ],
  [
    'glasswink',
    'file',
    'too large',
    ({ kit, blobs }) =>
      void (kit.images.img = {
        id: 'img',
        name: 'noise',
        mediaType: 'image/png',
        blob: blobs.put(new Uint8Array(4_200_000)),
        bytes: 4_200_000,
        width: 4,
        height: 4,
      }),
    null,
    ['file-advised'],
  ],
  // geometry
  [
    'brinework',
    'finite',
    'a coordinate that is no number',
    ({ kit, blobs }) =>
      void (kit.meshes.mesh_hook.primitives[0].attributes.POSITION = putArray(
        blobs,
        Float32Array.from([NaN, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1]),
        3,
      )),
    null,
    ['flat-triangles'],
  ],
  [
    'brinework',
    'flat-triangles',
    'a triangle with two equal corners',
    ({ kit, blobs }) =>
      void (kit.meshes.mesh_hook.primitives[0].indices = putArray(blobs, Uint32Array.from([0, 2, 1, 1, 1, 3, 0, 1, 3]), 1)),
    'safe',
  ],
  [
    'emberfold',
    'levels',
    'a part of many triangles',
    (made) => (addPart(made, { id: 'sail', parent: 'body' }), bigMesh(made, 'mesh_sail', 400)),
    'asking',
  ],
  ['brinework', 'normals', 'no normals', ({ kit }) => void delete kit.meshes.mesh_hook.primitives[0].attributes.NORMAL, 'asking'],
  [
    'brinework',
    'normals',
    'normals of no length',
    ({ kit, blobs }) => void (kit.meshes.mesh_hook.primitives[0].attributes.NORMAL = putArray(blobs, new Float32Array(12), 3)),
    'asking',
  ],
  [
    'emberfold',
    'tangents',
    'a normal map without tangents',
    (made) => putImage(made, 'mesh_coat', 64, 64, { normalTexture: { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 } }),
    'safe',
    ['uv-overlap'],
  ],
  [
    'brinework',
    'unused-vertices',
    'a vertex that no triangle uses',
    ({ kit, blobs }) => void (kit.meshes.mesh_hook.primitives[0].indices = putArray(blobs, Uint32Array.from([0, 2, 1]), 1)),
    'safe',
  ],
  [
    'brinework',
    'inside-out',
    'triangles the other way round',
    ({ kit, blobs }) =>
      void (kit.meshes.mesh_hook.primitives[0].indices = putArray(blobs, Uint32Array.from([0, 1, 2, 0, 1, 3, 0, 3, 2]), 1)),
    'asking',
  ],
  [
    'brinework',
    'shell-closed',
    'a shell with a hole',
    ({ kit, blobs }) =>
      void (
        (kit.parts.hook.role = 'shell'),
        (kit.meshes.mesh_hook.primitives[0].indices = putArray(blobs, Uint32Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2]), 1))
      ),
    null,
  ],
  // uv
  [
    'brinework',
    'uvs',
    'a texture without UVs',
    (made) => (putImage(made, 'mesh_hook', 64, 64), void delete made.kit.meshes.mesh_hook.primitives[0].attributes.TEXCOORD_0),
    null,
  ],
  ['plotwick', 'uv-square', 'UVs beyond the square', (made) => putUv(made, 'mesh_plot', [0, 0, 1, 0, 0, 1, 2, 2]), null],
  ['cubbin', 'plate-layout', 'a plate whose picture is turned', (made) => putUv(made, 'mesh_plate', [1, 1, 1, 0, 0, 0, 0, 1]), null],
  [
    'cubbin',
    'plate-layout',
    'a plate without UVs',
    ({ kit }) => void delete kit.meshes.mesh_plate.primitives[0].attributes.TEXCOORD_0,
    null,
  ],
  ['plotwick', 'uv-sets', 'a second UV set', (made) => putUv(made, 'mesh_plot', [0, 0, 1, 0, 0, 1, 1, 1], 1), 'safe'],
  ['clashmere', 'uv-overlap', 'UVs on top of one another', (made) => putUv(made, 'mesh_Shaft', [0, 0, 1, 0, 0, 1, 0, 1]), null],
  // materials
  [
    'clashmere',
    'white',
    'a tint over a texture',
    (made) => putImage(made, 'mesh_Item', 64, 64, { baseColor: [0.5, 1, 1, 1] }),
    'asking',
    ['uv-overlap'],
  ],
  ['clashmere', 'slots', 'a material of nearly the right name', ({ kit }) => void (kit.materials.Body.name = 'body'), 'safe'],
  ['clashmere', 'slots', 'no material of that name', ({ kit }) => void (kit.materials.Body.name = 'Wood'), null],
  [
    'glasswink',
    'doubles',
    'a material twice',
    ({ kit }) => ['x', 'y'].forEach((id) => (kit.materials[id] = newMaterial({ id, name: id }))),
    'safe',
  ],
  ['clashmere', 'opaque', 'a blended material', ({ kit }) => void (kit.materials.Body.alphaMode = 'BLEND'), 'asking'],
  ['brinework', 'textures', 'a side that is no power of two', (made) => putImage(made, 'mesh_hook', 200, 64), 'asking'],
  ['brinework', 'textures', 'a side that is too long', (made) => putImage(made, 'mesh_hook', 2048, 16), 'asking'],
  ['brinework', 'image-kinds', 'a WebP', (made) => putImage(made, 'mesh_hook', 64, 64, {}, 'image/webp'), null],
  [
    'brinework',
    'images-there',
    'a picture that was not there',
    ({ kit }) =>
      void (kit.source = {
        notes: [{ grade: 'warn', code: 'missing-file', message: '“planks.png” is not there.', part: null }],
        fileName: 'a.glb',
      } as never),
    null,
  ],
  // size
  ['brinework', 'size', 'larger than any berth', ({ kit }) => void (kit.parts.hook.translation = [70, 0.6, 0]), null],
  [
    'glasswink',
    'on-ground',
    'floats',
    ({ kit, blobs }) =>
      void ((kit.meshes.mesh_Effect = shifted(kit, blobs, 'mesh_Effect', 0, 0.2)), (kit.parts.Diver.translation = [0, 0.3, 0])),
    'asking',
  ],
  // skin
  ['emberfold', 'skinned', 'no skin', ({ kit }) => void (kit.parts.coat.skin = null), 'asking'],
  [
    'emberfold',
    'skeleton',
    'a joint by another name',
    ({ kit }) => void (kit.parts.upper_arm_l.name = 'UpperArmL'),
    'safe',
    ['names', 'sides'],
  ],
  [
    'emberfold',
    'skeleton',
    'joints in another tongue',
    ({ kit }) => {
      const names = { ground: 'all', hips: 'pelvis', spine: 'low', chest: 'high', hand_l: 'palm_l', thigh_r: 'haunch_r' };
      for (const [joint, name] of Object.entries(names)) kit.parts[joint].name = name;
    },
    'asking',
  ],
  ['emberfold', 'skeleton', 'a joint that hangs elsewhere', ({ kit }) => void (kit.parts.head.parent = 'chest'), 'asking'],
  [
    'emberfold',
    'one-skeleton',
    'a joint outside',
    (made) => (addPart(made, { id: 'lamp', parent: 'body', role: 'joint' }, false), void (made.kit.skins.skin = withJoint(made, 'lamp'))),
    'asking',
  ],
  ['emberfold', 'influences', 'six joints a vertex', (made) => setWeights(made, [0.3, 0.2, 0.15, 0.15, 0.1, 0.1]), 'asking'],
  ['emberfold', 'held', 'vertices that nothing holds', (made) => setWeights(made, [0, 0, 0, 0]), 'asking'],
  ['emberfold', 'joints-inside', 'a joint a metre off', ({ kit }) => void (kit.parts.hand_l.translation = [1, 0, 0]), 'asking'],
  ['emberfold', 'sums', 'weights that add up to a half', (made) => setWeights(made, [0.25, 0.25, 0, 0]), 'asking'],
  ['cubbin', 'no-bending', 'a part that bends', bending, 'asking'],
  // clips
  ['emberfold', 'clips', 'a clip that is missing', ({ kit }) => void delete kit.clips.run, 'asking', ['behaviour-clips']],
  ['emberfold', 'clips', 'a clip that is empty', ({ kit }) => void (kit.clips.run.tracks = []), 'asking'],
  ['emberfold', 'clips', 'a clip of nearly the right name', ({ kit }) => void (kit.clips.run.name = 'Run'), 'safe'],
  [
    'cubbin',
    'clips-played',
    'a clip of no known name',
    ({ kit }) => void (kit.clips.dance = { ...kit.clips.walk, id: 'dance', name: 'dance', order: 5 }),
    null,
  ],
  [
    'cubbin',
    'clip-names',
    'two clips of one name',
    ({ kit }) => void (kit.clips.again = { ...kit.clips.walk, id: 'again', order: 5 }),
    'safe',
  ],
  ['clashmere', 'rest-first', 'the rest clip behind another', ({ kit }) => void (kit.clips.Rest.order = 9), 'safe'],
  [
    'clashmere',
    'rest-first',
    'a rest clip that moves',
    ({ kit }) =>
      void (kit.clips.Rest.tracks = [
        { kind: 'keys', id: 'r', part: 'Shaft', property: 'turn', axis: 0, keys: [{ time: 0, value: 5, easing: 'straight' }] },
      ]),
    null,
    ['clip-start'],
  ],
  ['emberfold', 'clip-loops', 'a walk that ends', ({ kit }) => void (kit.clips.walk.loop = 'once'), 'asking'],
  ['clashmere', 'clip-rate', 'another frame rate', ({ kit }) => void (kit.clips.Draw.rate = 30), 'safe'],
  ['plotwick', 'clip-frames', 'half a frame', ({ kit }) => stretch(kit, 'round', 2 + 0.5 / 24), 'asking'],
  ['cubbin', 'clip-easing', 'a curve', ({ kit }) => void (keysOf(kit, 'walk')[0].easing = 'curve'), 'asking'],
  [
    'clashmere',
    'clip-tracks',
    'a part that grows',
    ({ kit }) =>
      void kit.clips.Draw.tracks.push({
        ...(kit.clips.Draw.tracks[0] as KeyTrack),
        id: 'grow',
        property: 'size',
        keys: [
          { time: 0, value: 1, easing: 'straight' },
          { time: 1, value: 2, easing: 'straight' },
        ],
      }),
    'asking',
  ],
  [
    'glasswink',
    'one-clip',
    'a second clip',
    ({ kit }) => void (kit.clips.two = { ...kit.clips.dance, id: 'two', name: 'two', order: 3 }),
    'asking',
  ],
  ['glasswink', 'one-clip', 'a clip that is empty', ({ kit }) => void (kit.clips.dance.tracks = []), null],
  ['glasswink', 'one-clip', 'no clip', ({ kit }) => void delete kit.clips.dance, null],
  ['clashmere', 'clip-start', 'a clip that begins elsewhere', ({ kit }) => void (keysOf(kit, 'Draw')[0].value = 40), null],
  [
    'emberfold',
    'clip-seam',
    'a walk that goes away',
    ({ kit }) => {
      const keys = [0, 1.8].map((value, i) => ({ time: 2 * i, value, easing: 'straight' as const }));
      kit.clips.walk.tracks.push({ kind: 'keys', id: 'away', part: 'hips', property: 'offset', axis: 2, keys });
    },
    'asking',
  ],
  ['glasswink', 'clip-seam', 'a loop that jumps', ({ kit }) => void (keysOf(kit, 'dance')[2].value = 5), 'asking'],
  ['glasswink', 'clip-tail', 'stillness at the end', ({ kit }) => void (kit.clips.dance.lengthSeconds = 2.5), 'asking'],
  [
    'glasswink',
    'half-turns',
    'three quarters of a turn on a curve',
    ({ kit }) => void Object.assign(keysOf(kit, 'dance')[0], { easing: 'curve' }, void (keysOf(kit, 'dance')[1].value = 270)),
    'asking',
  ],
  [
    'cubbin',
    'clip-cues',
    'a message to nobody',
    ({ kit }) => void (kit.clips.walk.cues = [{ id: 'said', time: 0, kind: 'message', name: 'hello', part: null }]),
    'asking',
  ],
  [
    'plotwick',
    'clip-overlays',
    'an overlay where one clip is played',
    ({ kit }) => void (kit.clips.round.overlay = { place: 'over', mode: 'add', parts: null }),
    'asking',
  ],
  ['glasswink', 'half-turns', 'three quarters of a turn', ({ kit }) => void (keysOf(kit, 'dance')[1].value = 270), 'safe'],
  [
    'glasswink',
    'clip-idle',
    'a track that does nothing',
    ({ kit }) =>
      void kit.clips.dance.tracks.push({
        kind: 'keys',
        id: 'idle',
        part: 'Effect',
        property: 'offset',
        axis: 0,
        keys: [{ time: 0, value: 0, easing: 'straight' }],
      }),
    'safe',
  ],
  ['clashmere', 'clip-ends', 'keys after the end', ({ kit }) => void (kit.clips.Draw.lengthSeconds = 1.5), 'safe'],
  [
    'plotwick',
    'clip-tiles',
    'a car that leaves its tiles',
    ({ kit }) =>
      void kit.clips.round.tracks.push({
        kind: 'keys',
        id: 'away',
        part: 'ride-car',
        property: 'offset',
        axis: 2,
        keys: [0, -3, 0].map((value, i) => ({ time: i, value, easing: 'straight' })),
      }),
    'asking',
  ],
  // grounds
  ['plotwick', 'tiles-said', 'no tiles said', ({ kit }) => void (kit.grounds!.footprint = null), 'safe'],
  ['plotwick', 'tiles-said', 'half a tile', ({ kit }) => void (kit.grounds!.footprint!.low = [-0.5, 0, 0]), 'asking'],
  [
    'plotwick',
    'states-played',
    'a clip that no state plays',
    ({ kit }) => void (kit.clips.two = { ...kit.clips.round, id: 'two', name: 'two', order: 3 }),
    'asking',
  ],
  [
    'plotwick',
    'states-played',
    'a ride of a clip that moves nothing',
    ({ kit }) => {
      kit.clips.two = { ...kit.clips.round, id: 'two', name: 'two', order: 3, loop: 'once', tracks: [] };
      kit.grounds!.states.push({ state: 'run', clip: 'two', from: 0, to: null, over: 0 });
    },
    null,
  ],
  [
    'plotwick',
    'states-played',
    'a state of another platform',
    ({ kit }) => void kit.grounds!.states.push({ state: 'dusk', clip: null, from: 0, to: null, over: 1 }),
    'asking',
  ],
  [
    'plotwick',
    'states-join',
    'a ride that ends where it did not begin',
    ({ kit }) => {
      const tracks = (structuredClone(kit.clips.round.tracks) as KeyTrack[]).map((track) => ({ ...track, id: 'away' }));
      tracks[0].keys[2].value = 8;
      kit.clips.two = { ...kit.clips.round, id: 'two', name: 'two', order: 3, loop: 'once', tracks };
      kit.grounds!.states.push({ state: 'run', clip: 'two', from: 0, to: null, over: 0 });
    },
    'asking',
  ],
  ['plotwick', 'seats-there', 'no seats', ({ kit }) => (delete kit.parts['seat-01'], void delete kit.walkway), null],
  ['plotwick', 'seats-there', 'a seat that begins with seven', ({ kit }) => void (kit.parts['seat-01'].name = 'seat-07'), 'safe'],
  [
    'plotwick',
    'seats-ride',
    'seats on one another',
    (made) => void addPart(made, { id: 'seat-02', parent: 'ride-car', translation: [0.25, 0.5, 0.25] }, false),
    null,
  ],
  [
    'plotwick',
    'seats-ride',
    'a ride on the head',
    ({ kit }) => void Object.assign(kit.clips.round.tracks[0], { axis: 0 }, void (keysOf(kit, 'round')[1].value = 180)),
    null,
    ['clip-tiles'],
  ],
  ['plotwick', 'way-there', 'no walkway', ({ kit }) => void delete kit.walkway, 'asking'],
  ['plotwick', 'way-there', 'no rope from the edge', ({ kit }) => void (kit.walkway!.knots[0].edge = false), 'asking'],
  ['plotwick', 'way-there', 'a way in and none out', ({ kit }) => void (kit.walkway!.ropes[0].oneWay = true), 'asking'],
  ['plotwick', 'way-walked', 'a rope through the plot', ({ kit }) => void (kit.walkway!.knots[0].at = [0, 0, 0.2]), 'asking'],
  ['plotwick', 'way-walked', 'a rope in the air', ({ kit }) => void (kit.walkway!.knots[0].at = [2, 1.5, 1.5]), 'asking'],
  [
    'plotwick',
    'way-walked',
    'a collider in the way',
    ({ kit }) => void (kit.colliders = [{ id: 'post', part: 'plot', shape: 'box', at: [1.7, 0.5, 1.4], size: [0.2, 1, 0.4] }]),
    'asking',
    ['colliders-fit'],
  ],
  [
    'plotwick',
    'way-knots',
    'a knot that nothing joins',
    ({ kit }) => void kit.walkway!.knots.push({ id: 'lone', name: '', at: [0.2, 0, 1.8], edge: false, boards: [], leaves: [] }),
    'safe',
  ],
  [
    'plotwick',
    'colliders-fit',
    'a box that stands out',
    ({ kit }) => void (kit.colliders = [{ id: 'post', part: 'plot', shape: 'box', at: [0.2, 0.2, 0.2], size: [0.8, 0.4, 0.4] }]),
    'asking',
  ],
  [
    'plotwick',
    'paint-white',
    'a red beneath its owner’s paint',
    ({ kit }) => void (kit.materials['recolour-1'].baseColor = [0.6, 0.1, 0.1, 1]),
    'asking',
  ],
  ['plotwick', 'facts-said', 'a price that is not said', ({ kit }) => void delete kit.grounds!.facts.price, 'asking'],
  ['plotwick', 'facts-said', 'a kind that there is not', ({ kit }) => void (kit.grounds!.facts.kind = 'castle'), 'asking'],
  ['plotwick', 'facts-said', 'half a penny', ({ kit }) => void (kit.grounds!.facts.price = 1.5), 'asking'],
  [
    'plotwick',
    'glow-named',
    'a paint that shines',
    ({ kit }) => void kit.grounds!.glows.push({ material: 'recolour-1', factor: 1, colour: [1, 1, 1] }),
    'safe',
  ],
  // behaviours
  [
    'emberfold',
    'behaviour-known',
    'a condition on what no game passes in',
    (made) => addWay(made, 'idle', 'run', [{ kind: 'sent', parameter: 'rain' }]),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-known',
    'a gait that there is not',
    (made) => addWay(made, 'idle', 'run', [{ kind: 'among', parameter: 'gait', values: ['flying'] }]),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-endless',
    'there and back in no time',
    (made) => {
      const raised: Condition[] = [{ kind: 'among', parameter: 'lantern', values: ['yes'] }];
      addWay(made, 'idle', 'walk', raised, { over: 0 });
      addWay(made, 'walk', 'idle', raised, { over: 0 });
      // Before all others: else those end the frame.
      made.kit.behaviour!.layers[0].passages.reverse();
    },
    'asking',
    ['behaviour-both'],
  ],
  [
    'emberfold',
    'behaviour-reached',
    'a state that nothing leads to',
    ({ kit }) => void kit.behaviour!.layers[0].states.push({ id: 'swim', name: 'swim', clip: 'idle', speed: 1, loop: true }),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-taken',
    'faster, which walking takes first',
    (made) => addWay(made, 'idle', 'run', [{ kind: 'range', parameter: 'ahead', atLeast: 2, below: null }]),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-taken',
    'conditions that contradict one another',
    (made) =>
      addWay(made, 'idle', 'run', [
        { kind: 'range', parameter: 'ahead', atLeast: 2, below: null },
        { kind: 'range', parameter: 'ahead', atLeast: null, below: 1 },
      ]),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-taken',
    'to the side, which is always 0 here',
    (made) => addWay(made, 'idle', 'run', [{ kind: 'range', parameter: 'side', atLeast: 1, below: null }]),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-ways-out',
    'a run that never ends',
    ({ kit }) => void (kit.behaviour!.layers[0].passages = kit.behaviour!.layers[0].passages.filter(({ from }) => from !== 'run')),
    'asking',
  ],
  [
    'emberfold',
    'behaviour-speeds',
    'a walk that is mixed in as a run',
    ({ kit, blobs }) => {
      // Legs that hang down, so that they can step.
      for (const [side, x] of [
        ['l', 0.01],
        ['r', -0.01],
      ] as const) {
        kit.parts[`thigh_${side}`].translation = [x, 0, 0];
        kit.parts[`shin_${side}`].translation = [0, -0.018, 0.001];
        kit.parts[`foot_${side}`].translation = [0, -0.018, -0.001];
      }
      const walk = LIBRARY.find(({ id }) => id === 'walk')!;
      const choices = { ...AS_IT_IS, inPlace: true };
      const made = run(structuredClone(kit), blobs, ...fittedMotion(kit, { motion: walk, clip: 'made', name: 'made', choices, rate: 30 }));
      kit.clips.walk = { ...structuredClone(made.clips.made), id: 'walk', name: 'walk', order: 1 };
      kit.mixes = structuredClone(kit.mixes!);
      kit.mixes[0].pegs[0].at = [0];
      kit.mixes[0].pegs[1].at = [5];
    },
    'asking',
  ],
  ['emberfold', 'behaviour-known', 'a mix by what no game passes in', ({ kit }) => void (kit.mixes![0].parameters = ['wind']), null],
  [
    'emberfold',
    'behaviour-known',
    'a layer by what is no number',
    ({ kit }) => void (kit.behaviour!.layers[1].weight = { parameter: 'gait', none: 0, whole: 1 }),
    null,
  ],
  [
    'emberfold',
    'behaviour-layers',
    'a layer over all of them',
    ({ kit }) => void kit.behaviour!.layers.push({ ...kit.behaviour!.layers[0], id: 'again', name: 'again' }),
    null,
  ],
  ['emberfold', 'behaviour-clips', 'a run that walks', ({ kit }) => void (kit.behaviour!.layers[0].states[2].clip = 'walk'), null],
  ['emberfold', 'behaviour-clips', 'a walk that plays nothing', ({ kit }) => void (kit.behaviour!.layers[0].states[1].clip = null), null],
  [
    'emberfold',
    'behaviour-both',
    'two ways out of standing',
    (made) => addWay(made, 'idle', 'run', [{ kind: 'among', parameter: 'lantern', values: ['yes'] }]),
    null,
  ],
  [
    'emberfold',
    'behaviour-asked',
    'no layer for the lantern',
    ({ kit }) => void (kit.behaviour!.layers = kit.behaviour!.layers.filter(({ id }) => id !== 'lamp')),
    null,
  ],
  [
    'emberfold',
    'behaviour-asked',
    'gaits that are not told apart',
    ({ kit }) => {
      const gait = kit.behaviour!.layers.find(({ id }) => id === 'gait')!;
      gait.states.pop();
      gait.passages = gait.passages.filter(({ from, to }) => from !== 'low' && to !== 'low');
      gait.passages[0].when = [{ kind: 'among', parameter: 'gait', values: ['limping', 'crouching'] }];
    },
    null,
  ],
  // assemblies
  ['lanternlot', 'present', 'no bodies at all', ({ kit }) => (delete kit.bodies, void delete kit.couplings), 'asking'],
  ['lanternlot', 'anchored', 'nothing anchored', ({ kit }) => void (kit.bodies![0].anchored = false), 'asking'],
  ['lanternlot', 'anchored', 'two anchored', ({ kit }) => void (kit.bodies![1].anchored = true), 'asking'],
  ['lanternlot', 'held', 'a part of no body', (made) => void addPart(made, { id: 'Horn', parent: 'Fixture' }), 'asking'],
  ['lanternlot', 'held', 'a body that nothing holds', ({ kit }) => void delete kit.couplings, null],
  [
    'lanternlot',
    'rings',
    'a second hinge between the same two',
    ({ kit }) => void kit.couplings!.push({ ...kit.couplings![0], id: 'again', name: 'Again' }),
    'asking',
  ],
  [
    'lanternlot',
    'bodies',
    'more bodies than are moved',
    (made) => {
      for (let i = 0; i < 16; i++) {
        addPart(made, { id: `Rivet_${i + 1}`, parent: 'Fixture' });
        made.kit.bodies!.push({ id: `rivet${i}`, name: `Rivet ${i}`, parts: [`Rivet_${i + 1}`], anchored: false });
        made.kit.couplings!.push({ ...made.kit.couplings![0], id: `pin${i}`, name: `Pin ${i}`, to: `rivet${i}` });
      }
    },
    null,
  ],
  ['lanternlot', 'limits', 'a lid without stops', ({ kit }) => void (kit.couplings![0].max = null), null],
  ['lanternlot', 'coupling-step', 'a hinge between two steps', ({ kit }) => void (kit.couplings![0].at = [0, 0.407, 0]), 'asking'],
  ['lanternlot', 'coupling-step', 'a hinge with a tail of numbers', ({ kit }) => void (kit.couplings![0].at = [0, 0.40004, 0]), 'safe'],
  // variables
  [
    'brinework',
    'driven-bound',
    'a table whose rows are all one pose',
    ({ kit }) => void kit.bindings.x.rows.forEach((row) => Object.assign(row, { offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] })),
    null,
  ],
  ['brinework', 'driven-bound', 'a driven part that nothing moves', ({ kit }) => void delete kit.bindings.x, null],
  [
    'brinework',
    'driven-bound',
    'a part bound twice',
    ({ kit }) => void (kit.bindings.y = { ...kit.bindings.x, id: 'y', index: 2 }),
    'asking',
  ],
  [
    'brinework',
    'known-variable',
    'a variable with a slip of the pen',
    ({ kit }) => void (kit.bindings.x.variable = 'crane_slew_angel'),
    'asking',
  ],
  ['brinework', 'known-variable', 'a variable that nobody knows', ({ kit }) => void (kit.bindings.x.variable = 'weight_of_the_moon'), null],
  ['brinework', 'known-variable', 'an index past the last one', ({ kit }) => void (kit.bindings.x.index = 6), 'asking'],
  ['brinework', 'known-variable', 'no index where one is needed', ({ kit }) => void (kit.bindings.x.index = null), 'asking'],
  ['brinework', 'full-table', 'neutral not first', ({ kit }) => void kit.bindings.x.rows.reverse(), 'asking'],
  ['brinework', 'full-table', 'a table that ends early', ({ kit }) => void kit.bindings.x.rows.pop(), 'asking'],
  ['brinework', 'full-table', 'an empty table', ({ kit }) => void (kit.bindings.x.rows = []), null],
  [
    'brinework',
    'way',
    'slewing the wrong way round',
    ({ kit }) => void kit.bindings.x.rows.forEach((row) => (row.turn = [0, -row.turn[1] + 0, 0])),
    'asking',
  ],
  ['brinework', 'way', 'luffing to the side', ({ kit }) => void kit.bindings.z.rows.forEach((row) => (row.turn = [0, row.value, 0])), null],
  [
    'brinework',
    'way-unsettled',
    'a variable that is told in words alone',
    ({ kit }) => void Object.assign(kit.bindings.x, { variable: 'crane_brake_set', rows: scaledRows(kit.bindings.x.rows, 1 / 170, 0) }),
    null,
  ],
  [
    'brinework',
    'stands',
    'a part that follows an order',
    ({ kit }) => void Object.assign(kit.bindings.x, { variable: 'crane_slew_order', rows: scaledRows(kit.bindings.x.rows, 1 / 170) }),
    'asking',
    ['way-unsettled'],
  ],
  [
    'brinework',
    'in-range',
    'rows at values that never come',
    ({ kit }) => void kit.bindings.x.rows.push({ value: 200, offset: [0, 0, 0], turn: [0, 200, 0], size: [1, 1, 1] }),
    'asking',
  ],
  [
    'cubbin',
    'drive-half-turns',
    'a table that turns by more than half a turn at once',
    ({ kit }) => {
      const rows = [0, -75, 75].map((value): BindingRow => ({
        value,
        offset: [0, 0, 0],
        turn: [0, value > 0 ? 200 : value, 0],
        size: [1, 1, 1],
      }));
      kit.bindings.look = { id: 'look', part: 'head', variable: 'look_turn', index: null, outside: 'clamp', rows };
    },
    'safe',
  ],
  [
    'brinework',
    'switched-once',
    'parts that stand for one another, both shown for a while',
    ({ kit }) => {
      const by = { variable: 'crane_luff_angle', index: 1, among: 'hook' };
      kit.switches = [
        { id: 's', part: 'hook', spans: [{ from: null, to: 20 }], ...by },
        { id: 't', part: 'drv_luff', spans: [{ from: 10, to: null }], ...by },
      ];
    },
    'asking',
  ],
  [
    'brinework',
    'switched-once',
    'a part that is never shown',
    ({ kit }) =>
      void (kit.switches = [
        { id: 's', part: 'hook', variable: 'crane_luff_angle', index: 1, spans: [{ from: 900, to: null }], among: '' },
      ]),
    'asking',
  ],
  [
    'brinework',
    'own-variables',
    'a variable that leaves its range',
    ({ kit }) =>
      void (kit.derived = [{ id: 'd', name: 'own', expression: '2 * crane_luff_angle[1]', unit: 'deg', min: 0, max: 10, neutral: 0 }]),
    'asking',
  ],
  [
    'brinework',
    'own-variables',
    'a variable of nothing that is passed in',
    ({ kit }) => void (kit.derived = [{ id: 'd', name: 'own', expression: '2 * moon', unit: 'deg', min: 0, max: 10, neutral: 0 }]),
    null,
  ],
  ['brinework', 'links-meet', 'links whose ends no table keeps together', (made) => linked(made, 2), 'asking'],
  ['brinework', 'links-meet', 'links that are too short', (made) => tooShort(made), null],
  ['brinework', 'neutral-rest', 'a part that is posed at neutral', ({ kit }) => void (kit.bindings.x.rows[0].turn = [0, 3, 0]), 'asking'],
];

/** An arm on the jib and a stay on the crane whose ends are to meet, with tables that turn them by a little. */
function linked(made: Made, degrees: number): void {
  const { kit } = made;
  addPart(made, { id: 'drv_arm', role: 'driven', parent: 'drv_luff', translation: [0.5, 0.4, 0] });
  addPart(made, { id: 'drv_stay', role: 'driven', parent: 'drv_slew', translation: [0.5, 0.2, -0.5] });
  const { variable, index, rows } = kit.bindings.z;
  const values = rows.map(({ value }) => value);
  for (const part of ['drv_arm', 'drv_stay'])
    kit.bindings[part] = {
      id: part,
      variable,
      index,
      part,
      outside: 'clamp',
      rows: values.map((value, i) => ({ value, offset: [0, 0, 0], turn: [[0, degrees, -degrees][i], 0, 0], size: [1, 1, 1] })),
    };
  kit.links = [
    {
      id: 'l',
      kind: 'meet',
      parts: ['drv_arm', 'drv_stay'],
      axes: [0, 0],
      at: [0, 0.5, -1],
      on: null,
      variable,
      index,
      min: Math.min(...values),
      max: Math.max(...values),
      neutral: values[0],
    },
  ];
}

/** Links that are worked out, and reach one another for a part of the range alone. */
function tooShort(made: Made): void {
  linked(made, 2);
  const [link] = made.kit.links!;
  link.at = [0, -0.25, -0.3];
  Object.assign(made.kit, run(made.kit, made.blobs, { operation: 'wiring.renew-links', args: { links: ['l'] } }));
}

/** Rows at values times a factor, from a least one on. */
const scaledRows = (rows: BindingRow[], by: number, least = -Infinity): BindingRow[] =>
  rows.filter(({ value }) => value >= least).map((row) => ({ ...row, value: row.value * by + 0 }));

function shifted(kit: Kit, blobs: MemoryBlobs, mesh: string, x: number, y = 0): Kit['meshes'][string] {
  const [primitive] = kit.meshes[mesh].primitives;
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION).map((value, i) => value + [x, y, 0][i % 3]);
  return {
    ...kit.meshes[mesh],
    primitives: [{ ...primitive, attributes: { ...primitive.attributes, POSITION: putArray(blobs, positions, 3) } }],
  };
}

function manyVertices(kit: Kit, blobs: MemoryBlobs, mesh: string, count: number): Kit['meshes'][string] {
  const [primitive] = kit.meshes[mesh].primitives;
  const repeat = (name: string) => {
    const rows = readArray<Float32Array>(blobs, primitive.attributes[name]);
    return putArray(
      blobs,
      Float32Array.from({ length: 3 * count }, (_, i) => rows[i % rows.length]),
      3,
    );
  };
  return { ...kit.meshes[mesh], primitives: [{ ...primitive, attributes: { POSITION: repeat('POSITION'), NORMAL: repeat('NORMAL') } }] };
}

function twoImages({ kit }: Made): void {
  kit.images.two = { ...kit.images.img, id: 'two', name: 'two' };
  kit.materials.mat.emissiveTexture = { image: 'two', texCoord: 0, wrapS: 10497, wrapT: 10497 };
}

function stretch(kit: Kit, clip: string, seconds: number): void {
  const track = kit.clips[clip].tracks[0] as KeyTrack;
  track.keys.forEach((key) => (key.time *= seconds / kit.clips[clip].lengthSeconds));
  kit.clips[clip].lengthSeconds = seconds;
}

function withJoint({ kit, blobs }: Made, joint: string): Kit['skins'][string] {
  const { skin } = kit.skins;
  const matrices = readArray<Float32Array>(blobs, skin.inverseBindMatrices);
  return {
    ...skin,
    joints: [...skin.joints, joint],
    inverseBindMatrices: putArray(blobs, Float32Array.from([...matrices, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]), 16),
  };
}

function bending(made: Made): void {
  const { kit, blobs } = made;
  const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  kit.skins.skin = {
    id: 'skin',
    name: 'skin',
    joints: ['trunk', 'head'],
    inverseBindMatrices: putArray(blobs, Float32Array.from([...identity, ...identity]), 16),
  };
  addPart(made, { id: 'coat', parent: 'origin', skin: 'skin' });
  const { attributes } = kit.meshes.mesh_coat.primitives[0];
  attributes.JOINTS_0 = putArray(
    blobs,
    Uint16Array.from({ length: 16 }, (_, i) => (i % 4 === 1 ? 1 : 0)),
    4,
  );
  attributes.WEIGHTS_0 = putArray(
    blobs,
    Float32Array.from({ length: 16 }, (_, i) => [0.75, 0.25, 0, 0][i % 4]),
    4,
  );
}

const posed = (kit: Kit, blobs: MemoryBlobs): number[] => [
  ...worldVertices(kit, blobs),
  ...Object.values(kit.clips)
    .filter((clip: { tracks: Track[] }) => clip.tracks.length > 0)
    .flatMap((clip) => [0, 0.7, 1.1].flatMap((time) => worldVertices(kit, blobs, clip.id, time))),
];
/** Mends that drop or make vertices, so that they can't be held against the old ones one by one. */
const OTHER_VERTICES = new Set(['flat-triangles', 'normals', 'unused-vertices', 'tangents']);

describe.each(FAULTS)('%s %s: %s', (book, rule, _, spoil, mend, also = []) => {
  const made = () => {
    const sound = SOUND[book]();
    spoil(sound);
    const findings = check(sound.kit, sound.blobs, book);
    return { ...sound, findings, finding: findings.find((one) => one.rule === rule) as Finding };
  };

  test('is found, with no stop besides, and says what and why', () => {
    const { findings, finding } = made();
    expect([...new Set(findings.map((one) => one.rule))].sort()).toEqual([rule, ...also].sort());
    for (const other of findings) if (other.rule !== rule && !also.includes(other.rule)) expect(other.grade).not.toBe('stop');
    expect(finding.message).toMatch(/\.$/);
    expect(finding.message).not.toMatch(/undefined|NaN|\[object/);
    expect(finding.why).toMatch(/\.$/);
    expect(finding.measured).not.toBe('');
    expect(finding.limit).not.toBe('');
    expect(mendKind(finding)).toBe(mend);
    if (mend === 'asking') expect(finding.mend!.changes!.length).toBeGreaterThan(0);
  });

  if (mend === null) return;
  test('its mend settles it, and a safe one moves no vertex at any time', () => {
    const { kit, blobs, finding } = made();
    const mended = run(kit, blobs, finding.mend!.call);
    const left = check(mended, blobs, book);
    expect(left.map((one) => one.rule)).not.toContain(rule);
    expect(left.filter((one) => one.grade === 'stop').map((one) => one.message)).toEqual([]);
    if (mend === 'asking' || OTHER_VERTICES.has(rule)) return;
    const before = posed(kit, blobs);
    expect(greatestDifference(posed(mended, blobs), before)).toBeLessThanOrEqual(rule === 'number-noise' ? 2e-4 : 1e-5 * extentOf(before));
  });
});

test('every check has a fault above, but those that the rulebooks ask for in none', () => {
  const tried = new Set(FAULTS.map(([book, rule]) => SHIPPED[book].rules.find((one) => one.id === rule)!.check));
  expect([...CHECKS.keys()].filter((id) => !tried.has(id)).sort()).toEqual(['clips.one-timeline']);
});

test('clips of different lengths are found where a platform has one timeline, and lengthened', () => {
  const { kit, blobs } = SOUND.cubbin();
  const rulebook = {
    ...SHIPPED.cubbin,
    rules: [{ id: 'one', check: 'clips.one-timeline', grade: 'stop' as const, why: 'There is one timeline for all.' }],
  };
  expect(runChecks({ kit, rulebook, blobs })).toEqual([]);
  stretch(kit, 'walk', 1);
  const [finding] = runChecks({ kit, rulebook, blobs });
  expect(finding.measured).toBe('1 s');
  expect(runChecks({ kit: run(kit, blobs, finding.mend!.call), rulebook, blobs })).toEqual([]);
});

const PIVOTS: Omit<PivotRule, 'role'>[] = [
  { place: 'anchor', anchor: [0, -1, 0] },
  { place: 'anchor', anchor: [1, 1, -1] },
  { place: 'inside' },
  { place: 'on-step' },
  { place: 'on-parent-axis', axis: 1 },
];

test.each(PIVOTS)('a pivot that should be $place is found elsewhere, and moved there without moving a vertex', (pivot) => {
  const { kit, blobs } = SOUND.plotwick();
  delete kit.clips.round;
  kit.parts['ride-car'].translation = [0.503, 0, 0.5];
  kit.meshes['mesh_ride-car'] = shifted(kit, blobs, 'mesh_ride-car', 0.3);
  const rulebook = {
    ...SHIPPED.plotwick,
    pivots: [{ role: 'driven' as const, ...pivot }],
    stepMetres: 0.25,
    rules: SHIPPED.plotwick.rules.filter((rule) => rule.check === 'pivots.place'),
  };
  const [finding, ...others] = runChecks({ kit, rulebook, blobs });
  expect(others).toEqual([]);
  expect(finding.mend!.safe).toBe(true);
  const mended = run(kit, blobs, finding.mend!.call);
  expect(runChecks({ kit: mended, rulebook, blobs })).toEqual([]);
  expect(greatestDifference(worldVertices(mended, blobs), worldVertices(kit, blobs))).toBeLessThan(1e-5);
});

test('one kit, held against all seven, has seven different lists', () => {
  const { kit, blobs } = SOUND.brinework();
  const lists = Object.keys(SHIPPED).map((book) =>
    check(kit, blobs, book)
      .map((finding) => `${finding.rule}: ${finding.measured}`)
      .join('\n'),
  );
  expect(new Set(lists).size).toBe(7);
});

test.each(Object.keys(SHIPPED))(
  'mending all that is safe for %s leaves nothing safe, moves nothing, and changes nothing a second time',
  (book) => {
    const faults = FAULTS.filter(([of, rule, , , mend]) => of === book && mend === 'safe' && !OTHER_VERTICES.has(rule));
    if (faults.length === 0) return;
    const made = SOUND[book]();
    for (const [, , , spoil] of faults) spoil(made);
    const { kit, blobs } = made;
    const before = posed(kit, blobs);
    const once = mendAllSafe(kit, SHIPPED[book], blobs);
    expect(once.calls.length).toBeGreaterThan(0);
    expect(check(once.kit, blobs, book).filter((finding) => finding.mend?.safe)).toEqual([]);
    expect(greatestDifference(posed(once.kit, blobs), before)).toBeLessThan(1e-3);
    expect(mendAllSafe(once.kit, SHIPPED[book], blobs).calls).toEqual([]);
  },
);

test.each(Object.keys(SHIPPED))(
  'and so it is after any of the faults of %s together',
  (book) => {
    const faults = FAULTS.filter(([of, rule]) => of === book && !OTHER_VERTICES.has(rule));
    fc.assert(
      fc.property(fc.subarray(faults, { minLength: 1, maxLength: 4 }), (chosen) => {
        const made = SOUND[book]();
        try {
          for (const [, , , spoil] of chosen) spoil(made);
        } catch {
          return; // The one took away what the other would have spoilt.
        }
        const { kit, blobs } = made;
        const before = posed(kit, blobs);
        const once = mendAllSafe(kit, SHIPPED[book], blobs);
        const left = check(once.kit, blobs, book);
        // What can't be mended (a scale that would skew) is passed over; all else that is safe is gone.
        for (const finding of left.filter((one) => one.mend?.safe))
          expect(() => run(once.kit, blobs, finding.mend!.call)).toThrow(KitError);
        expect(mendAllSafe(once.kit, SHIPPED[book], blobs).calls).toEqual([]);
        const after = posed(once.kit, blobs);
        if (after.length === before.length) expect(greatestDifference(after.map(finite), before.map(finite))).toBeLessThan(1e-3);
      }),
      { seed: 11, numRuns: 60 },
    );
  },
  180_000,
);

const finite = (value: number) => (Number.isFinite(value) ? value : 0);

test('a mend that is impossible is passed over, and the others are made', () => {
  const { kit, blobs } = SOUND.brinework();
  kit.parts.base.scale = [1, 3, 1];
  kit.parts.hook.name = 'HOOK';
  const { kit: next } = mendAllSafe(kit, SHIPPED.brinework, blobs);
  expect(next.parts.hook.name).toBe('hook');
  expect(check(next, blobs, 'brinework').map((finding) => finding.rule)).toContain('unit-scale');
});

test('a warning can be set aside with a reason and taken up again; a stop stays one', () => {
  const { kit, blobs } = SOUND.brinework();
  kit.parts.hook.hidden = true;
  kit.parts.hook.name = 'Hook';
  const aside = (finding: string) => ({
    operation: 'kit.set-aside',
    args: { rulebook: 'brinework', finding, reason: 'Only for the fitting.' },
  });
  const next = run(kit, blobs, aside('hidden'), aside('names'));
  const findings = check(next, blobs, 'brinework');
  expect(findings.map((finding) => [finding.rule, finding.aside])).toEqual([
    ['names', null],
    ['hidden', 'Only for the fitting.'],
  ]);
  expect(countGrades(findings)).toEqual({ stop: 1, warn: 0, note: 0 });
  const again = run(next, blobs, { operation: 'kit.take-up', args: { rulebook: 'brinework', finding: 'hidden' } });
  expect(countGrades(check(again, blobs, 'brinework'))).toEqual({ stop: 1, warn: 0, note: 1 });
});

test('an anchor that follows a variable, or hangs below what moves, is found and let go', () => {
  const { kit, blobs } = SOUND.brinework();
  const rulebook = {
    ...SHIPPED.brinework,
    hierarchy: { anchors: ['hook'] },
    rules: [{ id: 'still', check: 'hierarchy.anchors', grade: 'stop' as const, why: 'It holds the quay.' }],
  };
  const found = runChecks({ kit, rulebook, blobs });
  expect(found.map(({ parts }) => kit.parts[parts[0]].name).sort()).toEqual(['drv_luff', 'drv_slew']);
  const mended = run(kit, blobs, ...found.map(({ mend }) => mend!.call));
  expect(runChecks({ kit: mended, rulebook, blobs })).toEqual([]);
});

test('a rest clip by nearly its name is named so, and not made a second time', () => {
  const { kit, blobs } = SOUND.clashmere();
  kit.clips.Rest.name = 'rest';
  const found = check(kit, blobs, 'clashmere').find(({ rule }) => rule === 'rest-first')!;
  expect(found.mend!.title).toBe('Name it “Rest”');
  const { kit: next } = mendAllSafe(kit, SHIPPED.clashmere, blobs);
  expect(next.clips.Rest.name).toBe('Rest');
  expect(Object.keys(next.clips)).toHaveLength(Object.keys(kit.clips).length);
  expect(check(next, blobs, 'clashmere')).toEqual([]);
});

test('a loop that is no whole frames long is stretched to them, and still meets at its seam', () => {
  const { kit, blobs } = SOUND.plotwick();
  kit.clips.round.loop = 'loop';
  stretch(kit, 'round', 2 + 0.4 / 24);
  const found = check(kit, blobs, 'plotwick').find(({ rule }) => rule === 'clip-frames')!;
  const next = run(kit, blobs, found.mend!.call);
  expect(next.clips.round.lengthSeconds).toBe(2);
  expect(check(next, blobs, 'plotwick').map(({ rule }) => rule)).toEqual(
    check(SOUND.plotwick().kit, blobs, 'plotwick').map(({ rule }) => rule),
  );
  const keys = next.clips.round.tracks.flatMap((track) => (track.kind === 'keys' ? track.keys : []));
  expect(Math.max(...keys.map(({ time }) => time))).toBeCloseTo(2, 9);
});
