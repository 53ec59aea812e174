import Joi from 'joi';
import { defineOperation, idSchema, newId, partOf, vec3Schema, type Id, type Vec3 } from '../../document';
import { conjugateQuat, reachOf, rotateVector } from '../../geometry';
import { clipOf } from '../clip-operations';
import { easingShape } from '../easing';
import { fineFrames } from '../frames';
import { ToolError, trackFor } from './chosen';
import { curveKeys } from './fit-keys';
import { courseOf, pathThrough } from './path-course';
import type { Tolerance } from '../local-limits';
import { allowance, toleranceArgs } from './thin-tracks';

/** Places on the path at least; where there are so many frames, one is taken at each of them. */
const FEWEST = 12;

/** How speed goes along a path. */
export const SPEED_PROFILES = ['even', 'ease-in', 'ease-out', 'ease-both'] as const;
export type SpeedProfile = (typeof SPEED_PROFILES)[number];

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

/**
 * Sends a part along a smooth path through points in a time, at a speed that is even or eased; facing along it, and leaning into turns, if
 * wanted.
 */
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
    const intoOwn = conjugateQuat(part.rotation);
    const path = pathThrough(points, closed);
    const course = courseOf(path, closed);
    if (course.whole < 1e-9) throw new ToolError(`All points of the path of “${part.name}” are at one place. Put them apart.`, partId);
    const shape = profile === 'even' ? (u: number) => u : easingShape(`sine-${profile.slice(5) as 'in' | 'out' | 'both'}`);
    const { times } = fineFrames(from, to, clip.rate, { fewest: FEWEST });
    const ways = times.map((_, i) => Math.min(1, shape(i / (times.length - 1))) * course.whole);
    const reach = reachOf(kit, blobs, partId);
    const write = (property: 'offset' | 'turn', axis: number, values: number[]) => {
      const track = trackFor(clip, partId, property, axis, newId);
      const keys = curveKeys(times, values, allowance(property, reach, tolerance) / 2);
      track.keys = [...track.keys.filter((key) => key.time < from || key.time > to), ...keys].sort((a, b) => a.time - b.time);
    };
    const places = ways.map((way) => course.at(way));
    for (const axis of [0, 1, 2])
      write(
        'offset',
        axis,
        places.map((at) => at[axis] - part.translation[axis]),
      );
    clip.lengthSeconds = Math.max(clip.lengthSeconds, to);
    if (!facing && bankDegrees === 0) return;
    // Headings in the part's own axes at rest, about its y.
    const own = courseOf(
      path.map((place) => rotateVector(intoOwn, place)),
      closed,
    );
    if (facing) write('turn', 1, ways.map(own.heading));
    if (bankDegrees === 0) return;
    const bends = ways.map(own.bend);
    const most = bends.reduce((so, bend) => Math.max(so, Math.abs(bend)), 1e-9);
    write(
      'turn',
      2,
      bends.map((bend) => (-bankDegrees * bend) / most),
    );
  },
});
