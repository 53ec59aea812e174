import {
  callOf,
  KitError,
  MemoryBlobs,
  renameKit,
  setTarget,
  type Blobs,
  type Easing,
  type Id,
  type Kit,
  type Part,
} from '@itchkit/core/document';
import { makeSeats, setFacts, setGlow, setState } from '@itchkit/core/grounds';
import { readGltf, settleSource } from '@itchkit/core/intake';
import { addClip, setCue } from '@itchkit/core/motion';
import { mendAllSafe } from '@itchkit/core/operations';
import { CheckRunner, type Finding, type Rulebook, type Stage } from '@itchkit/core/rulebook';
import {
  loadSimplifier,
  mirrorParts,
  pivotToAnchor,
  renameParts,
  reparentParts,
  repeatAlongLine,
  setMaterial,
  setTransform,
  simplifyParts,
  splitLoose,
} from '@itchkit/core/shape';
import { writeGlb } from '@itchkit/core/ship';
import { Hands } from './hands';
import { HALT } from './hill-tram-halt-glb';
import { hillTramHalt } from './raw-kits';
import { buildTideCarouselGlb, CAROUSEL } from './tide-carousel-glb';

const begins = (hands: Hands, start: string): Part[] => Object.values(hands.kit.parts).filter(({ name }) => name.startsWith(start));
const idsOf = (parts: readonly Part[]): Id[] => parts.map(({ id }) => id);

/** Makes every safe mend, then those that ask, as somebody does who takes what is offered. */
export function takeMends(hands: Hands, rulebook: Rulebook, blobs: Blobs, of: (finding: Finding) => boolean): void {
  hands.kit = mendAllSafe(hands.kit, rulebook, blobs).kit;
  const refused = new Set<string>();
  const runner = new CheckRunner(rulebook, blobs);
  for (let i = 0; i < 60; i++) {
    const asking = runner.run(hands.kit).find((one) => one.mend && of(one) && !refused.has(one.id));
    if (!asking?.mend) return;
    refused.add(asking.id);
    try {
      hands.do(asking.mend.call);
    } catch (error) {
      if (!(error instanceof KitError)) throw error;
    }
  }
}

const inStage = (stage: Stage) => (finding: Finding) => finding.stage === stage;

/** Brings the halt into shape: eight seats on its car, six lamps, three steps. */
export function shapeHalt(hands: Hands, rulebook: Rulebook, blobs: Blobs): void {
  hands.do(
    callOf(renameParts, {
      names: { [hands.part('Tram Car')]: 'ride-car', [hands.part('Seat')]: 'seat-01', [hands.part('Platform')]: 'platform' },
    }),
  );
  hands.do(callOf(splitLoose, { part: hands.part('ride-car'), place: 'below', pivot: 'middle' }));
  hands.do(callOf(pivotToAnchor, { parts: [hands.part('ride-car')], anchor: [0, -1, 0] }));
  hands.kit = mendAllSafe(hands.kit, rulebook, blobs).kit;
  hands.do(callOf(reparentParts, { parts: [hands.part('seat-01')], parent: hands.part('ride-car'), keep: 'world' }));
  hands.do(callOf(pivotToAnchor, { parts: [hands.part('seat-01')], anchor: [0, -1, 0] }));
  hands.do(callOf(simplifyParts, { parts: [hands.part('lamp')], goal: { toleranceMm: 4 } }));
  hands.do(callOf(repeatAlongLine, { parts: [hands.part('seat-01')], copies: 3, step: [...HALT.seatStep] }));
  hands.do(callOf(mirrorParts, { parts: idsOf(begins(hands, 'seat')), axis: 2, at: 0.2 }));
  hands.do(callOf(repeatAlongLine, { parts: [hands.part('lamp')], copies: 2, step: [...HALT.lampStep] }));
  hands.do(callOf(mirrorParts, { parts: idsOf(begins(hands, 'lamp')), axis: 0, at: 0 }));
  hands.do(callOf(repeatAlongLine, { parts: [hands.part('step')], copies: 2, step: [...HALT.step] }));
  hands.do(
    callOf(renameParts, {
      names: Object.fromEntries(begins(hands, 'seat').map((part, i) => [part.id, `seat-${String(i + 1).padStart(2, '0')}`])),
    }),
  );
  takeMends(hands, rulebook, blobs, inStage('shape'));
}

/** How far the car climbs, metres: no further than its tiles go. */
const CLIMB = { along: 0.6, up: 0.5 } as const;

function rideOfHalt(hands: Hands): void {
  hands.do(callOf(addClip, { id: 'clip-ride', name: 'ride', lengthSeconds: 8, rate: 24, loop: 'once' }));
  const keys = (axis: 0 | 1, most: number, easing: Easing) =>
    hands.keys('ride', 'ride-car', 'offset', axis, [
      [0, 0, easing],
      [3, most, 'hold'],
      [5, most, easing],
      [8, 0, 'hold'],
    ]);
  keys(0, CLIMB.along, 'curve');
  keys(1, CLIMB.up, 'curve');
  hands.do(
    callOf(setCue, {
      clip: 'clip-ride',
      cue: { id: 'cue-bell', time: 0, kind: 'sound', name: 'harbour bell', part: hands.part('ride-car') },
    }),
  );
}

/** The halt on its tiles as it comes from a hasty hand: in shape, with a ride that no state plays, its eight seats on their backs. */
export async function hillTramHaltOnTiles(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  await loadSimplifier();
  const hands = new Hands(await hillTramHalt(rulebook, blobs), blobs);
  shapeHalt(hands, rulebook, blobs);
  hands.do(callOf(renameKit, { name: 'Hill tram halt, on tiles' }));
  rideOfHalt(hands);
  // Seats of a tool that counts up as ahead: who sits on them looks at the sky.
  const back = Math.SQRT1_2;
  for (const { id, name, mesh } of begins(hands, 'seat-')) {
    if (mesh === null) continue;
    hands.do(callOf(renameParts, { names: { [id]: name.replace('seat-', 'bench-') } }));
    hands.do(callOf(makeSeats, { chairs: [id], like: null, prefix: 'seat-', figures: 2, ids: [`part-${name}`] }));
    hands.do(callOf(setTransform, { part: `part-${name}`, rotation: [-back, 0, 0, back] }));
    hands.do(callOf(reparentParts, { parts: [`part-${name}`], parent: hands.part('ride-car'), keep: 'world' }));
  }
  const glass = Object.values(hands.kit.materials).find(({ name }) => name === 'lamp glass');
  if (glass) hands.do(callOf(setMaterial, { material: glass.id, name: 'night-glow' }));
  return hands.kit;
}

/** The halt finished: seats set upright, colliders, a walkway, states, facts, lamps that shine. */
export async function hillTramHaltFinished(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = new Hands(await hillTramHaltOnTiles(rulebook, blobs), blobs);
  hands.do(callOf(renameKit, { name: 'Hill tram halt, finished' }));
  settle(hands, rulebook, blobs, 'clip-ride', {
    price: 900,
    kind: 'transport',
    thrill: 2,
    calm: 4,
    queue: 60,
    music: false,
    blurb: 'Up the hill and down again.',
  });
  return hands.kit;
}

function settle(hands: Hands, rulebook: Rulebook, blobs: Blobs, run: Id, facts: Record<string, number | string | boolean>): void {
  hands.do(callOf(setState, { state: 'run', clip: run, from: 0, to: null, over: 0 }));
  hands.do(callOf(setFacts, { facts }));
  hands.do(callOf(setGlow, { material: 'night-glow', factor: 3, colour: [1, 0.78, 0.42] }));
  takeMends(hands, rulebook, blobs, () => true);
}

/** The carousel as it came: all of it side by side. */
export async function tideCarousel(rulebook: Rulebook, blobs: Blobs): Promise<Hands> {
  const { kit } = await readGltf(await buildTideCarouselGlb(), 'tide-carousel.glb', blobs);
  const hands = new Hands(kit, blobs);
  hands.do(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }));
  hands.do(callOf(settleSource, { space: hands.kit.source!.space }));
  return hands;
}

/** The carousel finished: a ring that turns and rises, with gondolas that swing out, and a way to each of them. */
export async function tideCarouselFinished(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await tideCarousel(rulebook, blobs);
  const { gondolas, radius, hang, drop } = CAROUSEL;
  hands.do(callOf(renameKit, { name: 'Tide carousel' }));
  const numbers = Array.from({ length: gondolas }, (_, i) => i + 1);
  hands.do(
    callOf(renameParts, {
      names: {
        [hands.part('Ring')]: 'ride-ring',
        ...Object.fromEntries(numbers.map((n) => [hands.part(`Gondola ${n}`), `ride-swing-${n}`])),
      },
    }),
  );
  hands.pivotAt('ride-ring', [0, hang, 0]);
  for (const n of numbers) {
    const angle = (2 * Math.PI * (n - 1)) / gondolas;
    hands.pivotAt(`ride-swing-${n}`, [radius * Math.sin(angle), hang, radius * Math.cos(angle)]);
    const id = `seat-${n}`;
    hands.do(callOf(makeSeats, { chairs: [hands.part(`ride-swing-${n}`)], like: null, prefix: 'seat-', figures: 2, ids: [id] }));
    const facing = angle / 2;
    hands.do(
      callOf(setTransform, {
        part: id,
        translation: [0.02 * Math.sin(angle), -drop, 0.02 * Math.cos(angle)],
        rotation: [0, Math.sin(facing), 0, Math.cos(facing)],
      }),
    );
    hands.do(callOf(reparentParts, { parts: [hands.part(`ride-swing-${n}`)], parent: hands.part('ride-ring'), keep: 'world' }));
  }
  takeMends(hands, rulebook, blobs, inStage('shape'));
  hands.do(callOf(addClip, { id: 'clip-round', name: 'round', lengthSeconds: 16, rate: 24, loop: 'once' }));
  hands.keys('round', 'ride-ring', 'turn', 1, [
    [0, 0, 'curve'],
    [4, 110, 'straight'],
    [12, 610, 'curve'],
    [16, 720, 'hold'],
  ]);
  hands.keys('round', 'ride-ring', 'offset', 1, [
    [0, 0, 'curve'],
    [5, 0.5, 'hold'],
    [11, 0.5, 'curve'],
    [16, 0, 'hold'],
  ]);
  for (const n of numbers) {
    const angle = (2 * Math.PI * (n - 1)) / gondolas;
    // Outward is a turn about what lies across: for each gondola another mixture of the two level axes.
    for (const axis of [0, 2] as const) {
      const share = axis === 0 ? -Math.cos(angle) : Math.sin(angle);
      hands.keys('round', `ride-swing-${n}`, 'turn', axis, [
        [0, 0, 'curve'],
        [5, 14 * share, 'hold'],
        [11, 14 * share, 'curve'],
        [16, 0, 'hold'],
      ]);
    }
  }
  settle(hands, rulebook, blobs, 'clip-round', {
    price: 1400,
    kind: 'ride',
    thrill: 4,
    calm: 3,
    queue: 90,
    music: true,
    blurb: 'Round with the tide.',
  });
  return hands.kit;
}

/** The halt on its tiles as a file: shaped, with its ride, its seats on their backs, and nothing said of how it stands. */
export async function buildHillTramHaltOnTilesGlb(rulebook: Rulebook): Promise<Uint8Array> {
  const blobs = new MemoryBlobs();
  const kit = await hillTramHaltOnTiles(rulebook, blobs);
  return (await writeGlb(kit, blobs)).bytes;
}
