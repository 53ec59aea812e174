import fc from 'fast-check';
import { emptyKit, MemoryBlobs, newMaterial, newPart, type Clip, type Id, type Kit, type Role, type Track } from '../document';
import { quatFromTurn } from '../geometry';
import { putWedge } from './helpers';

/** Kits as strangers make them: names of all kinds, numbers with noise, clips that meet no rule. */

const NAMES = [
  'Body',
  'Body.001',
  'ARMLeft',
  'arm_l',
  'Arm L',
  'part',
  'part_2',
  'PART',
  '1',
  '007 wheel',
  'é tage',
  '左',
  'a  b',
  'Walk!',
  'walk',
  'drv_Arm',
  'seat-2',
  'Root',
  'x'.repeat(90),
  '___',
  '',
];
const name = fc.constantFrom(...NAMES);
const noise = fc.constantFrom(0, 0, 1e-9, -1e-7, 3e-6, 1e-4);
const place = fc.tuple(fc.constantFrom(0, 0.25, -1, 1.3, 40), noise).map(([value, off]) => value + off);
const size = fc.constantFrom(1, 1, 1 + 1e-7, 0.999999, 2, 0.01, -1, 100);
const turn = fc.tuple(fc.constantFrom(0, 0, 90, -90, 33), fc.constantFrom(0, 0, 1e-5, 1e-3)).map(([value, off]) => value + off);
const three = <T>(one: fc.Arbitrary<T>) => fc.tuple(one, one, one) as fc.Arbitrary<[T, T, T]>;

const part = fc.record({
  name,
  role: fc.constantFrom<Role | null>(null, null, null, 'driven', 'base', 'seat', 'mount', 'marker'),
  translation: three(place),
  turn: three(turn),
  scale: fc.oneof(
    three(size),
    size.map((s) => [s, s, s] as [number, number, number]),
  ),
  mesh: fc.boolean(),
  above: fc.nat(9),
  hidden: fc.boolean(),
});

const key = fc.record({
  time: fc.tuple(fc.nat(40), noise).map(([frame, off]) => Math.abs(frame / 24 + off)),
  value: fc.constantFrom(0, 0.1, -45, 90, 190, 400, 1e-7),
  easing: fc.constantFrom('hold' as const, 'straight' as const, 'curve' as const, 'elastic-out' as const),
});
const clip = fc.record({
  name: fc.constantFrom('Walk', 'walk!', 'walk', 'Take 001', 'idle', '', 'rest', 'é', 'idle.001'),
  lengthSeconds: fc.constantFrom(1, 1.02, 0.5, 2.000001, 12),
  rate: fc.constantFrom(24, 30, 29.97, 60),
  loop: fc.constantFrom('once' as const, 'loop' as const, 'ping-pong' as const, 'hold' as const),
  tracks: fc.array(
    fc.record({
      part: fc.nat(9),
      property: fc.constantFrom('offset' as const, 'turn' as const, 'size' as const, 'shown' as const),
      axis: fc.nat(2),
      keys: fc.array(key, { maxLength: 5 }),
    }),
    { maxLength: 4 },
  ),
});
const binding = fc.record({
  part: fc.nat(9),
  variable: fc.constantFrom('crane_slew_angle', 'gate_lift', 'nothing_such'),
  index: fc.constantFrom(null, 0, 14),
  values: fc.uniqueArray(fc.constantFrom(-170, -1, 0, 0.5, 1, 90, 170), { maxLength: 4 }),
});

/** Any such kit, and where its blobs are. */
export const oddKit: fc.Arbitrary<{ kit: Kit; blobs: MemoryBlobs }> = fc
  .record({
    parts: fc.array(part, { minLength: 1, maxLength: 8 }),
    clips: fc.array(clip, { maxLength: 4 }),
    bindings: fc.array(binding, { maxLength: 3 }),
    tints: fc.array(fc.constantFrom('paint', 'paint', 'Paint.001'), { maxLength: 3 }),
  })
  .map(({ parts, clips, bindings, tints }) => {
    const blobs = new MemoryBlobs();
    const kit = emptyKit('Odd');
    const ids = parts.map((_, i) => `p${i}`);
    const idOf = (n: number): Id => ids[n % ids.length];
    tints.forEach((tint, i) => (kit.materials[`m${i}`] = newMaterial({ id: `m${i}`, name: tint, baseColor: [0.2 * i, 0.5, 1, 1] })));
    parts.forEach(({ turn: degrees, mesh, above, ...fields }, i) => {
      const shown = mesh ? putWedge(kit, blobs, `mesh${i}`, 0.3) : null;
      if (shown !== null && tints.length > 0) kit.meshes[shown].primitives[0].material = `m${i % tints.length}`;
      // Never below itself: only below one that came before.
      const parent = i === 0 || above % 3 === 0 ? null : ids[above % i];
      kit.parts[ids[i]] = newPart({ ...fields, id: ids[i], order: i, parent, mesh: shown, rotation: quatFromTurn(degrees, 'xyz') });
    });
    clips.forEach(({ tracks, ...fields }, i) => {
      const seen = new Set<string>();
      const own = tracks.flatMap(({ part: n, property, axis, keys }, t): Track[] => {
        const at = property === 'shown' ? 0 : axis;
        const which = `${idOf(n)} ${property} ${at}`;
        const sorted = keys.sort((a, b) => a.time - b.time).filter((one, k, all) => k === 0 || one.time > all[k - 1].time);
        if (seen.has(which) || sorted.length === 0) return [];
        seen.add(which);
        return [{ kind: 'keys', id: `t${i}_${t}`, part: idOf(n), property, axis: at, keys: sorted }];
      });
      kit.clips[`c${i}`] = { ...fields, id: `c${i}`, order: i, tracks: own } satisfies Clip;
    });
    bindings.forEach(({ part: n, variable, index, values }, i) => {
      const rows = values.map(
        (value) => ({ value, offset: [0, 0, 0], turn: [0, value, 0], size: [1, 1, 1] }) as Kit['bindings'][string]['rows'][number],
      );
      kit.bindings[`b${i}`] = {
        id: `b${i}`,
        part: idOf(n),
        variable,
        index,
        rows,
        outside: 'clamp',
        ...(i % 2 && { between: 'curve' as const }),
      };
    });
    return { kit, blobs };
  });
