import { furthestOf } from '../oracles/oracle';
import { plainPose, plainVertices } from '../oracles/plain-poser';
import { randomKit } from '../oracles/random-kits';
import { SeamMeasure } from './seam';

test.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12])(
  'kit %i: a seam is as wide as a plain poser finds its furthest vertex, skins and targets too',
  (seed) => {
    const { kit, blobs } = randomKit(seed, { skins: seed % 2 === 0 });
    for (const clip of Object.values(kit.clips)) {
      const { lengthSeconds } = clip;
      const measure = new SeamMeasure(kit, clip, blobs, null);
      const vertices = (time: number) => plainVertices(kit, blobs, plainPose(kit, blobs, clip, time));
      const seam = measure.between(lengthSeconds, 0, 1e-3);
      const plain = 1000 * furthestOf(vertices(lengthSeconds), vertices(0));
      // Pivots count as well, so it may be more; those of a large mesh that are not looked at may stand out a little.
      expect(seam.millimetres).toBeGreaterThan(0.97 * plain - 1e-6);
      const pivots = plainPose(kit, blobs, clip, lengthSeconds).worlds;
      const atStart = plainPose(kit, blobs, clip, 0).worlds;
      let furthestPivot = 0;
      for (const [id, world] of pivots) {
        const other = atStart.get(id)!;
        furthestPivot = Math.max(furthestPivot, Math.hypot(...[0, 1, 2].map((row) => world.elements[12 + row] - other.elements[12 + row])));
      }
      expect(seam.millimetres).toBeLessThan(1.0001 * Math.max(plain, 1000 * furthestPivot) + 1e-3);
    }
  },
);
