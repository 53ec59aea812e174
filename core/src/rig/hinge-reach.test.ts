import fc from 'fast-check';
import { emptyKit, MemoryBlobs, newPart, putArray, type Vec3 } from '../document';
import { box, together, type Surface } from '../tests/bodies';
import { hingeLimits, hingeReach } from './hinge-reach';

/** A kit with one part a surface, by name. */
function kitOf(surfaces: Record<string, Surface>) {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Doors');
  for (const [id, { positions, indices }] of Object.entries(surfaces)) {
    const attributes = { POSITION: putArray(blobs, Float32Array.from(positions), 3) };
    const primitive = { material: null, attributes, indices: putArray(blobs, Uint32Array.from(indices), 1) };
    kit.meshes[id] = { id, name: id, primitives: [primitive] };
    kit.parts[id] = newPart({ id, name: id, mesh: id });
  }
  return { kit, blobs };
}

const UPRIGHT: [Vec3, Vec3] = [
  [0, 0, 0],
  [0, 1, 0],
];
const THICK = 0.02;
const door = box([0.01, 0, -THICK], [1, 2, THICK]);
const reach = (surfaces: Record<string, Surface>, line = UPRIGHT, moving = ['door']) => {
  const { kit, blobs } = kitOf(surfaces);
  return hingeReach(kit, moving, line, blobs);
};

test('a door turns until its face meets the corner of a post: the angle is that of plane geometry, to half a degree', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(number(-0.4, 0.4), number(0.3, 0.7), fc.constantFrom(1, -1), (x, z, side) => {
      // The post stands at z (right-handed about y, +x turns to −z), so the door meets it turning the negative way where z > 0.
      const post = box([x, 0, Math.min(side * z, side * (z + 0.1))], [x + 0.1, 2, Math.max(side * z, side * (z + 0.1))]);
      const corners = [x, x + 0.1].flatMap((cx) => [z, z + 0.1].map((cz) => [cx, cz] as const));
      const angles = corners
        .filter((corner) => Math.hypot(...corner) < 1)
        .map(([cx, cz]) => ((Math.atan2(cz, cx) - Math.asin(THICK / Math.hypot(cx, cz))) * 180) / Math.PI);
      fc.pre(angles.length === 4);
      const found = reach({ door, post })!;
      const [met, free] = side > 0 ? [-found.min!, found.max] : [found.max!, found.min];
      expect(Math.abs(met - Math.min(...angles))).toBeLessThanOrEqual(0.511);
      expect(met).toBeLessThanOrEqual(Math.min(...angles) + 1e-3);
      expect([free, found.opens]).toEqual([null, side]);
    }),
    { numRuns: 40 },
  );
});

test('what grinds about the line, and what runs through it at rest, stops nothing', () => {
  const barrel = box([-0.03, 0.2, -0.03], [0.03, 0.4, 0.03]);
  const wall = box([-1, 0, -THICK], [0, 2, THICK]);
  const { min, max } = reach({ door, frame: together(barrel, wall) })!;
  // Folded back until face meets face, 2 cm each, beyond the 6 cm that grind.
  const folded = 180 - (2 * Math.atan2(THICK, 0.06) * 180) / Math.PI;
  expect(Math.abs(-min! - folded)).toBeLessThan(3);
  expect(Math.abs(max! - folded)).toBeLessThan(3);
});

test('parts below the one that turns go with it; nothing stands, nothing stops', () => {
  const { kit, blobs } = kitOf({ door, knob: box([0.8, 1, 0.02], [0.9, 1.1, 0.5]), post: box([0.5, 0, -0.9], [0.6, 2, -0.8]) });
  kit.parts.knob.parent = 'door';
  const found = hingeReach(kit, ['door'], UPRIGHT, blobs)!;
  expect(found.min).toBeNull();
  expect(found.max).toBeGreaterThan(40);
  expect(hingeReach(kitOf({ door }).kit, ['door'], UPRIGHT, kitOf({ door }).blobs)).toBeNull();
});

test('a line that points the other way has the same reach the other way round', () => {
  const post = box([0.2, 0, 0.5], [0.3, 2, 0.6]);
  const one = reach({ door, post })!;
  const other = reach({ door, post }, [UPRIGHT[1], UPRIGHT[0]])!;
  expect([other.min, other.max, other.opens]).toEqual([one.max, -one.min!, -one.opens]);
});

test.each([
  [null, 0, 90],
  [{ min: null, max: null, opens: -1 }, -90, 0],
  [{ min: -0.5, max: 104.5, opens: 1 }, 0, 104.5],
  [{ min: -82, max: null, opens: 1 }, -82, 180],
] as const)('of %p a hinge starts between %d° and %d°', (found, min, max) => {
  expect(hingeLimits(found)).toEqual({ min, max });
});
