import Joi from 'joi';
import { defineOperation, idSchema, type Blobs, type Clip, type Id, type Kit } from '../../document';
import { reachOf } from '../../geometry';
import { fineFrames } from '../frames';
import { allowance } from '../tools/thin-tracks';
import { BODY_MOTIONS } from './body-motions';
import { CREATURE_MOTIONS } from './creature-motions';
import { MotionFitError } from './fit-choices';
import type { LibraryMotion } from './library-motion';
import { rolesOf, rootOf, type JointRoles } from './motion-role';
import { MotionSolver } from './motion-solver';
import { MovingBody } from './moving-body';
import type { Planted } from './planted-feet';
import { writeOffsets, writeTurns } from './write-samples';

const libraryMotion = (id: string): LibraryMotion | undefined => [...BODY_MOTIONS, ...CREATURE_MOTIONS].find((motion) => motion.id === id);

/**
 * Puts a motion of the library on a kit's skeleton, as a new clip of plain keys: turns relative to rest in the world, each on top of its
 * parent's;
 * the root's moves in heights of its hips; and legs solved as two bones, so that a planted foot stays on its place (to the tolerance of the
 * keys).
 *
 * A clip that is there already gets the motion in place of its own. With `inPlace` the root goes nowhere.
 */
export const putMotion = defineOperation<{ motion: string; clip: Id; name: string; rate: number; inPlace?: boolean }>({
  id: 'motion.put',
  title: (_, { motion, name }) => `Put “${libraryMotion(motion)?.title ?? motion}” on the skeleton as “${name}”`,
  args: Joi.object({
    motion: Joi.string().required(),
    clip: idSchema.required(),
    name: Joi.string().min(1).max(200).required(),
    rate: Joi.number().min(1).max(240).required(),
    inPlace: Joi.boolean(),
  }),
  change(kit, { motion: id, clip, name, rate, inPlace = false }, blobs) {
    const motion = libraryMotion(id);
    if (!motion) throw new MotionFitError(`There is no motion “${id}” in the library. Choose another one.`);
    const roles = rolesOf(kit);
    if (rootOf(roles) === undefined)
      throw new MotionFitError(
        `No joint of this kit is known to be the ${motion.skeleton === 'fins' ? 'trunk' : 'hips'}. Say which one is, or name it so, or fit a skeleton first.`,
      );
    const order = kit.clips[clip]?.order ?? Math.max(-1, ...Object.values(kit.clips).map((one) => one.order)) + 1;
    kit.clips[clip] = { ...kit.clips[clip], id: clip, name, order, lengthSeconds: motion.seconds, rate, loop: motion.loop, tracks: [] };
    writeMotion(kit, kit.clips[clip], motion, roles, blobs);
    if (!inPlace || motion.travel === 0) return;
    const body = new MovingBody(kit, kit.clips[clip], blobs);
    body.stay();
    body.write(kit.clips[clip], blobs);
  },
});

/** Samples a second at least. */
const SAMPLES = 120;

/** When and how high the feet of a motion stand on a body, as it says itself. */
export function plantedIn(motion: LibraryMotion, kit: Kit): Planted[] {
  const solver = new MotionSolver(kit, rolesOf(kit), motion);
  const { times } = fineFrames(0, motion.seconds, SAMPLES);
  return solver.legs.flatMap(({ foot, ids }) => {
    const out: Planted[] = [];
    let open: Planted | null = null;
    for (const time of times) {
      const pose = motion.pose(time / motion.seconds).feet[foot];
      if (!pose?.planted) open = null;
      else if (open) open.to = time;
      else out.push((open = { foot: ids[2], from: time, to: time, lift: pose.at[1] * solver.hipHeight }));
    }
    return out.filter(({ from, to }) => to > from);
  });
}

/** Writes a motion into a clip: what moves becomes keys, off by a thousandth of the height of the hips at most. */
function writeMotion(kit: Kit, clip: Clip, motion: LibraryMotion, roles: JointRoles, blobs: Blobs): void {
  const solver = new MotionSolver(kit, roles, motion);
  const samples = fineFrames(0, motion.seconds, clip.rate, { perSecond: SAMPLES });
  const moments = samples.times.map((time) => solver.at(time / motion.seconds));
  const height = solver.hipHeight;
  writeOffsets(
    clip,
    rootOf(roles)!,
    samples,
    moments.map(({ offset }) => offset),
    0.0008 * height,
  );
  for (const id of solver.moved) {
    const within = allowance('turn', reachOf(kit, blobs, id) || height / 2, { metres: 0.0009 * height, degrees: 0.15 });
    writeTurns(
      kit,
      clip,
      id,
      samples,
      moments.map(({ spins }) => spins.get(id)!),
      within,
    );
  }
}
