import fc from 'fast-check';
import type { BindingRow, Vec3 } from '../document';

const triple = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -50, max: 50 }))) as fc.Arbitrary<Vec3>;
const size = fc.tuple(...[0, 1, 2].map(() => fc.constantFrom(0.25, 0.5, 1, 2, 4))) as fc.Arbitrary<Vec3>;

/** Tables of two to eight rows whose first one is the neutral one: any of them. */
export const oddTables = fc
  .uniqueArray(fc.integer({ min: -40, max: 40 }), { minLength: 2, maxLength: 8 })
  .chain((all) =>
    fc.tuple(...all.map((value) => fc.record({ value: fc.constant(value), offset: triple, turn: triple, size }))),
  ) as fc.Arbitrary<BindingRow[]>;
