import { ownSpeed, setBehaviour } from '@itchkit/core/behaviour';
import { callOf, renameKit, type Blobs, type Id, type Kit, type LoopMode } from '@itchkit/core/document';
import { applyScale, mirrorParts, reparentParts, repeatAlongLine } from '@itchkit/core/shape';
import {
  addClip,
  addRestClip,
  adjustMotion,
  brakeKeys,
  duplicateClip,
  dwell,
  echo,
  AS_IT_IS,
  fittedMotion,
  keysToTwin,
  LIBRARY,
  putMotion,
  returnTrip,
  rolesByName,
  setCue,
  setFlag,
  setFormula,
  setGroup,
  setOverlay,
  settle,
  strokeBias,
  sway,
  thinTracks,
  type KeyRef,
} from '@itchkit/core/motion';
import type { Rulebook } from '@itchkit/core/rulebook';
import { driveChain } from '@itchkit/core/wiring';
import { buildBrassDiverGlb } from './brass-diver-glb';
import { Hands } from './hands';
import { hillTramHalt } from './raw-kits';
import { behaviourOfTable } from '@itchkit/core/ship';
import { finishedKeeper, KEEPER, tangledKeeper, type PegAt } from './keeper-behaviours';
import { lanternRay, modelled, nightWatchKeeper } from './rigged-kits';
import { buildPeriscopeDiverGlb } from './periscope-diver-glb';

/** Ids of what demo clips are made of, the same each time. */
const clipId = (name: string): Id => `clip-${name}`;

function clip(hands: Hands, name: string, lengthSeconds: number, rate: number, loop: LoopMode): Id {
  hands.do(callOf(addClip, { id: clipId(name), name, lengthSeconds, rate, loop }));
  return clipId(name);
}

const keysOf = (hands: Hands, name: string): KeyRef[] =>
  hands.kit.clips[clipId(name)].tracks.flatMap((track) =>
    track.kind === 'keys' ? track.keys.map(({ time }) => ({ track: track.id, time })) : [],
  );

/** The halt with its car going: up the hill, a stop with a bounce, and down again; bell and lamp as cues. */
export async function hillTramHaltMoving(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = new Hands(await hillTramHalt(rulebook, blobs), blobs);
  hands.do(callOf(renameKit, { name: 'Hill tram halt, moving' }));
  hands.do(callOf(applyScale, { parts: [hands.part('Seat')] }));
  hands.do(callOf(repeatAlongLine, { parts: [hands.part('Seat')], copies: 3, step: [0.6, 0, 0] }));
  hands.do(callOf(mirrorParts, { parts: [hands.part('Lamp')], axis: 0, at: 0 }));
  const ride = clip(hands, 'ride', 3, 30, 'loop');
  hands.keys('ride', 'Tram Car', 'offset', 0, [
    [0, 0, 'sine-both'],
    [2.5, 2.4, 'hold'],
  ]);
  hands.keys('ride', 'Tram Car', 'offset', 1, [
    [0, 0, 'sine-both'],
    [2.5, 0.9, 'bounce-out'],
    [3, 0.84, 'hold'],
  ]);
  hands.do(callOf(returnTrip, { clip: ride, keys: keysOf(hands, 'ride') }));
  hands.do(callOf(dwell, { clip: ride, time: 3, seconds: 2 }));
  hands.do(
    callOf(setCue, { clip: ride, cue: { id: 'cue-bell', time: 3, kind: 'sound', name: 'harbour bell', part: hands.part('Tram Car') } }),
  );
  hands.do(
    callOf(setCue, { clip: ride, cue: { id: 'cue-brake', time: 2.4, kind: 'sound', name: 'tram brake', part: hands.part('Tram Car') } }),
  );
  hands.do(callOf(setCue, { clip: ride, cue: { id: 'cue-lamp', time: 5, kind: 'sound', name: 'plank knock', part: hands.part('Lamp') } }));
  hands.do(callOf(setFlag, { clip: ride, flag: { id: 'flag-top', time: 3, name: 'at the top', colour: 'good' } }));
  return hands.kit;
}

/** The ray gliding in refined steps, and flapping with a fast stroke down, echoed to the tips, braked for a platform of straight lines. */
export async function lanternRayMoving(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = new Hands(await lanternRay(rulebook, blobs), blobs);
  const rate = rulebook.motion?.rate ?? 20;
  hands.do(callOf(addRestClip, { id: clipId('rest'), name: 'rest', rate }));
  const roles = rolesByName(hands.kit);
  const glide = clipId('glide');
  hands.do(callOf(putMotion, { motion: 'glide', clip: glide, name: 'glide', rate }));
  straight(hands, glide);
  const flap = clip(hands, 'walk', 1.2, rate, 'loop');
  const side = (letter: 'l' | 'r') => ({
    root: roles[`fin_root_${letter}`]!,
    mid: roles[`fin_mid_${letter}`]!,
    tip: roles[`fin_tip_${letter}`]!,
  });
  const left = side('l');
  const nameOf = (id: Id) => hands.kit.parts[id].name;
  hands.keys('walk', nameOf(left.root), 'turn', 2, [
    [0, 26, 'straight'],
    [0.6, -22, 'straight'],
    [1.2, 26, 'straight'],
  ]);
  hands.do(callOf(strokeBias, { clip: flap, keys: keysOf(hands, 'walk'), middle: 0.6, bias: 0.35 }));
  hands.do(callOf(brakeKeys, { clip: flap, keys: keysOf(hands, 'walk'), count: 2, reach: 0.5, ratio: 0.5, family: 'sine', sides: 'both' }));
  hands.do(callOf(echo, { clip: flap, from: left.root, chain: [left.mid, left.tip], delaySeconds: 0.1, gain: 0.8 }));
  const right = side('r');
  const pairs = { [left.root]: right.root, [left.mid]: right.mid, [left.tip]: right.tip };
  hands.do(callOf(keysToTwin, { clip: flap, keys: keysOf(hands, 'walk'), pairs, axis: 0, bySeconds: 0 }));
  hands.do(callOf(setGroup, { clips: [glide, flap], group: 'moves' }));
  return hands.kit;
}

/** Straight keys alone, within a millimetre. */
function straight(hands: Hands, id: Id): void {
  hands.do(
    callOf(thinTracks, {
      clip: id,
      tracks: hands.kit.clips[id].tracks.map((track) => track.id),
      fit: 'straight',
      metres: 0.001,
      degrees: 0.5,
    }),
  );
}

/** Motions of the library on a body, each as a clip, on the spot. */
function putMotions(hands: Hands, ids: readonly string[], { motion: rules }: Rulebook): void {
  for (const id of ids) {
    const motion = LIBRARY.find((one) => one.id === id)!;
    const choices = { ...AS_IT_IS, inPlace: true };
    for (const call of fittedMotion(hands.kit, { motion, clip: clipId(id), name: id, choices, rate: rules?.rate ?? 30 })) hands.do(call);
  }
}

/** The keeper, standing, walking and running. */
export async function nightWatchKeeperMoving(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = new Hands(await nightWatchKeeper(rulebook, blobs), blobs);
  putMotions(hands, ['idle', 'walk', 'run'], rulebook);
  if (rulebook.behaviours) hands.do(callOf(setBehaviour, behaviourOfTable(KEEPER, hands.kit)));
  return hands.kit;
}

/** Clips of the library that the finished keeper plays besides. */
const MORE = [
  ...['crouch', 'limp', 'sneak', 'raise', 'fall', 'rise'],
  ...['hit-front', 'hit-back', 'hit-left', 'hit-head-front', 'hit-head-back', 'hit-head-left', 'hit-leg-left'],
];
/** Of these the right side is the left one in the mirror. */
const MIRRORED = ['hit-left', 'hit-head-left', 'hit-leg-left'];

/** The keeper that plays whatever its game passes in: gaits, blows, a fall, its lantern. */
export async function nightWatchKeeperFinished(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = new Hands(await nightWatchKeeperMoving(rulebook, blobs), blobs);
  hands.do(callOf(renameKit, { name: 'Night-watch keeper, finished' }));
  putMotions(hands, MORE, rulebook);
  for (const left of MIRRORED) {
    const name = left.replace('left', 'right');
    hands.do(callOf(duplicateClip, { clip: clipId(left), id: clipId(name), name }));
    hands.do(callOf(adjustMotion, { clip: clipId(name), choices: { ...AS_IT_IS, mirrored: true }, pinned: false, planted: null }));
  }
  hands.do(callOf(setBehaviour, behaviourOfTable(finishedKeeper(placesIn(hands, blobs)), hands.kit)));
  return hands.kit;
}

/** Clips where their own feet would have them in a mix. */
function placesIn({ kit }: Hands, blobs: Blobs): PegAt {
  const own = (clip: string, speed: number) => Math.round(100 * ownSpeed(kit, { clip: clipId(clip), speed }, blobs)![1]) / 100;
  return (clip, speed = 1) => ({ clip, at: [own(clip, speed)], speed });
}

/** The keeper as somebody left it: its behaviour has a mistake of every kind that can be proven. */
export async function nightWatchKeeperTangled(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = new Hands(await nightWatchKeeperMoving(rulebook, blobs), blobs);
  hands.do(callOf(renameKit, { name: 'Night-watch keeper, tangled' }));
  putMotions(hands, ['crouch', 'limp', 'raise', 'fall', 'wave'], rulebook);
  hands.do(callOf(setBehaviour, behaviourOfTable(tangledKeeper(placesIn(hands, blobs)), hands.kit)));
  return hands.kit;
}

/** The block diver: bobbing by a formula, blinking as an overlay, its periscope swaying and settling. */
export async function periscopeDiver(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await modelled(await buildPeriscopeDiverGlb(), 'periscope-diver.glb', 'Periscope diver', rulebook, blobs);
  const rate = rulebook.motion?.rate ?? 20;
  const stand = clip(hands, 'stand', 2, rate, 'loop');
  hands.do(callOf(setFormula, { clip: stand, part: hands.part('trunk'), property: 'offset', axis: 1, source: '0.03 * sin(tau * u)' }));
  hands.do(
    callOf(sway, { clip: stand, parts: [hands.part('scope_2')], property: 'turn', axis: 1, amount: 12, lowHz: 0.5, highHz: 1, seed: 11 }),
  );
  const look = clip(hands, 'look', 2, rate, 'once');
  hands.keys('look', 'scope_1', 'turn', 1, [
    [0, 0, 'sine-in'],
    [0.6, 70, 'hold'],
    [1.6, 70, 'sine-both'],
    [2, 0, 'hold'],
  ]);
  hands.do(
    callOf(settle, {
      clip: look,
      keys: keysOf(hands, 'look').filter(({ time }) => time === 0.6),
      share: 0.1,
      swings: 2,
      decay: 0.5,
      seconds: 0.5,
    }),
  );
  const blink = clip(hands, 'blink', 3, rate, 'loop');
  for (const eye of ['l_eye', 'r_eye'])
    hands.keys('blink', eye, 'size', 1, [
      [0, 1, 'hold'],
      [2.6, 1, 'straight'],
      [2.7, 0.1, 'straight'],
      [2.8, 1, 'hold'],
    ]);
  hands.do(callOf(setOverlay, { clip: blink, overlay: { place: 'over', mode: 'replace', parts: null } }));
  hands.do(callOf(setCue, { clip: look, cue: { id: 'cue-steam', time: 0.6, kind: 'effect', name: 'steam', part: hands.part('scope_2') } }));
  walks(hands, rate);
  driveNeck(hands);
  return hands.kit;
}

/** One step of each foot, the arms the other way, a boot heard at each. */
function walks(hands: Hands, rate: number): void {
  const walk = clip(hands, 'walk', 1, rate, 'loop');
  for (const [part, swing] of [
    ['l_leg', 26],
    ['r_leg', -26],
    ['l_arm', -18],
    ['r_arm', 18],
  ] as const)
    hands.keys('walk', part, 'turn', 0, [
      [0, swing, 'sine-both'],
      [0.5, -swing, 'sine-both'],
      [1, swing, 'hold'],
    ]);
  for (const [side, time] of [
    ['left', 0.05],
    ['right', 0.55],
  ] as const)
    hands.do(
      callOf(setCue, { clip: walk, cue: { id: `cue-${side}`, time, kind: 'sound', name: `${side} boot`, part: hands.part('origin') } }),
    );
}

/** What the diver looks at turns its whole periscope with its head: more of it the higher up, nodding over the inner edges. */
function driveNeck(hands: Hands): void {
  hands.do(callOf(reparentParts, { parts: [hands.part('head')], parent: hands.part('scope_2'), place: 0, keep: 'world' }));
  const parts = ['scope_1', 'scope_2', 'head'].map((name) => hands.part(name));
  const drive = { parts, shares: [0.2, 0.3, 0.5], index: null, neutral: 0, closed: false };
  const turned = (values: number[], sign: number) => values.map((value) => ({ value, degrees: sign * value }));
  hands.do(callOf(driveChain, { ...drive, variable: 'look_turn', axis: 1, hinge: 'pivot', stops: turned([-75, 75], 1) }));
  // Looking up leans back: the left-handed way about the kit’s x.
  hands.do(callOf(driveChain, { ...drive, variable: 'look_nod', axis: 0, hinge: 'inner', stops: turned([-50, 60], -1) }));
}

/** The diver's jig as it was taken: nine seconds, a little of everything, to be trimmed and looped. */
export async function brassDiver(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await modelled(await buildBrassDiverGlb(), 'brass-diver.glb', 'Brass diver’s jig', rulebook, blobs);
  return hands.kit;
}
