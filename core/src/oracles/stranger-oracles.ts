import { stepsOf } from '../behaviour';
import { callOf, MemoryBlobs, type Call, type Id, type Kit, type Part } from '../document';
import { findWalkway, makeSeats, seatGroups, setFacts, setState, setUpright, sweepFootprint } from '../grounds';
import { readGltf } from '../intake';
import { setClip } from '../motion';
import { mendAllSafe, mendChosen, runCall } from '../operations';
import { roleOf, runChecks, seatNames, type Finding, type Rulebook } from '../rulebook';
import { setRole } from '../shape';
import { packKit, unzipFiles } from '../ship';
import { SHIPPED } from '../tests/sound-kits';
import type { Oracle } from './oracle';
import { Random } from './random';
import { strangerBody, type StrangerBody } from './stranger-body';
import { strangerRide, type StrangerRide } from './stranger-ride';
import { ThreePlayer } from './three-player';

/** A kit that is being worked on, step by step. */
class Work {
  kit!: Kit;
  readonly blobs = new MemoryBlobs();

  private constructor(private readonly rulebook: Rulebook) {}

  static async on(bytes: Uint8Array, rulebook: Rulebook): Promise<Work> {
    const work = new Work(rulebook);
    work.kit = (await readGltf(bytes, 'stranger.glb', work.blobs)).kit;
    return work;
  }

  run(...calls: Call[]): void {
    for (const call of calls) this.kit = runCall(this.kit, call, this.blobs).kit;
  }

  mendSafe(): void {
    this.kit = mendAllSafe(this.kit, this.rulebook, this.blobs).kit;
  }

  findings(): Finding[] {
    return runChecks({ kit: this.kit, rulebook: this.rulebook, blobs: this.blobs });
  }

  /** The mends that ask of these findings, and whatever is safe beside them. */
  mendThose(which: (finding: Finding) => boolean): void {
    const ids = this.findings()
      .filter(which)
      .map(({ id }) => id);
    this.kit = mendChosen(this.kit, this.rulebook, this.blobs, ids).kit;
    this.mendSafe();
  }

  /** The package’s model. @throws Error where something stops it */
  async pack(): Promise<Uint8Array> {
    const findings = this.findings();
    const stops = findings.filter(({ grade }) => grade === 'stop').map(({ message }) => message);
    if (stops.length > 0) throw new Error(`Still in the way: ${stops.join(' ')}`);
    const files = unzipFiles((await packKit(this.kit, this.rulebook, this.blobs, findings)).bytes);
    return files[Object.keys(files).find((path) => path.endsWith('.glb') && !/-(mid|far)\.glb$/.test(path))!];
  }
}

const stopping = ({ grade }: Finding) => grade === 'stop';

/** What a person decides about a ride, and the mends. */
async function readyRide(ride: StrangerRide): Promise<Work> {
  const rulebook = SHIPPED.plotwick;
  const work = await Work.on(ride.bytes, rulebook);
  const partCalled = (name: string) => Object.values(work.kit.parts).find((part) => part.name === name)!.id;
  const [deck, mover] = [partCalled(ride.deck), partCalled(ride.mover)];
  const chairs: Id[] = Object.values(work.kit.parts).flatMap(({ id, parent }) => (parent === mover ? [id] : []));
  work.run(callOf(setRole, { parts: [deck], role: 'base' }), callOf(setRole, { parts: [mover], role: 'driven' }));
  work.mendSafe();
  work.run(callOf(sweepFootprint, { tile: rulebook.tileMetres }));
  work.run(callOf(setRole, { parts: chairs, role: 'shell' }), callOf(makeSeats, { chairs, like: null, ...seatNames(rulebook) }));
  const isSeat = (part: Part) => roleOf(rulebook, part) === 'seat';
  const seats = Object.values(work.kit.parts)
    .filter(isSeat)
    .map(({ id }) => id);
  work.run(callOf(setUpright, { seats }));
  work.run(callOf(findWalkway, { rules: { ...rulebook.grounds!.visitor }, groups: seatGroups(work.kit, isSeat) }));
  const [clip] = Object.values(work.kit.clips);
  work.run(callOf(setState, { state: 'run', clip: clip.id, from: 0, to: clip.lengthSeconds, over: 0 }));
  work.run(callOf(setFacts, { facts: { price: 700, kind: 'ride' } }));
  work.mendSafe();
  // Of the mends that ask, those of what stops it: others would change when something is where.
  work.mendThose(stopping);
  return work;
}

/** What a person decides about a body, and the mends: joints are named, what walks away stays in place, what is missing is put on. */
async function readyBody(body: StrangerBody): Promise<Work> {
  const work = await Work.on(body.bytes, SHIPPED.emberfold);
  const clipCalled = (name: string) => Object.values(work.kit.clips).find((clip) => clip.name === name)!.id;
  work.mendSafe();
  work.run(callOf(setClip, { clip: clipCalled(body.walk), name: 'walk' }), callOf(setClip, { clip: clipCalled(body.idle), name: 'idle' }));
  work.mendThose(({ rule }) => rule === 'skeleton');
  work.mendThose(({ rule }) => rule === 'clip-seam');
  work.mendThose(stopping);
  return work;
}

/**
 * All vertices of a file as three.js plays one of its clips, from its lowest corner on.
 *
 * @param signs Of its axes, by which it comes to ours
 */
async function cloud(bytes: Uint8Array, clip: string | null, signs: readonly number[]): Promise<(time: number | null) => number[][]> {
  const player = await ThreePlayer.of(bytes);
  const played = clip ?? player.names[0];
  const places = (time: number | null) =>
    [...player.at(time === null ? null : played, time ?? 0).values()].flatMap((points) =>
      Array.from({ length: points.length / 3 }, (_, v) => points.slice(3 * v, 3 * v + 3).map((value, c) => signs[c] * value)),
    );
  const low = [0, 1, 2].map((c) => places(null).reduce((least, place) => Math.min(least, place[c]), Infinity));
  return (time) => places(time).map((place) => place.map((value, c) => value - low[c]));
}

const LOOKS = 24;

/** How far the vertices of one file are from the nearest of the other, at the most and at any time, metres. */
async function furthestOff(came: Awaited<ReturnType<typeof cloud>>, went: typeof came, seconds: number, random: Random): Promise<number> {
  let most = 0;
  for (let look = 0; look < LOOKS; look++) {
    const time = random.between(0, seconds);
    const there = went(time);
    for (const [x, y, z] of came(time))
      most = Math.max(
        most,
        there.reduce((least, other) => Math.min(least, Math.hypot(x - other[0], y - other[1], z - other[2])), Infinity),
      );
  }
  return most;
}

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
    const work = await readyRide(made);
    // The platform looks the other way.
    const [came, went] = [await cloud(made.bytes, null, [1, 1, 1]), await cloud(await work.pack(), null, [-1, 1, -1])];
    return 1000 * (await furthestOff(came, went, made.seconds, random));
  },
};

const body: Oracle = {
  id: 'stranger-body',
  about:
    'A walk that somebody else made on a skeleton of other names, from its file through mends into the package, with the 1 mm of straight keys',
  against: 'three.js’s loader and mixer on the file as it came, beside the same on the package',
  promised: 1,
  unit: 'mm',
  cases: 6,
  share: 0.03,
  async deviation(seed) {
    const random = new Random(seed);
    const made = strangerBody(random);
    const work = await readyBody(made);
    const signs = [-1, 1, 1];
    const [came, went] = [await cloud(made.bytes, made.walk, [1, 1, 1]), await cloud(await work.pack(), 'walk', signs)];
    // What went away in the file goes away evenly, and stays in the package.
    const way = made.travels ? made.speed : 0;
    const inPlace = (time: number | null) => came(time).map(([x, y, z]) => [x, y, z - (time ?? 0) * way]);
    return 1000 * (await furthestOff(inPlace, went, made.seconds, random));
  },
};

const speed: Oracle = {
  id: 'stranger-speed',
  about: 'How fast a walk goes by its own feet, of a body that somebody else made; two steps a round',
  against: 'the speed that its feet were made with',
  promised: 0.05,
  unit: 'share',
  cases: 10,
  share: 0.05,
  async deviation(seed) {
    const made = strangerBody(new Random(seed));
    const { kit, blobs } = await readyBody(made);
    const { marks, speed: found } = stepsOf(
      kit,
      Object.values(kit.clips).find(({ name }) => name === 'walk')!,
      blobs,
    );
    return marks.length === 2 && found ? Math.hypot(found[0], found[1] - made.speed) / made.speed : Infinity;
  },
};

/** What becomes of files that others made. */
export const STRANGER_ORACLES: readonly Oracle[] = [ride, body, speed];
