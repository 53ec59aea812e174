import { callOf, MemoryBlobs, type Call, type Id, type Kit } from '../document';
import { findWalkway, makeSeats, seatGroups, setFacts, setState, setUpright, sweepFootprint } from '../grounds';
import { readGltf } from '../intake';
import { mendAllSafe, mendChosen, runCall } from '../operations';
import { roleOf, runChecks, seatNames } from '../rulebook';
import { setRole } from '../shape';
import { packKit, unzipFiles } from '../ship';
import { SHIPPED } from '../tests/sound-kits';
import type { Oracle } from './oracle';
import { Random } from './random';
import { strangerRide, type StrangerRide } from './stranger-ride';
import { ThreePlayer } from './three-player';

const rulebook = SHIPPED.plotwick;

/** What a person decides about a ride, and the mends. @returns the package’s model */
async function packaged(ride: StrangerRide): Promise<Uint8Array> {
  const blobs = new MemoryBlobs();
  let kit: Kit = (await readGltf(ride.bytes, 'stranger.glb', blobs)).kit;
  const run = (...calls: Call[]) => {
    for (const call of calls) kit = runCall(kit, call, blobs).kit;
  };
  const mend = () => (kit = mendAllSafe(kit, rulebook, blobs).kit);
  const partCalled = (name: string) => Object.values(kit.parts).filter((part) => part.name === name);
  const [deck] = partCalled(ride.deck);
  const [mover] = partCalled(ride.mover);
  const chairs: Id[] = Object.values(kit.parts).flatMap(({ id, parent }) => (parent === mover.id ? [id] : []));
  run(callOf(setRole, { parts: [deck.id], role: 'base' }), callOf(setRole, { parts: [mover.id], role: 'driven' }));
  mend();
  run(callOf(sweepFootprint, { tile: rulebook.tileMetres }));
  run(callOf(setRole, { parts: chairs, role: 'shell' }), callOf(makeSeats, { chairs, like: null, ...seatNames(rulebook) }));
  const isSeat = (part: Kit['parts'][string]) => roleOf(rulebook, part) === 'seat';
  const seats = Object.values(kit.parts)
    .filter(isSeat)
    .map(({ id }) => id);
  run(callOf(setUpright, { seats }));
  run(callOf(findWalkway, { rules: { ...rulebook.grounds!.visitor }, groups: seatGroups(kit, isSeat) }));
  const [clip] = Object.values(kit.clips);
  run(callOf(setState, { state: 'run', clip: clip.id, from: 0, to: clip.lengthSeconds, over: 0 }));
  run(callOf(setFacts, { facts: { price: 700, kind: 'ride' } }));
  mend();
  // Of the mends that ask, those of what stops it: others would change when something is where.
  const stopping = runChecks({ kit, rulebook, blobs }).filter(({ grade }) => grade === 'stop');
  kit = mendChosen(
    kit,
    rulebook,
    blobs,
    stopping.map(({ id }) => id),
  ).kit;
  const findings = runChecks({ kit, rulebook, blobs });
  const stops = findings.filter(({ grade }) => grade === 'stop').map(({ message }) => message);
  if (stops.length > 0) throw new Error(`Still in the way: ${stops.join(' ')}`);
  const files = unzipFiles((await packKit(kit, rulebook, blobs, findings)).bytes);
  return files[Object.keys(files).find((path) => path.endsWith('.glb'))!];
}

/** All vertices of a file as three.js plays it, from its lowest corner on; the platform looks the other way. */
async function cloud(bytes: Uint8Array, turned: boolean): Promise<(time: number | null) => number[][]> {
  const player = await ThreePlayer.of(bytes);
  const [clip] = player.names;
  const places = (time: number | null) =>
    [...player.at(time === null ? null : clip, time ?? 0).values()].flatMap((points) =>
      Array.from({ length: points.length / 3 }, (_, v) =>
        points.slice(3 * v, 3 * v + 3).map((value, c) => (turned && c !== 1 ? -value : value)),
      ),
    );
  const low = [0, 1, 2].map((c) => places(null).reduce((least, place) => Math.min(least, place[c]), Infinity));
  return (time) => places(time).map((place) => place.map((value, c) => value - low[c]));
}

const LOOKS = 24;

const ride: Oracle = {
  id: 'stranger-ride',
  about: 'A ride that somebody else made, from its file through mends into the package: every vertex at any time',
  against: 'three.js’s loader and mixer on the file as it came, beside the same on the package',
  promised: 0.01,
  unit: 'mm',
  cases: 8,
  share: 0.04,
  async deviation(seed) {
    const random = new Random(seed);
    const made = strangerRide(random);
    const [came, went] = await Promise.all([cloud(made.bytes, false), cloud(await packaged(made), true)]);
    let most = 0;
    for (let look = 0; look < LOOKS; look++) {
      const time = random.between(0, made.seconds);
      const there = went(time);
      for (const place of came(time))
        most = Math.max(
          most,
          there.reduce(
            (least, other) => Math.min(least, Math.hypot(place[0] - other[0], place[1] - other[1], place[2] - other[2])),
            Infinity,
          ),
        );
    }
    return 1000 * most;
  },
};

/** What becomes of files that others made. */
export const STRANGER_ORACLES: readonly Oracle[] = [ride];
