import { checkKit } from '../document';
import { ORACLES } from './oracles';
import { randomKit } from './random-kits';

test.each(Array.from({ length: 40 }, (_, seed) => seed))('random kit %i is one that the server takes', (seed) => {
  const { kit, clip } = randomKit(seed);
  expect(checkKit(kit)).toBe(kit);
  expect(kit.clips[clip.id]).toBe(clip);
});

test.each(ORACLES)('$id: $about', async ({ cases, promised, deviation }) => {
  const beyond: [seed: number, deviation: number][] = [];
  // Half of them: `npm run oracles` goes through all, and further.
  for (let seed = 1; seed <= Math.ceil(cases / 2); seed++) {
    const found = await deviation(seed);
    if (!(found <= promised)) beyond.push([seed, found]);
  }
  expect(beyond).toEqual([]);
});
