import { type Kit, type MemoryBlobs } from '../document';
import { Random } from '../oracles/random';
import { runCall } from '../operations';
import { chainKit } from '../tests/helpers';
import { SHIPPED } from '../tests/sound-kits';
import { runChecks } from './check-runner';

/** Bodies of a part each, coupled at random. */
function assembly(seed: number): { kit: Kit; blobs: MemoryBlobs; random: Random } {
  const random = new Random(seed);
  const count = random.whole(2, 9);
  const { kit, blobs } = chainKit(Array.from({ length: count }, (_, i) => ({ id: `p${i}`, parent: null, order: i })));
  kit.bodies = Array.from({ length: count }, (_, i) => ({
    id: `b${i}`,
    name: `body ${i}`,
    parts: [`p${i}`],
    anchored: random.chance(0.3),
  }));
  kit.couplings = Array.from({ length: random.whole(0, count + 3) }, (_, i) => {
    const from = random.whole(0, count - 1);
    const to = (from + random.whole(1, count - 1)) % count;
    return {
      id: `c${i}`,
      name: `coupling ${i}`,
      kind: 'hinge' as const,
      from: `b${from}`,
      to: `b${to}`,
      at: [0, 0, 0],
      axis: [0, 1, 0],
      min: -10,
      max: 10,
    };
  });
  return { kit, blobs, random };
}

/** How many pieces the bodies hang together in, by spreading from each. */
function pieces({ bodies = [], couplings = [] }: Kit): number {
  const left = new Set(bodies.map(({ id }) => id));
  let count = 0;
  for (const { id } of bodies) {
    if (!left.has(id)) continue;
    count++;
    const todo = [id];
    while (todo.length > 0) {
      const at = todo.pop()!;
      if (!left.delete(at)) continue;
      for (const { from, to } of couplings) if (from === at || to === at) todo.push(from === at ? to : from);
    }
  }
  return count;
}

const ask = (kit: Kit, blobs: MemoryBlobs, check: string) =>
  runChecks({ kit, blobs, rulebook: { ...SHIPPED.plotwick, rules: [{ id: 'asked', check, grade: 'warn', why: 'A test asks.' }] } });

test.each(Array.from({ length: 30 }, (_, i) => i))('rings are as many as couplings beyond what holds the pieces together (%i)', (seed) => {
  const { kit, blobs } = assembly(seed);
  // Euler: of a graph with V corners, E edges and C pieces, E − V + C edges close a ring.
  const rings = kit.couplings!.length - kit.bodies!.length + pieces(kit);
  const [finding] = ask(kit, blobs, 'assembly.loops');
  expect(finding?.measured ?? '0 rings').toBe(rings === 1 ? '1 ring' : `${rings} rings`);
  if (!finding) return;
  const mended = runCall(kit, finding.mend!.call, blobs).kit;
  expect(ask(mended, blobs, 'assembly.loops')).toEqual([]);
  expect(pieces(mended)).toBe(pieces(kit));
});

test.each(Array.from({ length: 20 }, (_, i) => i))('exactly one body stands still once the mend was made (%i)', (seed) => {
  const { kit, blobs } = assembly(seed);
  const still = kit.bodies!.filter(({ anchored }) => anchored).length;
  const [finding] = ask(kit, blobs, 'assembly.anchored');
  expect(finding?.measured ?? '1 anchored').toBe(`${still} anchored`);
  if (!finding) return;
  const mended = runCall(kit, finding.mend!.call, blobs).kit;
  expect(mended.bodies!.filter(({ anchored }) => anchored)).toHaveLength(1);
  expect(ask(mended, blobs, 'assembly.anchored')).toEqual([]);
});
