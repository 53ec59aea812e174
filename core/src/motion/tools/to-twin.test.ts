import fc from 'fast-check';
import { newPart, callOf, type Blobs, type Easing, type Kit, type KeyTrack, type Quat, type Vec3 } from '../../document';
import {
  angleBetweenQuats,
  conjugateQuat,
  decomposeMatrix,
  flattenParts,
  invertMatrix,
  multiplyQuats,
  Poser,
  quatFromTurn,
  restWorlds,
  transformPoint,
} from '../../geometry';
import { chainKit, run, withMotion } from '../../tests/helpers';
import { keysOf } from '../../tests/keys';
import { compileClip, sampleClip } from '../sampler';
import { allKeys, keysToTwin } from '.';

const chosen = (kit: Kit) => ({ clip: 'clip', keys: allKeys(kit.clips.clip.tracks) });
/** From rest to a value about or along the first axis. */
const ramp = (property: KeyTrack['property'], time: number, value: number, easing: Easing, last: Easing) => ({
  property,
  axis: 0,
  keys: [
    { time: 0, value: 0, easing },
    { time, value, easing: last },
  ],
});
const keyTracks = (kit: Kit) => kit.clips.clip.tracks.filter((track): track is KeyTrack => track.kind === 'keys');

/** A left and a right arm below a trunk, whose own axes lie any signed way that is the mirror of the other's. */
const arms = (turn: [number, number, number]) => {
  const q = quatFromTurn(turn, 'xyz');
  const mirrored: [number, number, number, number] = [q[0], -q[1], -q[2], q[3]];
  const made = chainKit([
    { id: 'trunk' },
    { id: 'left', translation: [0.5, 1, 0], rotation: q },
    { id: 'right', translation: [-0.5, 1, 0], rotation: mirrored },
  ]);
  const kit = structuredClone(withMotion(made.kit, made.blobs, 'left', 'turn', 1, [0, 1]));
  kit.parts.right.parent = kit.parts.left.parent = 'trunk';
  kit.clips.clip.tracks = [];
  return { kit, blobs: made.blobs };
};
const quarter = fc.constantFrom(0, 90, 180, 270);

test('a twin does in the mirror what its part does, and twin of twin is the identity', () => {
  fc.assert(
    fc.property(
      fc.tuple(quarter, quarter, quarter),
      fc.constantFrom('turn' as const, 'offset' as const),
      fc.constantFrom(0, 1, 2),
      keysOf(['straight']),
      (turn, property, axis, keys) => {
        const { kit, blobs } = arms(turn);
        kit.clips.clip.tracks = [
          { kind: 'keys', id: 'one', part: 'left', property, axis, keys: keys.map((key) => ({ ...key, value: key.value / 10 })) },
        ];
        const both = run(
          kit,
          blobs,
          callOf(keysToTwin, { ...chosen(kit), pairs: { left: 'right', right: 'left' }, axis: 0, bySeconds: 0 }),
        );
        const poser = new Poser(flattenParts(both));
        for (const time of [0.2, 0.9, 1.7]) {
          poser.reset();
          sampleClip(compileClip(both.clips.clip, poser.flat, blobs), time, poser.pose);
          poser.update();
          const [left, right] = [poser.worldOf('left'), poser.worldOf('right')];
          // A point of the left one, seen in the mirror, is the same point of the right one, whose own axes are those of the left one in
          // the mirror.
          const rests = restWorlds(both);
          const point: Vec3 = [0.7, 1.3, -0.2];
          const inLeft = transformPoint(invertMatrix(rests.get('left')!)!, point);
          const inRight = transformPoint(invertMatrix(rests.get('right')!)!, [-point[0], point[1], point[2]]);
          const [a, b] = [transformPoint(left, inLeft), transformPoint(right, inRight)];
          b.forEach((value, i) => expect(value).toBeCloseTo(i === 0 ? -a[i] : a[i], 6));
        }
        const reversed = structuredClone(both);
        reversed.clips.clip.tracks = reversed.clips.clip.tracks.filter((track) => track.part === 'right');
        const again = run(
          reversed,
          blobs,
          callOf(keysToTwin, { ...chosen(reversed), pairs: { left: 'right', right: 'left' }, axis: 0, bySeconds: 0 }),
        );
        const back = again.clips.clip.tracks.find((track): track is KeyTrack => track.kind === 'keys' && track.part === 'left')!;
        expect([back.property, back.axis]).toEqual([property, axis]);
        back.keys.forEach((key, i) => expect(key.value).toBeCloseTo(keys[i].value / 10, 9));
      },
    ),
  );
});

/** The arms with the right one's axes lying any way, in another order of turns, and a clip of the left one's. */
const slanted = (rests: [Vec3, Vec3], tracks: Omit<KeyTrack, 'id' | 'kind' | 'part'>[]) => {
  const { kit, blobs } = arms([0, 0, 0]);
  kit.parts.left.rotation = quatFromTurn(rests[0], 'xyz');
  Object.assign(kit.parts.right, { rotation: quatFromTurn(rests[1], 'xyz'), turnOrder: 'zyx' });
  kit.clips.clip.tracks = tracks.map((track, i) => ({ kind: 'keys', id: `t${i}`, part: 'left', ...track }));
  return { kit, blobs };
};
const toTwin = (kit: Kit, blobs: Blobs, pairs: Record<string, string> = { left: 'right', right: 'left' }) =>
  run(kit, blobs, callOf(keysToTwin, { ...chosen(kit), pairs, axis: 0, bySeconds: 0 }));
/** World turns of left and right after rest, at a time. */
const turnsAt = (kit: Kit, blobs: Blobs, time: number): [Quat, Quat] => {
  const poser = new Poser(flattenParts(kit));
  const rests = [poser.worldOf('left'), poser.worldOf('right')].map((world) => decomposeMatrix(world).rotation);
  sampleClip(compileClip(kit.clips.clip, poser.flat, blobs), time, poser.pose);
  poser.update();
  return ['left', 'right'].map((id, i) => multiplyQuats(decomposeMatrix(poser.worldOf(id)).rotation, conjugateQuat(rests[i]))) as [
    Quat,
    Quat,
  ];
};
const anyTurn = fc.tuple(
  fc.double({ min: -180, max: 180, noNaN: true }),
  fc.double({ min: -180, max: 180, noNaN: true }),
  fc.double({ min: -180, max: 180, noNaN: true }),
) as fc.Arbitrary<Vec3>;
const inMirror = ([x, y, z, w]: Quat): Quat => [x, -y, -z, w];

test('whatever way the axes of either lie, the turn is the one in the mirror at every time, and twin of twin is as it was', () => {
  fc.assert(
    fc.property(
      fc.tuple(anyTurn, anyTurn),
      fc.array(keysOf(['straight', 'hold', 'sine-both', 'curve']), { minLength: 1, maxLength: 3 }),
      (rests, all) => {
        const { kit, blobs } = slanted(
          rests,
          all.map((keys, axis) => ({ property: 'turn', axis, keys: keys.map((key) => ({ ...key, value: 2 * key.value })) })),
        );
        const both = toTwin(kit, blobs);
        const back = structuredClone(both);
        back.clips.clip.tracks = back.clips.clip.tracks.filter(({ part }) => part === 'right');
        const again = toTwin(back, blobs);
        const firsts = keyTracks(kit).map(({ keys }) => keys[0].time);
        const lasts = keyTracks(kit).map(({ keys }) => keys[keys.length - 1].time);
        for (let time = Math.min(...firsts); time < Math.max(...lasts) - 0.0005; time += 0.0371) {
          // A value that jumps at a key jumps within a tenth of a millisecond.
          if (keyTracks(kit).some(({ keys }) => keys.some((key) => time > key.time - 2e-4 && time < key.time))) continue;
          const [left, right] = turnsAt(both, blobs, time);
          expect(angleBetweenQuats(inMirror(left), right)).toBeLessThan(0.2);
          expect(angleBetweenQuats(turnsAt(again, blobs, time)[0], left)).toBeLessThan(0.4);
        }
      },
    ),
    { numRuns: 40 },
  );
});

test('a turn about a slanted axis keeps its keys and their easing where one axis of the twin does the same', () => {
  const { kit, blobs } = slanted(
    [
      [0, 0, 0],
      [35, 0, 0],
    ],
    [ramp('turn', 1, 40, 'bounce', 'hold')],
  );
  const made = keyTracks(toTwin(kit, blobs)).filter(({ part }) => part === 'right');
  expect(made.map(({ axis, keys }) => [axis, keys.map(({ time, value, easing }) => [time, Number(value.toFixed(6)), easing])])).toEqual([
    [
      0,
      [
        [0, 0, 'bounce'],
        [1, 40, 'hold'],
      ],
    ],
  ]);
});

test('offsets go by the axes of what the twins hang on, and come back by them', () => {
  const { kit, blobs } = slanted(
    [
      [0, 0, 0],
      [10, 20, 30],
    ],
    [ramp('offset', 2, 1, 'straight', 'straight')],
  );
  kit.parts.hinge = newPart({ id: 'hinge', name: 'hinge', parent: 'trunk', order: 9, rotation: quatFromTurn([20, 50, -10], 'xyz') });
  kit.parts.right.parent = 'hinge';
  const both = toTwin(kit, blobs);
  const poser = new Poser(flattenParts(both));
  const at = (time: number) => {
    poser.reset();
    sampleClip(compileClip(both.clips.clip, poser.flat, blobs), time, poser.pose);
    poser.update();
    return [...poser.worldOf('right')].slice(12, 15);
  };
  const [start, end] = [at(0), at(2)];
  end.forEach((value, k) => expect(value - start[k]).toBeCloseTo(k === 0 ? -1 : 0, 6));
  const back = structuredClone(both);
  back.clips.clip.tracks = back.clips.clip.tracks.filter(({ part }) => part === 'right');
  const again = keyTracks(toTwin(back, blobs)).filter(
    ({ part, keys }) => part === 'left' && keys.some(({ value }) => Math.abs(value) > 1e-6),
  );
  expect(again.map(({ axis }) => axis)).toEqual([0]);
  expect(again[0].keys.at(-1)!.value).toBeCloseTo(1, 9);
});

test('a part without a twin is refused by name, and so is a size that differs by slanted axes; one size in all is copied', () => {
  const size = (axis: number, value: number) => ({ property: 'size' as const, axis, keys: [{ time: 0, value, easing: 'hold' as const }] });
  const uneven = slanted(
    [
      [0, 0, 0],
      [30, 20, 10],
    ],
    [size(0, 2)],
  );
  expect(() => toTwin(uneven.kit, uneven.blobs)).toThrow(/size that differs/);
  expect(() => toTwin(uneven.kit, uneven.blobs, {})).toThrow(/no twin/);
  const even = slanted(
    [
      [0, 0, 0],
      [30, 20, 10],
    ],
    [size(0, 2), size(1, 2), size(2, 2)],
  );
  expect(keyTracks(toTwin(even.kit, even.blobs)).filter(({ part }) => part === 'right')).toHaveLength(3);
});
