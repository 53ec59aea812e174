import Joi from 'joi';
import { defineOperation, idSchema, newId, partOf, vec3Schema, type Id, type Vec3 } from '../../document';
import { conjugateQuat, reachOf, rotateVector } from '../../geometry';
import { clipOf } from '../clip-operations';
import { easingShape } from '../easing';
import { ToolError, trackFor } from './chosen';
import { straightKeys, curveKeys } from './fit-keys';
import { allowance, toleranceArgs, type Tolerance } from './thin-tracks';

/** Places between two points of a path. */
const PIECES = 64;

export const SPEED_PROFILES = ['even', 'ease-in', 'ease-out', 'ease-both'] as const;
export type SpeedProfile = (typeof SPEED_PROFILES)[number];

/**
 * Centripetal Catmull–Rom through points (Catmull & Rom 1974; Yuksel, Schaefer & Keyser 2011), as a row of places close together.
 *
 * @param closed Whether it goes on from the last point to the first.
 */
export function pathThrough(points: readonly Vec3[], closed: boolean): Vec3[] {
  const n = points.length;
  const at = (i: number): Vec3 => {
    if (closed) return points[((i % n) + n) % n];
    if (i < 0) return points[0].map((value, k) => 2 * value - points[1][k]) as Vec3;
    if (i >= n) return points[n - 1].map((value, k) => 2 * value - points[n - 2][k]) as Vec3;
    return points[i];
  };
  const out: Vec3[] = [points[0]];
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [p0, p1, p2, p3] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    const knot = (a: Vec3, b: Vec3) => Math.max(1e-9, Math.sqrt(Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])));
    const t1 = knot(p0, p1);
    const t2 = t1 + knot(p1, p2);
    const t3 = t2 + knot(p2, p3);
    const mix = (a: Vec3, b: Vec3, from: number, to: number, t: number) => a.map((value, k) => (value * (to - t) + b[k] * (t - from)) / (to - from)) as Vec3;
    for (let piece = 1; piece <= PIECES; piece++) {
      const t = t1 + ((t2 - t1) * piece) / PIECES;
      const [a, b, c] = [mix(p0, p1, 0, t1, t), mix(p1, p2, t1, t2, t), mix(p2, p3, t2, t3, t)];
      out.push(mix(mix(a, b, 0, t2, t), mix(b, c, t1, t3, t), t1, t2, t));
    }
  }
  return out;
}

interface PathArgs extends Tolerance {
  clip: Id;
  part: Id;
  /** Places of the pivot in the parent's axes, metres. */
  points: Vec3[];
  closed: boolean;
  from: number;
  to: number;
  profile: SpeedProfile;
  /** Whether the part's own +z looks along the path, turned about its own y. */
  facing: boolean;
  /** How far it leans into the sharpest turn at most, degrees about its own z; 0 not at all. */
  bankDegrees: number;
}

/** Sends a part along a smooth path through points in a time, at a speed that is even or eased; facing along it, and leaning into turns, if wanted. */
export const followPath = defineOperation<PathArgs>({
  id: 'motion.follow-path',
  title: (kit, { part, points }) => `Send “${kit.parts[part]?.name}” along ${points.length} points`,
  args: Joi.object({
    clip: idSchema.required(),
    part: idSchema.required(),
    points: Joi.array().items(vec3Schema).min(2).max(1000).required(),
    closed: Joi.boolean().required(),
    from: Joi.number().min(0).required(),
    to: Joi.number().greater(Joi.ref('from')).max(3600).required(),
    profile: Joi.valid(...SPEED_PROFILES).required(),
    facing: Joi.boolean().required(),
    bankDegrees: Joi.number().min(0).max(90).required(),
    ...toleranceArgs,
  }),
  change(kit, { clip: id, part: partId, points, closed, from, to, profile, facing, bankDegrees, ...tolerance }, blobs) {
    const clip = clipOf(kit, id);
    const part = partOf(kit, partId);
    const path = pathThrough(points, closed);
    const along = [0];
    for (let i = 1; i < path.length; i++) along.push(along[i - 1] + Math.hypot(...path[i].map((value, k) => value - path[i - 1][k])));
    const whole = along[along.length - 1];
    if (whole < 1e-9) throw new ToolError(`All points of the path of “${part.name}” are at one place. Put them apart.`, partId);
    const shape = profile === 'even' ? (u: number) => u : easingShape(`sine-${profile.slice(5) as 'in' | 'out' | 'both'}`);
    const steps = Math.max(2, Math.ceil((to - from) * Math.max(120, clip.rate)));
    const times = Array.from({ length: steps + 1 }, (_, i) => from + ((to - from) * i) / steps);
    let piece = 0;
    const places = times.map((_, i) => {
      const target = Math.min(whole, shape(i / steps) * whole);
      while (piece + 2 < along.length && along[piece + 1] < target) piece++;
      const u = (target - along[piece]) / Math.max(1e-12, along[piece + 1] - along[piece]);
      return { at: path[piece].map((value, k) => value + u * (path[piece + 1][k] - value)) as Vec3, piece };
    });
    const reach = reachOf(kit, blobs, partId);
    const write = (property: 'offset' | 'turn', axis: number, values: number[]) => {
      const track = trackFor(clip, partId, property, axis, newId);
      const within = allowance(property, reach, tolerance) / 3;
      const keys = property === 'offset' ? curveKeys(times, values, within) : straightKeys(times, values, within);
      track.keys = [...track.keys.filter((key) => key.time < from || key.time > to), ...keys].sort((a, b) => a.time - b.time);
    };
    for (const axis of [0, 1, 2])
      write(
        'offset',
        axis,
        places.map(({ at }) => at[axis] - part.translation[axis]),
      );
    clip.lengthSeconds = Math.max(clip.lengthSeconds, to);
    if (!facing && bankDegrees === 0) return;
    // Headings in the part's own axes at rest, about its y.
    const ways = path.slice(1).map((place, i) => rotateVector(conjugateQuat(part.rotation), place.map((value, k) => value - path[i][k]) as Vec3));
    let before = 0;
    const headings = ways.map(([x, , z]) => {
      const heading = (Math.atan2(x, z) * 180) / Math.PI;
      return (before = heading + 360 * Math.round((before - heading) / 360));
    });
    const smooth = (list: number[], width: number) => list.map((_, i) => list.slice(Math.max(0, i - width), i + width + 1).reduce((sum, value, __, all) => sum + value / all.length, 0));
    if (facing)
      write(
        'turn',
        1,
        places.map(({ piece: at }) => headings[at]),
      );
    if (bankDegrees === 0) return;
    const bends = smooth(
      headings.map((heading, i) => (i === 0 ? 0 : (heading - headings[i - 1]) / Math.max(1e-9, along[i + 1] - along[i]))),
      PIECES / 4,
    );
    const most = Math.max(...bends.map(Math.abs), 1e-9);
    write(
      'turn',
      2,
      places.map(({ piece: at }) => (-bankDegrees * bends[at]) / most),
    );
  },
});
