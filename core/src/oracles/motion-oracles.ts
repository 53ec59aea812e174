import { Quaternion, Vector3, type Matrix4 } from 'three';
import { callOf, EASINGS, type Clip, type Easing, type Id, type Kit, type Track } from '../document';
import { flattenParts, Poser } from '../geometry';
import { bakePose, compileClip, mendSeam, sampleClip, splitKeys, takeClips, thinTracks } from '../motion';
import { runCall } from '../operations';
import { runChecks, TRACK_KINDS, type TrackKind } from '../rulebook';
import { asPlayed, writeGlb, type BakeOptions } from '../ship';
import { SHIPPED } from '../tests/sound-kits';
import { allowed, awayFromKeys, furthestOf, looksAt, type Oracle } from './oracle';
import { plainKeys, plainPose, plainVertices } from './plain-poser';
import type { Random } from './random';
import { randomKit, type Ingredients, type RandomKit } from './random-kits';
import { shownVertices } from './shown-vertices';
import { ThreePlayer } from './three-player';

const plain = ({ kit, blobs, clip }: Pick<RandomKit, 'kit' | 'blobs' | 'clip'>, time: number) =>
  plainVertices(kit, blobs, plainPose(kit, blobs, clip, time));

/** Vertices as the bench shows them. */
function shown({ kit, blobs, clip }: RandomKit, time: number): Map<Id, number[]> {
  const poser = new Poser(flattenParts(kit));
  sampleClip(compileClip(clip, poser.flat, blobs), time, poser.pose);
  poser.update();
  return shownVertices(kit, blobs, poser);
}

const sampling: Oracle = {
  id: 'sampling',
  about: 'What the bench shows at a time of a clip: every vertex, with skins, morph targets, and all kinds of tracks',
  against: 'a plain poser: easings by their formulas, mathjs, matrices of three.js',
  promised: 1e-3,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const made = randomKit(seed);
    return (
      1000 * Math.max(...looksAt(made.clip, made.blobs, made.random, 6).map((time) => furthestOf(plain(made, time), shown(made, time))))
    );
  },
};

const packaged = (id: string, said: string, promised: number, bake: BakeOptions): Oracle => ({
  id,
  about: `A clip in the written file, ${said}, at every vertex and between keys`,
  against: 'three.js’s loader and mixer on the GLB, beside a plain poser on the kit',
  promised,
  unit: 'mm',
  cases: 60,
  share: 0.2,
  async deviation(seed) {
    const made = randomKit(seed);
    const { bytes, nodes } = await writeGlb(made.kit, made.blobs, bake);
    const player = await ThreePlayer.of(bytes);
    const inFile = (time: number) => new Map([...player.at('clip', time)].map(([node, points]) => [nodes[node], points]));
    return (
      1000 * Math.max(0, ...looksAt(made.clip, made.blobs, made.random, 60).map((time) => furthestOf(plain(made, time), inFile(time))))
    );
  },
});

const straight = packaged('package', 'with its tolerance of 1 mm', 1, {});
const curved = packaged('package-curves', 'in curves, as where people ride', 0.01, { toleranceLength: 3e-6, curves: 'fewer' });

const atRest: Oracle = {
  id: 'package-rest',
  about: 'The written file as it stands',
  against: 'three.js’s loader, beside a plain poser',
  promised: 1e-3,
  unit: 'mm',
  cases: 40,
  async deviation(seed) {
    const made = randomKit(seed);
    const { random, kit } = made;
    // Small moves are what a writer may take for none.
    for (const part of Object.values(kit.parts)) if (random.chance(0.5)) part.translation = random.vector(random.oneOf([1e-5, 4e-6, 1e-3]));
    const { bytes, nodes } = await writeGlb({ ...kit, clips: {} }, made.blobs);
    const file = (await ThreePlayer.of(bytes)).at(null, 0);
    const rest = plainVertices(kit, made.blobs, plainPose(kit, made.blobs, null, 0));
    return 1000 * furthestOf(rest, new Map([...file].map(([node, points]) => [nodes[node], points])));
  },
};

const stated: Oracle = {
  id: 'as-it-will-play',
  about: 'What “as it will play” says of the greatest way off: it is no more than what is said, but for this share of the tolerance',
  against: 'a plain poser at 400 times, every vertex',
  promised: 0.02,
  unit: 'share',
  cases: 30,
  share: 0.2,
  deviation(seed) {
    const made = randomKit(seed);
    const played = asPlayed(made.kit, made.clip, made.blobs, { toleranceLength: 0.02, toleranceDegrees: 3 });
    const other = { ...made, clip: played.clip };
    const found = looksAt(made.clip, made.blobs, made.random, 400).map((time) => furthestOf(plain(made, time), plain(other, time)));
    return Math.max(0, Math.max(0, ...found) - played.millimetres / 1000) / 0.02;
  },
};

const thin = (fit: 'straight' | 'curve'): Oracle => ({
  id: `thin-${fit}`,
  about: `Thinning to ${fit === 'straight' ? 'straight keys' : 'curves'}: the furthest vertex stays within the tolerance`,
  against: 'a plain poser at 80 times, every vertex',
  promised: 1,
  unit: 'times the tolerance',
  cases: 24,
  share: 0.3,
  deviation(seed) {
    const made = randomKit(seed);
    const { kit, blobs, clip, random } = made;
    const metres = random.oneOf([0.0005, 0.002, 0.01]);
    const tracks = clip.tracks.map(({ id }) => id).filter(() => random.chance(0.8));
    if (tracks.length === 0) return 0;
    const after = runCall(kit, callOf(thinTracks, { clip: clip.id, tracks, fit, metres, degrees: 180 }), blobs).kit;
    const thinned = { kit: after, blobs, clip: after.clips.clip };
    return Math.max(0, ...looksAt(clip, blobs, random, 80).map((time) => furthestOf(plain(made, time), plain(thinned, time)))) / metres;
  },
});

const poseAsRest: Oracle = {
  id: 'pose-as-rest',
  about: 'A pose that becomes rest moves nothing at any time, or is refused',
  against: 'a plain poser at 20 times before and after',
  promised: 2e-3,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const made = randomKit(seed);
    const { kit, blobs, clip, random } = made;
    const parts = Object.values(kit.parts)
      .filter((part) => part.skin === null && random.chance(0.6))
      .map(({ id }) => id);
    if (parts.length === 0) return 0;
    const call = callOf(bakePose, { clip: clip.id, parts, time: random.between(0, clip.lengthSeconds) });
    const after = allowed(() => runCall(kit, call, blobs).kit);
    if (!after) return 0;
    const other = { kit: after, blobs, clip: after.clips.clip };
    return 1000 * Math.max(0, ...looksAt(clip, blobs, random, 20).map((time) => furthestOf(plain(made, time), plain(other, time))));
  },
};

const NO_FORMULAS: Ingredients = { kinds: ['keys', 'samples', 'samples'], shown: false };

/** Vertices at the end of a clip and at its start. */
const ends = (made: Pick<RandomKit, 'kit' | 'blobs' | 'clip'>) => furthestOf(plain(made, made.clip.lengthSeconds), plain(made, 0));

const seam = (by: 'fade' | 'spread'): Oracle => ({
  id: `mend-seam-${by}`,
  about: `A seam that was mended (${by}) leaves no gap`,
  against: 'a plain poser at the end and at the start',
  promised: 0.05,
  unit: 'mm',
  cases: 40,
  deviation(seed) {
    const { kit, blobs, clip, random } = randomKit(seed, NO_FORMULAS);
    clip.loop = 'loop';
    const call = callOf(mendSeam, { clip: clip.id, by, seconds: random.between(0.1, clip.lengthSeconds / 2) });
    const after = allowed(() => runCall(kit, call, blobs).kit);
    return after ? 1000 * ends({ kit: after, blobs, clip: after.clips.clip }) : 0;
  },
});

const SHARP = 1e-6;

/** What is left of a clip where a platform plays but these kinds: either way of turning plays both, and what is hidden has no size. */
function played(clip: Clip, kinds: readonly TrackKind[] | undefined): Clip {
  if (!kinds) return clip;
  const turns = kinds.includes('turn') || kinds.includes('rotation');
  const plays: Record<Track['property'], boolean> = {
    offset: kinds.includes('offset'),
    turn: turns,
    rotation: turns,
    size: kinds.includes('size'),
    shown: kinds.includes('shown') || kinds.includes('size'),
    weight: kinds.includes('weights'),
    weights: kinds.includes('weights'),
  };
  return { ...clip, tracks: clip.tracks.filter(({ property }) => plays[property]) };
}

const gaps = (check: 'clips.seam' | 'clips.neutral-start'): Oracle => ({
  id: check,
  about: `The gap that the check “${check}” tells, every vertex looked at`,
  against: 'a plain poser at both times',
  promised: 1e-3,
  unit: 'mm',
  cases: 40,
  deviation(seed) {
    const made = randomKit(seed);
    const { kit, blobs, random } = made;
    made.clip.loop = 'loop';
    const tracks = random.chance(0.5) ? undefined : TRACK_KINDS.filter(() => random.chance(0.6));
    const rule = { id: 'gap', check, grade: 'warn' as const, limit: SHARP, why: 'An oracle asks.' };
    const rulebook = { ...SHIPPED.plotwick, motion: { ...SHIPPED.plotwick.motion, tracks }, rules: [rule] };
    const found = runChecks({ kit, blobs, rulebook });
    const told = Math.max(0, ...found.map(({ share }) => SHARP * share!));
    const clip = played(made.clip, tracks);
    const last = clip.lengthSeconds;
    const rest = plainVertices(kit, blobs, plainPose(kit, blobs, null, 0));
    const pivots = (time: number | null) =>
      new Map(
        [...plainPose(kit, blobs, time === null ? null : clip, time ?? 0).worlds]
          .filter(([id]) => kit.parts[id].skin === null)
          .map(([id, m]) => [id, m.elements.slice(12, 15)]),
      );
    const really =
      check === 'clips.seam'
        ? Math.max(ends({ kit, blobs, clip }), furthestOf(pivots(last), pivots(0)))
        : Math.max(furthestOf(rest, plain({ kit, blobs, clip }, 0)), furthestOf(pivots(null), pivots(0)));
    return Math.abs(1000 * really - told);
  },
});

/** A skeleton with other axes at rest: every part stands where it stood, and what hangs below it too. */
function withAxesTurned(kit: Kit, random: Random): Kit {
  const turned = structuredClone(kit);
  for (const part of Object.values(turned.parts)) {
    if (random.chance(0.4)) continue;
    const by = new Quaternion(...random.turn());
    const back = by.clone().invert();
    part.rotation = new Quaternion(...part.rotation).multiply(by).toArray();
    for (const child of Object.values(turned.parts).filter(({ parent }) => parent === part.id)) {
      child.translation = new Vector3(...child.translation).applyQuaternion(back).toArray();
      child.rotation = back
        .clone()
        .multiply(new Quaternion(...child.rotation))
        .toArray();
    }
  }
  return turned;
}

const retargeting: Oracle = {
  id: 'retarget',
  about: 'A skeleton’s motion onto itself with other axes and some joints without a partner: each joint moves as it did, 1 m around it',
  against: 'a plain poser on both at frames',
  promised: 0.1,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const { kit: source, blobs, clip, random } = randomKit(seed, { properties: ['offset', 'turn'], skins: false });
    for (const part of Object.values(source.parts)) part.scale = [1, 1, 1];
    const target = { ...withAxesTurned(source, random), clips: {} };
    const pairs = Object.fromEntries(Object.keys(source.parts).map((id) => [id, random.chance(0.8) ? id : null]));
    const after = runCall(target, callOf(takeClips, { source, clips: [clip.id], pairs, scale: 1 }), blobs).kit;
    const [taken] = Object.values(after.clips);
    let most = 0;
    const frames = Array.from({ length: Math.round(clip.lengthSeconds * clip.rate) }, (_, frame) => frame / clip.rate);
    for (const time of awayFromKeys(clip, blobs, frames)) {
      const [theirs, ours] = [moves(source, blobs, clip, time), moves(after, blobs, taken, time)];
      for (const [id, part] of Object.entries(pairs)) if (part !== null) most = Math.max(most, apart(theirs.get(id)!, ours.get(part)!));
    }
    return 1000 * most;
  },
};

/** What takes each part from its place at rest in the world to that at a time. */
function moves(kit: Kit, blobs: RandomKit['blobs'], clip: Clip, time: number): Map<Id, { move: Matrix4; at: Vector3 }> {
  const rest = plainPose(kit, blobs, null, 0).worlds;
  const now = plainPose(kit, blobs, clip, time).worlds;
  return new Map(
    [...now].map(([id, world]) => [
      id,
      { move: world.clone().multiply(rest.get(id)!.clone().invert()), at: new Vector3().setFromMatrixPosition(rest.get(id)!) },
    ]),
  );
}

/** How far two moves take points a metre around the same place apart, metres. */
function apart(a: { move: Matrix4; at: Vector3 }, b: { move: Matrix4; at: Vector3 }): number {
  const around = [new Vector3(), new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)].map((step) => step.add(a.at));
  return Math.max(...around.map((point) => point.clone().applyMatrix4(a.move).distanceTo(point.clone().applyMatrix4(b.move))));
}

const splitting = (id: string, easings: readonly Easing[], promised: number): Oracle => ({
  id,
  about: `A key set between others changes nothing anywhere, by share of the values’ range: ${easings.length > 3 ? 'all easings' : easings.join(', ')}`,
  against: 'plain values of the track at 200 times',
  promised,
  unit: 'share',
  cases: 60,
  deviation(seed) {
    const { clip, random } = randomKit(seed, { kinds: ['keys'], easings, skins: false });
    let most = 0;
    for (const track of clip.tracks) {
      if (track.kind !== 'keys') continue;
      let keys = track.keys;
      for (let n = 0; n < 3; n++) keys = splitKeys(keys, random.between(-0.1, clip.lengthSeconds + 0.2));
      const range = Math.max(1, ...track.keys.map(({ value }) => Math.abs(value)));
      for (let n = 0; n < 200; n++) {
        const time = random.between(0, clip.lengthSeconds);
        most = Math.max(most, Math.abs(plainKeys(track.keys, time) - plainKeys(keys, time)) / range);
      }
    }
    return most;
  },
});

/** What is said of motion. */
export const MOTION_ORACLES: readonly Oracle[] = [
  sampling,
  straight,
  curved,
  atRest,
  stated,
  thin('straight'),
  thin('curve'),
  poseAsRest,
  retargeting,
  seam('fade'),
  seam('spread'),
  gaps('clips.seam'),
  gaps('clips.neutral-start'),
  splitting('split-keys', ['hold', 'straight', 'curve'], 1e-9),
  splitting('split-eased', EASINGS, 1e-4),
];
