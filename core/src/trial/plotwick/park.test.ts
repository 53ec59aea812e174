import fc from 'fast-check';
import { MemoryBlobs, type Id, type Kit, type Walkway } from '../../document';
import { graphOf, reachedFrom } from '../../grounds';
import { packKit, readPackage, type LoadedPackage } from '../../ship';
import { SHIPPED, SOUND } from '../../tests/sound-kits';
import { trialFor } from '..';
import { Park } from './park';
import { fieldTo, openPlot } from './plot';
import { putDown, turnedBy } from './terrain';

const rulebook = SHIPPED.plotwick;

/** A package of a sound kit with a ride of two seconds, spoilt by the caller. */
async function packed(spoil: (kit: Kit) => void = () => undefined): Promise<LoadedPackage> {
  const { kit, blobs } = SOUND.plotwick();
  kit.clips.round.loop = 'once';
  kit.grounds!.states = [{ state: 'run', clip: 'round', from: 0, to: null, over: 0 }];
  spoil(kit);
  return readPackage((await packKit(kit, rulebook, blobs, [])).bytes, new MemoryBlobs());
}

describe('a park', () => {
  test('lets everybody come, ride and leave, one after the other where there is one seat', async () => {
    const park = new Park(openPlot(await packed(), rulebook), { visitors: 5, wait: 1 });
    park.pass(120);
    expect(park.counts).toEqual({ came: 5, boarded: 5, rides: 5, rode: 5, left: 5, gaveUp: 0, waiting: 0, stuck: 0 });
  });

  test('the same package and the same time give the same park, in whatever steps it passes', async () => {
    const plot = openPlot(await packed(), rulebook);
    const [a, b] = [1, 2].map(() => new Park(plot, { visitors: 20, wait: 3 }));
    a.pass(40);
    for (let i = 0; i < 960; i++) b.pass(1 / 24);
    expect(b.counts).toEqual(a.counts);
    b.visitors.forEach(({ at }, i) => at.forEach((value, axis) => expect(value).toBeCloseTo(a.visitors[i].at[axis], 6)));
  });

  test('never seats two on one seat, nor more than there are, and loses nobody', async () => {
    const plot = openPlot(await packed(), rulebook);
    const park = new Park(plot, { visitors: 25, wait: 2 });
    for (let i = 0; i < 400; i++) {
      park.pass(0.25);
      const seats = park.visitors.flatMap(({ phase, seat }) => (phase === 'sits' || phase === 'boards' ? [seat] : []));
      expect(new Set(seats).size).toBe(seats.length);
      const { came, left, stuck, waiting } = park.counts;
      const about = park.visitors.filter(({ phase }) => ['walks', 'boards', 'sits', 'alights', 'leaves'].includes(phase)).length;
      expect(left + stuck + waiting + about).toBe(came);
      for (const { at } of park.visitors) expect(at.every(Number.isFinite)).toBe(true);
    }
  });

  test('says why somebody is stuck', async () => {
    const whyOf = async (spoil: (kit: Kit) => void) => {
      const loaded = await packed(spoil);
      const park = new Park(openPlot(loaded, rulebook), { visitors: 3, wait: 1 });
      park.pass(60);
      const refused = trialFor(rulebook)!
        .importLog(loaded, rulebook)
        .filter(({ grade }) => grade === 'refused');
      return [park.counts.stuck, park.visitors[0].why, refused.length > 0] as const;
    };
    expect(await whyOf((kit) => (kit.walkway!.knots[0].edge = false))).toEqual([3, 'no knot of the walkway is joined to the park', true]);
    expect(await whyOf((kit) => (kit.walkway!.ropes = []))).toEqual([3, 'no way leads from the edge to “ride-car”', true]);
    expect(await whyOf((kit) => (kit.walkway!.knots[1].boards = []))).toEqual([3, 'nobody may board “ride-car”: no knot says so', true]);
    expect(await whyOf((kit) => (kit.walkway!.knots[1].leaves = []))).toMatchObject([
      3,
      'nobody may leave “ride-car”: no knot says so',
      true,
    ]);
    expect(await whyOf((kit) => (kit.walkway!.ropes[0].oneWay = true))).toMatchObject([
      expect.any(Number),
      'no way leads back to the edge',
      true,
    ]);
  });

  test('who waits longer than the sheet of facts says gives up and goes home', async () => {
    const plot = openPlot(await packed((kit) => (kit.grounds!.facts.queue = 5)), rulebook);
    const park = new Park(plot, { visitors: 12, wait: 30 });
    park.pass(90);
    const { gaveUp, rode, left } = park.counts;
    expect(gaveUp).toBeGreaterThan(3);
    expect(rode + gaveUp).toBe(12);
    expect(left).toBe(12);
  });
});

describe('ways', () => {
  const walkway = fc.integer({ min: 2, max: 12 }).chain((n) =>
    fc.record({
      places: fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 })), { minLength: n, maxLength: n }),
      ropes: fc.uniqueArray(fc.tuple(fc.nat(n - 1), fc.nat(n - 1), fc.boolean()), {
        selector: ([a, b]) => [a, b].sort((x, y) => x - y).join(),
        maxLength: 2 * n,
      }),
    }),
  );

  test('distances over them are those of a search of all ways, and what is reached is what a plain search reaches', () => {
    fc.assert(
      fc.property(walkway, ({ places, ropes }) => {
        const way: Walkway = {
          knots: places.map(([x, z], i) => ({ id: `k${i}`, name: '', at: [x, 0, z], edge: false, boards: [], leaves: [] })),
          ropes: ropes
            .filter(([a, b]) => a !== b)
            .map(([a, b, oneWay], i) => ({ id: `r${i}`, from: `k${a}`, to: `k${b}`, oneWay, rail: false })),
        };
        const n = places.length;
        // Floyd & Warshall (1962): all pairs, by nothing but a table.
        const far = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_, k) => (i === k ? 0 : Infinity)));
        const length = (i: number, k: number) => Math.hypot(places[i][0] - places[k][0], places[i][1] - places[k][1]);
        for (const [a, b, oneWay] of ropes) {
          if (a === b) continue;
          far[a][b] = length(a, b);
          if (!oneWay) far[b][a] = length(a, b);
        }
        for (let m = 0; m < n; m++)
          for (let i = 0; i < n; i++) for (let k = 0; k < n; k++) far[i][k] = Math.min(far[i][k], far[i][m] + far[m][k]);
        const graph = graphOf(way);
        const goals: Id[] = ['k0', 'k1'];
        const field = fieldTo(graph, goals);
        for (let i = 0; i < n; i++) {
          const least = Math.min(far[i][0], far[i][1]);
          expect(field.far.get(`k${i}`) ?? Infinity).toBeCloseTo(least, 9);
        }
        const reached = reachedFrom(graph, ['k0'], 'on');
        for (let k = 0; k < n; k++) expect(reached.has(`k${k}`)).toBe(far[0][k] < Infinity);
      }),
    );
  });
});

describe('put down', () => {
  test('on level ground nothing is closed, and four quarters are none', async () => {
    const plot = openPlot(await packed(), rulebook);
    expect(putDown(plot, { quarters: 1, ground: 'level' }, 2)).toMatchObject({ level: 0, plinth: [], closed: [] });
    for (let n = -4; n <= 4; n++) expect(turnedBy(n, 3, 5)).toEqual(turnedBy(n + 4, 3, 5));
    expect(turnedBy(2, 3, 5).map((value) => value + 0)).toEqual([-3, -5]);
  });

  test('on a hillside an edge beside higher or lower ground is closed, and who comes by it alone is stuck', async () => {
    const plot = openPlot(await packed(), rulebook);
    const closed = [0, 1, 2, 3].map((quarters) => putDown(plot, { quarters, ground: 'hillside' }, 2).closed.length);
    expect(new Set(closed)).toEqual(new Set([0, 1]));
    const quarters = closed.indexOf(1);
    const park = new Park(plot, { visitors: 2, closed: putDown(plot, { quarters, ground: 'hillside' }, 2).closed });
    park.pass(5);
    expect(park.visitors[0].why).toBe('every edge is too high or too low here');
  });
});
