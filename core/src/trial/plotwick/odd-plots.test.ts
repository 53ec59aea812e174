import fc from 'fast-check';
import { KitError, MemoryBlobs, partsInOrder, type Blobs, type Call, type Id, type Kit } from '../../document';
import { flattenParts, Poser, posedVertices } from '../../geometry';
import { framesOf, seatGroups, wayFaults, floorsOf, buildWalkWorld, seatPlaces, tilesAcross } from '../../grounds';
import { compileClip, sampleClip } from '../../motion';
import { mendAllSafe, runCall } from '../../operations';
import { roleOf, runChecks } from '../../rulebook';
import { packKit, readPackage } from '../../ship';
import { oddKit } from '../../tests/odd-kits';
import { SHIPPED } from '../../tests/sound-kits';
import { trialFor } from '..';
import { GROUNDS, putDown } from './terrain';
import { openPlot } from './plot';
import { Park } from './park';

const rulebook = SHIPPED.plotwick;
const { visitor } = rulebook.grounds!;
const seatsOf = (kit: Kit) => seatGroups(kit, (part) => roleOf(rulebook, part) === 'seat');

/** All that a person does for Plotwick, one after the other; what is refused by a sentence is passed over. */
function settled(kit: Kit, blobs: Blobs): { kit: Kit; refused: string[] } {
  const refused: string[] = [];
  let current = kit;
  const call = (make: (kit: Kit) => Call) => {
    try {
      current = runCall(current, make(current), blobs).kit;
    } catch (error) {
      // Anything else is a fault of ours.
      if (!(error instanceof KitError)) throw error;
      refused.push(error.code);
    }
  };
  const ids = partsInOrder(current).map(({ id }) => id);
  const shown = partsInOrder(current).filter(({ mesh }) => mesh !== null);
  const tile = rulebook.tileMetres;
  call(() => ({ operation: 'kit.set-target', args: { rulebook: rulebook.id, version: rulebook.version } }));
  current = mendAllSafe(current, rulebook, blobs).kit;
  call(() => ({ operation: 'grounds.make-seats', args: { chairs: ids.slice(0, 3), like: null, prefix: 'seat-', figures: 2 } }));
  call((now) => ({ operation: 'grounds.set-upright', args: { seats: seatsOf(now).flatMap(({ seats }) => seats) } }));
  call(() => ({ operation: 'grounds.sweep-footprint', args: { tile } }));
  (['box', 'capsule', 'hull'] as const).forEach((shape, i) => {
    const part = shown[i]?.id;
    if (part) call(() => ({ operation: 'grounds.fit-colliders', args: { parts: [part], shape, snap: i === 0 ? tile / 2 : null } }));
  });
  const [clip] = Object.keys(current.clips);
  if (clip) call(() => ({ operation: 'grounds.set-state', args: { state: 'run', clip, from: 0, to: null, over: 0.25 } }));
  call((now) => ({ operation: 'grounds.find-way', args: { rules: { ...visitor }, groups: seatsOf(now) } }));
  call(() => ({ operation: 'grounds.lay-ring', args: { rules: { ...visitor }, tile } }));
  const knots = current.walkway?.knots.map(({ id }) => id) ?? [];
  if (knots.length > 1)
    call(() => ({ operation: 'grounds.lay-between', args: { rules: { ...visitor }, from: knots[0], to: knots[knots.length - 1] } }));
  call(() => ({ operation: 'grounds.set-facts', args: { facts: { price: 500, kind: 'ride' } } }));
  return { kit: current, refused };
}

/** The furthest that any vertex comes out of the tiles at any frame of any clip, metres: every one is looked at. */
function outside(kit: Kit, blobs: Blobs): number {
  const { low, high } = kit.grounds!.footprint!;
  const poser = new Poser(flattenParts(kit));
  let most = -Infinity;
  const look = () => {
    for (const part of Object.values(kit.parts)) {
      if (part.mesh === null) continue;
      const vertices = posedVertices(kit, blobs, part, (id: Id) => poser.worldOf(id));
      for (let v = 0; v < vertices.length; v += 3)
        most = Math.max(most, low[0] - vertices[v], vertices[v] - high[0], low[2] - vertices[v + 2], vertices[v + 2] - high[2]);
    }
  };
  look();
  for (const clip of Object.values(kit.clips)) {
    const compiled = compileClip(clip, poser.flat, blobs);
    const frames = framesOf(clip);
    for (let frame = 0; frame <= frames; frame++) {
      poser.reset();
      sampleClip(compiled, (clip.lengthSeconds * frame) / frames, poser.pose);
      poser.update();
      look();
    }
  }
  return most;
}

/** Of larger plots, which no platform takes, the ground is looked at in columns as wide as a person: ways are rough there. */
const MOST_TILES = 10;

test('anybody’s kit goes through Grounds, into a package and into the park, or is refused in a sentence', async () => {
  const met = { tiles: 0, way: 0, packed: 0, rode: 0 };
  await fc.assert(
    fc.asyncProperty(oddKit, fc.nat(3), async ({ kit: odd, blobs }, quarters) => {
      const { kit } = settled(odd, blobs);
      runChecks({ kit, rulebook, blobs });
      const footprint = kit.grounds?.footprint;
      if (footprint) {
        met.tiles++;
        expect(outside(kit, blobs)).toBeLessThan(2e-4);
      }
      if (kit.walkway && footprint && Math.max(...tilesAcross(footprint, rulebook.tileMetres)) <= MOST_TILES) {
        met.way++;
        const floors = floorsOf(buildWalkWorld(kit, blobs, Object.values(kit.clips), footprint, visitor));
        const goals = seatsOf(kit).map(({ carrier, seats }) => ({ carrier, places: seatPlaces(kit, seats) }));
        // What we lay ourselves can be walked.
        expect(wayFaults(floors, kit.walkway, goals).ropes).toEqual([]);
      }
      let bytes: Uint8Array;
      try {
        ({ bytes } = await packKit(kit, rulebook, blobs, []));
      } catch (error) {
        if (!(error instanceof KitError)) throw error;
        return;
      }
      met.packed++;
      const loaded = await readPackage(bytes, new MemoryBlobs());
      trialFor(rulebook)!.importLog(loaded, rulebook);
      const plot = openPlot(loaded, rulebook);
      for (const ground of GROUNDS) {
        const { closed } = putDown(plot, { quarters, ground }, rulebook.tileMetres);
        const park = new Park(plot, { visitors: 6, wait: 1, closed });
        park.pass(90);
        for (const { at } of park.visitors) expect(at.every(Number.isFinite)).toBe(true);
        met.rode += park.counts.rode;
      }
    }),
    { numRuns: 8, endOnFailure: true },
  );
  // The property speaks of something.
  for (const times of Object.values(met)) expect(times).toBeGreaterThan(0);
});
