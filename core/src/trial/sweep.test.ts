import fc from 'fast-check';
import { emptyKit, MemoryBlobs, newPart, putArray, type Binding, type BindingRow, type Kit, type Part, type Vec3 } from '../document';
import type { Variable } from '../rulebook';
import type { Lever } from './lever';
import { sweepAll, type Swept } from './sweep';

const blobs = new MemoryBlobs();

/** A box about its own origin. */
function box(kit: Kit, id: string, [x, y, z]: Vec3): string {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [i & 1 ? x : -x, i & 2 ? y : -y, i & 4 ? z : -z].map((value) => value / 2));
  const faces = [0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5];
  const attributes = { POSITION: putArray(blobs, Float32Array.from(corners), 3) };
  kit.meshes[id] = { id, name: id, primitives: [{ material: null, attributes, indices: putArray(blobs, Uint32Array.from(faces), 1) }] };
  return id;
}

interface Made extends Partial<Part> {
  id: string;
  size: Vec3;
}

function kitOf(...parts: Made[]): Kit {
  const kit = emptyKit('Test');
  parts.forEach(({ size, ...fields }, order) => {
    kit.parts[fields.id] = newPart({ name: fields.id, order, mesh: box(kit, fields.id, size), ...fields });
  });
  return kit;
}

const row = (value: number, fields: Partial<BindingRow>): BindingRow => ({
  value,
  offset: [0, 0, 0],
  turn: [0, 0, 0],
  size: [1, 1, 1],
  ...fields,
});

function lever(kit: Kit, key: string, min: number, max: number, ...bound: { part: string; rows: BindingRow[] }[]): Lever {
  const bindings = bound.map(({ part, rows }, i): Binding => ({
    id: `${key}${i}`,
    part,
    variable: key,
    index: null,
    outside: 'clamp',
    rows,
  }));
  for (const binding of bindings) kit.bindings[binding.id] = binding;
  return { key, variable: { name: key, min, max, neutral: 0, unit: 'm', indices: 0 } as Variable, index: null, bindings, switches: [] };
}

function swept(kit: Kit, ...levers: Lever[]): Swept {
  return sweepAll(kit, blobs, levers);
}

const slide = (part: string, by: Vec3) => ({ part, rows: [row(0, {}), row(1, { offset: by })] });

test('a slide meets what stands in its way where their faces meet, whatever the gap', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.01, max: 0.9, noNaN: true }), fc.constantFrom(1, -1), (gap, sign) => {
      const kit = kitOf(
        { id: 'wall', size: [1, 1, 1], translation: [sign * (1 + gap), 0.1, 0.07] },
        { id: 'cart', size: [1, 0.6, 0.6], role: 'driven' },
      );
      const { crossings, still } = swept(kit, lever(kit, 'run', 0, 1, slide('cart', [sign, 0, 0])));
      expect(still).toEqual([]);
      expect(crossings.map(({ parts, key }) => [key, [...parts].sort()])).toEqual([['run', ['cart', 'wall']]]);
      expect(crossings[0].value).toBeCloseTo(gap, 5);
      expect(Math.abs(crossings[0].at[0])).toBeCloseTo(0.5 + gap, 4);
    }),
    { numRuns: 25 },
  );
});

test('both ways from neutral are looked at; what moves as one, and what touches at rest, is meant', () => {
  const kit = kitOf(
    { id: 'left', size: [1, 1, 1], translation: [1.5, 0, 0] },
    { id: 'right', size: [1, 1, 1], translation: [-1.4, 0, 0] },
    { id: 'cart', size: [1, 0.5, 0.5], role: 'driven' },
    { id: 'load', size: [0.2, 0.2, 0.2], parent: 'cart', translation: [0, 0.3, 0] },
    { id: 'rail', size: [8, 0.1, 0.3], translation: [0, -0.3, 0] },
  );
  const run = lever(kit, 'run', -1, 1, {
    part: 'cart',
    rows: [row(0, {}), row(-1, { offset: [-1, 0, 0] }), row(1, { offset: [1, 0, 0] })],
  });
  const found = swept(kit, run).crossings.map(({ value, parts }) => [Number(value.toFixed(4)), [...parts].sort().join(' ')]);
  // The load is half a metre further in: it reaches the walls, too, but later.
  expect(found).toEqual([
    [-0.4, 'cart right'],
    [0.5, 'cart left'],
    [-0.8, 'load right'],
    [0.9, 'left load'],
  ]);
});

test('parts of one variable that move differently are tried against each other; a driven part that nothing moves is named', () => {
  const kit = kitOf(
    { id: 'a', size: [0.4, 0.4, 0.4], translation: [-1, 0, 0], role: 'driven' },
    { id: 'b', size: [0.4, 0.4, 0.4], translation: [1, 0, 0.03], role: 'driven' },
    { id: 'idle', size: [0.1, 0.1, 0.1], translation: [0, 5, 0], role: 'driven' },
  );
  const { crossings, still } = swept(kit, lever(kit, 'close', 0, 1, slide('a', [1, 0, 0]), slide('b', [-1, 0, 0])));
  expect(crossings).toHaveLength(1);
  expect(crossings[0].value).toBeCloseTo(0.8, 5);
  expect(still).toEqual(['idle']);
});

test('boxes that overlap only as boxes do not meet: a plate turned beside a post', () => {
  const kit = kitOf({ id: 'post', size: [0.1, 0.1, 2], translation: [0.62, 0.62, 0] }, { id: 'plate', size: [1, 1, 0.1], role: 'driven' });
  // The corner of the plate goes round at 0.707 m; the post's nearest edge stands at 0.806 m.
  const turned = lever(kit, 'turn', 0, 90, { part: 'plate', rows: [row(0, {}), row(90, { turn: [0, 0, 90] })] });
  expect(swept(kit, turned).crossings).toEqual([]);
});
