import { partsInOrder, subtreeOf, type Id, type Vec3 } from '../../document';
import {
  flattenParts,
  invertMatrix,
  isEmptyBounds,
  largestStretch,
  ownBounds,
  posedVertices,
  Poser,
  sizeOf,
  SurfaceTree,
  transformPoint,
} from '../../geometry';
import { framesOf, leanOf, statePlays, triangleCorners, type SeatRules } from '../../grounds';
import { compileClip, sampleClip } from '../../motion';
import { playedClip } from '../played-tracks';
import type { Check, CheckContext, Said } from '../types';
import { count, figure, nameList } from '../wording';
import { groupsOf, needsGrounds } from './grounds-shared';

/** Who sits is looked at in this many places from the seat up. */
const LOOKS = 3;
/** People who sit closer than this share of the room that they take are in one another's. */
const CLOSE = 0.98;
/** At most as many times of a clip are looked at for what people pass through. */
const MOST_TIMES = 60;

interface Worst {
  value: number;
  seconds: number;
  clip: string;
  other?: Id;
}

/** The middle of a person who sits, from the seat up, in the seat's axes. */
const bodyOf = ({ height, radius }: SeatRules): Vec3[] =>
  Array.from({ length: LOOKS }, (_, i): Vec3 => [0, 1.2 * radius + ((height - 2.2 * radius) * i) / (LOOKS - 1), 0]);

/** A part whose triangles can be asked for what is nearest, in its own axes. */
interface Obstacle {
  id: Id;
  tree: SurfaceTree;
  index: number;
  /** A ball about it, in its own axes. */
  middle: Vec3;
  radius: number;
}

function obstaclesFor(context: CheckContext, flat: Poser['flat']): Obstacle[] {
  const { kit, blobs } = context;
  const still = new Float64Array([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  return partsInOrder(kit).flatMap((part): Obstacle[] => {
    if (part.mesh === null || part.skin !== null) return [];
    const corners = triangleCorners(kit, blobs, part);
    const bounds = ownBounds(kit, blobs, part);
    if (corners.length < 3 || isEmptyBounds(bounds)) return [];
    const middle = bounds.min.map((value, axis) => (value + bounds.max[axis]) / 2) as Vec3;
    const radius = Math.hypot(...sizeOf(bounds)) / 2;
    const tree = new SurfaceTree(
      posedVertices(kit, blobs, part, () => still),
      corners,
    );
    return [{ id: part.id, tree, index: flat.indexOf.get(part.id)!, middle, radius }];
  });
}

/** How near a person who sits comes to a part, metres; Infinity where it is no nearer than asked. */
function nearest(obstacle: Obstacle, poser: Poser, seat: ArrayLike<number>, body: readonly Vec3[], within: number): number {
  const world = poser.world.slice(16 * obstacle.index, 16 * obstacle.index + 16);
  const far = distance(transformPoint(world, obstacle.middle), transformPoint(seat, body[1]));
  if (far > obstacle.radius * largestStretch(world) + body[LOOKS - 1][1] - body[0][1] + within) return Infinity;
  const inverse = invertMatrix(world);
  if (!inverse) return Infinity;
  const scale = Math.cbrt(Math.abs(1 / determinant(inverse)));
  let least = Infinity;
  for (const at of body) {
    const hit = obstacle.tree.nearest(...transformPoint(inverse, transformPoint(seat, at)), Math.min(within, least) / scale);
    least = Math.min(least, Math.sqrt(hit.squaredDistance) * scale);
  }
  return least;
}

const determinant = (m: ArrayLike<number>): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

/** Those who ride stay the right way up, apart from one another, and out of what they pass. */
export const groundsSeatsRide: Check = {
  id: 'grounds.seats-ride',
  family: 'grounds',
  stage: 'wiring',
  about: 'Those who ride stay the right way up, apart from one another, and out of what they pass',
  limit: 'degrees',
  needs: needsGrounds,
  run(context, rule) {
    const { kit, blobs, rulebook } = context;
    const rules = rulebook.grounds!;
    const seats = groupsOf(context).flatMap((group) => group.seats);
    if (seats.length === 0) return [];
    const poser = new Poser(flattenParts(kit));
    const body = bodyOf(rules.seat);
    const obstacles = obstaclesFor(context, poser.flat);
    const worlds = () => seats.map((id) => poser.worldOf(id));
    // What is near at rest is what they sit on; what they sit on goes along.
    const near = new Map(
      seats.map((id): [Id, Set<Id>] => {
        const own = subtreeOf(kit, id);
        const touching = obstacles.filter(
          (one) => own.has(one.id) || nearest(one, poser, poser.worldOf(id), body, rules.seat.radius) < Infinity,
        );
        return [id, new Set(touching.map((one) => one.id))];
      }),
    );
    const [leaning, meeting, passing] = [new Map<Id, Worst>(), new Map<Id, Worst>(), new Map<Id, Worst>()];
    const note = (table: Map<Id, Worst>, id: Id, value: number, at: Omit<Worst, 'value'>) => {
      if (value > (table.get(id)?.value ?? -Infinity)) table.set(id, { value, ...at });
    };
    const look = (clip: string, seconds: number, passes: boolean) => {
      const now = worlds();
      const heads = now.map((world) => transformPoint(world, body[LOOKS - 1]));
      seats.forEach((id, i) => {
        const lean = leanOf(now[i]);
        if (lean > rule.limit!) note(leaning, id, lean, { clip, seconds });
        for (let k = i + 1; k < seats.length; k++) {
          const apart = Math.min(distance(heads[i], heads[k]), distance(now[i].subarray(12, 15), now[k].subarray(12, 15)));
          if (apart < CLOSE * 2 * rules.seat.radius) note(meeting, id, -apart, { clip, seconds, other: seats[k] });
        }
        if (!passes) return;
        for (const obstacle of obstacles) {
          if (near.get(id)!.has(obstacle.id)) continue;
          const apart = nearest(obstacle, poser, now[i], body, 0.9 * rules.seat.radius);
          if (apart < Infinity) note(passing, id, -apart, { clip, seconds, other: obstacle.id });
        }
      });
    };
    look('', 0, false);
    for (const { clip: whole, from, to } of statePlays(kit, rules)) {
      if (!whole) continue;
      const clip = playedClip(rulebook, whole);
      const compiled = compileClip(clip, poser.flat, blobs);
      const frames = framesOf({ lengthSeconds: to - from, rate: whole.rate });
      const every = Math.max(1, Math.ceil(frames / MOST_TIMES));
      for (let frame = 0; frame <= frames; frame++) {
        const seconds = from + ((to - from) * frame) / frames;
        poser.reset();
        sampleClip(compiled, seconds, poser.pose);
        poser.update();
        look(whole.name, seconds, frame % every === 0);
      }
    }
    const names = (ids: Iterable<Id>) => nameList([...ids].map((id) => kit.parts[id].name));
    const when = ({ clip, seconds }: Worst) => (clip === '' ? 'at rest' : `at ${figure(seconds, 2)} s of “${clip}”`);
    const worstOf = (table: Map<Id, Worst>) => [...table.values()].reduce((a, b) => (b.value > a.value ? b : a));
    const said: Said[] = [];
    if (leaning.size > 0) {
      const worst = worstOf(leaning);
      said.push({
        key: 'over',
        title: 'Turned over',
        message: `${count(leaning.size, 'seat leans', 'seats lean')} too far: ${names(leaning.keys())}, furthest ${when(worst)}.`,
        measured: `${figure(worst.value, 0)}°`,
        limit: `${figure(rule.limit!, 0)}°`,
        parts: [...leaning.keys()],
      });
    }
    if (meeting.size > 0) {
      const worst = worstOf(meeting);
      said.push({
        key: 'close',
        title: 'Seats too close',
        message: `${names(new Set([...meeting.keys(), worst.other!]))} come nearer to one another than people are wide, ${when(worst)}.`,
        measured: `${figure(-1000 * worst.value, 0)} mm`,
        limit: `${figure(2000 * rules.seat.radius, 0)} mm`,
        parts: [...meeting.keys()],
      });
    }
    if (passing.size > 0) {
      const worst = worstOf(passing);
      said.push({
        key: 'through',
        title: 'Rides through something',
        message: `Who sits on ${names(passing.keys())} passes through “${kit.parts[worst.other!].name}” ${when(worst)}.`,
        measured: `${figure(-1000 * worst.value, 0)} mm from its middle`,
        limit: `${figure(1000 * rules.seat.radius, 0)} mm`,
        parts: [...passing.keys(), worst.other!],
      });
    }
    return said;
  },
};

const distance = (a: ArrayLike<number>, b: ArrayLike<number>): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
