import fc from 'fast-check';
import { produce } from 'immer';
import {
  blobsOf,
  callOf,
  checkKit,
  checkTouched,
  kitDifferences,
  KitSchemaError,
  newPart,
  putArray,
  SECTION_LIST,
  subtreeOf,
  type Blobs,
  type Coupling,
  type Id,
  type KeyTrack,
  type Kit,
} from '..';
import { CANONICAL, changeOfSpace, conformKit, couplingInWorld, restWorlds, takeOutParts } from '../../geometry';
import { takeClips } from '../../motion';
import { OPERATIONS, runCall } from '../../operations';
import { CheckRunner } from '../../rulebook';
import { dissolveParents, loadSimplifier, removeEmpty, removeParts, setTransform } from '../../shape';
import { packKit, readPackage } from '../../ship';
import { CALLS, made } from '../../tests/calls';
import { chainKit, withMotion } from '../../tests/helpers';
import { SHIPPED } from '../../tests/sound-kits';
import { MemoryBlobs } from '../blobs';

beforeAll(loadSimplifier);

/** The kit of every operation's call, with something in every section. */
const whole = () => {
  const { kit, blobs } = made();
  kit.clips.second.cues = [{ id: 'bell', time: 0, kind: 'sound', name: 'bell', part: 'c' }];
  kit.clips.second.overlay = { place: 'over', mode: 'add', parts: ['b', 'c'] };
  return { kit: checkKit(kit), blobs };
};
const changed = (kit: Kit, change: (draft: Kit) => void): Kit => produce(kit, (draft) => change(draft as Kit));

test('the kit of these tests has something in every section', () => {
  const { kit } = whole();
  for (const { name } of SECTION_LIST) expect(Object.keys(kit[name] as object).length).toBeGreaterThan(0);
});

describe('what does not hold together is refused, by the look at what was touched as by the look at all', () => {
  const accessor = (blobs: Blobs, rows: number) => putArray(blobs, new Float32Array(3 * rows), 3);
  const spoils: [string, (kit: Kit, blobs: Blobs) => void][] = [
    ['a part under another id', (kit) => (kit.parts.b.id = 'c')],
    ['a rotation that is none', (kit) => (kit.parts.b.rotation = [0, 0, 0, 3])],
    ['normals that are fewer than places', (kit, blobs) => (kit.meshes.mesh_b.primitives[0].attributes.NORMAL = accessor(blobs, 3))],
    [
      'a level whose normals are fewer',
      (kit, blobs) => (kit.meshes.mesh_a.levels![0].primitives[0].attributes.NORMAL = accessor(blobs, 2)),
    ],
    ['half a triangle', (kit, blobs) => (kit.meshes.mesh_b.primitives[0].indices = putArray(blobs, Uint32Array.of(0, 1, 2, 0), 1))],
    ['a mesh without places', (kit) => delete kit.meshes.mesh_b.primitives[0].attributes.POSITION],
    ['keys out of order', (kit) => reverseKeys(kit)],
    ['two keys at one time', (kit) => doubleKeys(kit)],
    ['binds for fewer joints', (kit) => kit.skins.skin.joints.pop()],
    ['a cue from a part of another kit', (kit) => (kit.clips.second.cues![0].part = 'theirs')],
    ['an overlay of a part of another kit', (kit) => kit.clips.second.overlay!.parts!.push('theirs')],
    ['a binding of a part that is gone', (kit) => (kit.bindings.x.part = 'theirs')],
    ['a part in two bodies', (kit) => kit.bodies![1].parts.push('a')],
    ['a coupling of a body that is gone', (kit) => kit.bodies!.pop()],
    ['a measure on a part that is gone', (kit) => (kit.callouts![0].points[0].part = 'theirs')],
    ['a part that goes with its track left', (kit) => delete kit.parts.leg3],
    ['a parked track with its keys out of order', (kit) => parkReversed(kit)],
    ['a picture that a material reads', (kit) => delete kit.images.img],
  ];
  const keysOf = (kit: Kit) => (kit.clips.clip.tracks[0] as { keys: { time: number }[] }).keys;
  const reverseKeys = (kit: Kit) => keysOf(kit).reverse();
  const doubleKeys = (kit: Kit) => (keysOf(kit)[1].time = keysOf(kit)[0].time);
  const parkReversed = (kit: Kit) => {
    const track = JSON.parse(JSON.stringify(kit.clips.clip.tracks[0])) as KeyTrack;
    track.keys.reverse();
    kit.parked!.push({ id: 'q', partName: 'gone', kind: 'track', clip: 'clip', track });
  };

  test.each(spoils)('%s', (what, spoil) => {
    const { kit, blobs } = whole();
    const spoilt = changed(kit, (draft) => {
      // The track that is left is one of the leg that goes.
      if (what.startsWith('a part that goes')) draft.clips.standing.tracks[0].part = 'leg3';
    });
    const bad = changed(spoilt, (draft) => void spoil(draft, blobs));
    expect(() => checkKit(bad)).toThrow(KitSchemaError);
    expect(() => checkTouched(spoilt, bad)).toThrow(KitSchemaError);
  });

  test('and what any operation leaves passes both', () => {
    for (const [operation, args] of Object.entries(CALLS)) {
      const { kit, blobs } = made();
      const after = runCall(kit, { operation, args }, blobs).kit;
      expect(() => checkTouched(kit, after)).not.toThrow();
    }
    expect(OPERATIONS.size).toBe(Object.keys(CALLS).length);
  });
});

test('parts that are taken out, whichever, leave a kit that holds together and asks for no blob that it had not', () => {
  const { kit, blobs } = whole();
  const ids = Object.keys(kit.parts);
  fc.assert(
    fc.property(fc.subarray(ids, { minLength: 1 }), (chosen) => {
      const gone = new Set(chosen.flatMap((id) => [...subtreeOf(kit, id)]));
      const after = checkKit(changed(kit, (draft) => takeOutParts(draft, gone)));
      const before = blobsOf(kit);
      for (const sha of blobsOf(after)) expect(before.has(sha)).toBe(true);
      expect(JSON.stringify({ ...after, parts: Object.keys(after.parts), parked: null })).not.toMatch(
        new RegExp(`"(part|parent|joint)":"(${[...gone].join('|')})"`),
      );
      expect(new CheckRunner(SHIPPED.brinework, blobs).run(after)).toBeInstanceOf(Array);
    }),
    { numRuns: 30 },
  );
});

describe('couplings stay where they are in the world', () => {
  /** A post that holds a door, by an empty part in front of its mesh. */
  const gate = () => {
    const { kit, blobs } = chainKit([{ id: 'post' }, { id: 'door', translation: [0, 0, 3] }]);
    for (const id of ['hollow', 'post', 'door']) kit.parts[id] = { ...(kit.parts[id] ?? newPart({ id, name: id })), parent: null };
    Object.assign(kit.parts.hollow, { translation: [4, 0, 0], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2] });
    kit.bodies = [
      { id: 'held', name: 'Held', parts: ['hollow', 'post'], anchored: true },
      { id: 'moves', name: 'Moves', parts: ['door'], anchored: false },
    ];
    kit.couplings = [
      { id: 'hinge', name: 'Hinge', kind: 'hinge', from: 'held', to: 'moves', at: [1, 2, 0.5], axis: [1, 0, 0], min: 0, max: 90 },
    ];
    return { kit: checkKit(kit), blobs };
  };
  const inWorld = (kit: Kit) => {
    const { at, axis } = couplingInWorld(kit, kit.couplings![0] as Coupling, restWorlds(kit));
    return [...at, ...axis].map((value) => Number(value.toFixed(6)) + 0);
  };

  test.each([
    ['empty parts are taken out', callOf(removeEmpty, {})],
    ['a part in front is deleted', callOf(removeParts, { parts: ['hollow'] })],
    ['a parent is dissolved', callOf(dissolveParents, { parts: ['hollow'] })],
  ])('when %s', (_, call) => {
    const { kit, blobs } = gate();
    const after = runCall(kit, call, blobs).kit;
    expect(after.parts.hollow).toBeUndefined();
    expect(inWorld(after)).toEqual(inWorld(kit));
  });

  test('when a new version of the source has the part no more', () => {
    const { kit, blobs } = gate();
    for (const part of Object.values(kit.parts)) Object.assign(part, { from: part.name });
    const next = chainKit([
      { id: 'n1', name: 'post' },
      { id: 'n2', name: 'door' },
    ]).kit;
    for (const mesh of Object.values(next.meshes)) mesh.primitives = kit.meshes.mesh_post.primitives;
    next.parts.n2.parent = null;
    const args = { next, base: null, matches: { n1: 'post', n2: 'door' } };
    const after = runCall(kit, { operation: 'intake.take-version', args }, blobs).kit;
    expect(Object.keys(after.parts).sort()).toEqual(['door', 'post']);
    expect(inWorld(after)).toEqual(inWorld(kit));
  });

  test('and where the body that holds goes whole, the coupling goes too', () => {
    const { kit, blobs } = gate();
    const after = runCall(kit, callOf(removeParts, { parts: ['hollow', 'post'] }), blobs).kit;
    expect([after.bodies?.length, after.couplings]).toEqual([1, undefined]);
  });
});

test('geometry that is scaled takes the distance of its levels along', () => {
  const { kit, blobs } = made();
  kit.meshes.mesh_a.levels = [{ name: 'far', errorMm: 4, primitives: kit.meshes.mesh_a.primitives }];
  const sized = runCall(kit, callOf(setTransform, { part: 'a', scale: [2, 2, 2] }), blobs).kit;
  const applied = runCall(sized, { operation: 'shape.apply-scale', args: { parts: ['a'] } }, blobs).kit;
  expect(applied.meshes[applied.parts.a.mesh!].levels![0].errorMm).toBeCloseTo(8, 9);
  const settled = changed(kit, (draft) => conformKit(draft, changeOfSpace({ ...CANONICAL, metresPerUnit: 0.01 }, CANONICAL), blobs));
  expect(settled.meshes.mesh_a.levels![0].errorMm).toBeCloseTo(0.04, 9);
});

test('another space and back is the same kit, in every section', () => {
  const { kit, blobs } = whole();
  const space = { metresPerUnit: 0.5, up: '+z', forward: '-x', handedness: 'left' } as const;
  const there = changed(kit, (draft) => conformKit(draft, changeOfSpace(CANONICAL, space), blobs));
  const back = changed(there, (draft) => conformKit(draft, changeOfSpace(space, CANONICAL), blobs));
  expect(kitDifferences(kit, there).length).toBeGreaterThan(3);
  const numbers = (of: Kit) =>
    JSON.parse(JSON.stringify({ ...of, meshes: null, skins: null }), (_, value: unknown) =>
      typeof value === 'number' ? Number(value.toFixed(9)) + 0 : value,
    );
  expect(numbers(back)).toEqual(numbers(kit));
});

test('what the manifest says of the sections comes back from the package', async () => {
  const { kit, blobs } = whole();
  const alone = changed(
    kit,
    (draft) => void (draft.clips = { clip: draft.clips.clip, second: { ...draft.clips.second, name: 'overlay' } }),
  );
  const store = new MemoryBlobs();
  const { kit: read } = await readPackage((await packKit(alone, SHIPPED.brinework, blobs, [])).bytes, store);
  const names = (of: Kit, ids: readonly Id[]) => ids.map((id) => of.parts[id].name);
  expect(read.bodies!.map((body) => [body.name, body.anchored, names(read, body.parts)])).toEqual(
    kit.bodies!.map((body) => [body.name, body.anchored, names(kit, body.parts)]),
  );
  expect(
    read.couplings!.map(({ name, kind, max, from, to }) => [
      name,
      kind,
      max,
      ...[from, to].map((id) => read.bodies!.find((one) => one.id === id)!.name),
    ]),
  ).toEqual([['Hinge', 'hinge', 90, 'One', 'Two']]);
  const overlay = Object.values(read.clips).find(({ name }) => name === 'overlay')!;
  expect(names(read, overlay.overlay!.parts!)).toEqual(['b', 'c']);
  expect([overlay.cues![0].name, names(read, [overlay.cues![0].part!])]).toEqual(['bell', ['c']]);
  expect(Object.values(read.bindings).map(({ variable, part }) => [variable, read.parts[part].name])).toEqual([['v', 'b']]);
  expect(() => checkKit(read)).not.toThrow();
});

test('clips of another kit come with cues and overlays of our parts, so that every later change can be saved', () => {
  const theirs = chainKit([{ id: 'hip', name: 'a' }, { id: 'spare' }]);
  const source = changed(withMotion(theirs.kit, theirs.blobs, 'hip', 'turn', 0, [0, 45]), ({ clips: { clip } }) => {
    clip.cues = [
      { id: 'step', time: 0, kind: 'sound', name: 'bell', part: 'hip' },
      { id: 'dust', time: 1, kind: 'effect', name: 'dust', part: 'spare' },
    ];
    clip.overlay = { place: 'under', mode: 'add', parts: ['hip', 'spare'] };
  });
  const { kit, blobs } = made();
  const call = callOf(takeClips, {
    source,
    clips: ['clip'],
    pairs: { hip: 'b', spare: null },
    scale: 1,
    as: { clip: { id: 'mine', name: 'Theirs' } },
  });
  const { mine } = checkKit(runCall(kit, call, blobs).kit).clips;
  expect(mine.cues!.map(({ part }) => part)).toEqual(['b', null]);
  expect(mine.overlay!.parts).toEqual(['b']);
});
