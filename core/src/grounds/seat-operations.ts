import Joi from 'joi';
import {
  defineOperation,
  idsSchema,
  KitError,
  newId,
  newPart,
  nextOrder,
  partOf,
  putNewPart,
  type Blobs,
  type Id,
  type Kit,
  type Quat,
  type Vec3,
} from '../document';
import {
  conjugateQuat,
  decomposeMatrix,
  flattenParts,
  invertMatrix,
  multiplyQuats,
  posedVertices,
  Poser,
  quatBetween,
  quatFromTurn,
  rotateVector,
  transformPoint,
} from '../geometry';
import { turnOwnAxes } from '../shape';
import { sittingPlace } from './sitting-place';

const UP: Vec3 = [0, 1, 0];
/** A seat that leans no more than this is upright, degrees: the noise of floats. */
const UPRIGHT = 1e-3;

const namesOf = (kit: Kit, parts: readonly Id[], many: string) =>
  parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} ${many}`;

const rotationOf = (kit: Kit, id: Id): Quat => decomposeMatrix(Float64Array.from(new Poser(flattenParts(kit)).worldOf(id))).rotation;

/**
 * The turn of a seat's own axes that sets it upright at rest: the least one, so that who sat facing somewhere faces there still, and who
 * lay on the back is raised; who hung head down is turned over about where they look.
 */
function turnUpright(kit: Kit, id: Id): Quat {
  const rotation = rotationOf(kit, id);
  const up = rotateVector(conjugateQuat(rotation), UP);
  // Own y and the world's up are one line, and against one another.
  return up[1] < -1 + 1e-9 ? [0, 0, 1, 0] : quatBetween(UP, up);
}

/** How far a seat leans at rest, degrees. */
export const leanOf = (world: ArrayLike<number>): number => (Math.atan2(Math.hypot(world[4], world[6]), world[5]) * 180) / Math.PI;

/** Sets seats upright: their own axes are turned, where they are and what is drawn stay. */
export const setUpright = defineOperation<{ seats: Id[] }>({
  id: 'grounds.set-upright',
  title: (kit, { seats }) => `Set ${namesOf(kit, seats, 'seats')} upright`,
  args: Joi.object({ seats: idsSchema.required() }),
  change(kit, { seats }, blobs) {
    for (const id of seats) {
      partOf(kit, id);
      if (leanOf(new Poser(flattenParts(kit)).worldOf(id)) > UPRIGHT) turnOwnAxes(kit, id, turnUpright(kit, id), blobs);
    }
  },
});

/** Lets those who sit face elsewhere: turns the own axes of seats about the up that they have. */
export const turnSeats = defineOperation<{ seats: Id[]; degrees: number }>({
  id: 'grounds.turn-seats',
  title: (kit, { seats, degrees }) => `Turn ${namesOf(kit, seats, 'seats')} by ${degrees}°`,
  args: Joi.object({ seats: idsSchema.required(), degrees: Joi.number().min(-360).max(360).required() }),
  change(kit, { seats, degrees }, blobs) {
    for (const id of seats) {
      partOf(kit, id);
      turnOwnAxes(kit, id, quatFromTurn([0, degrees, 0], 'xyz'), blobs);
    }
  },
});

/** Names by which seats are told: what stands before the number, and how many figures it has. */
export interface SeatNames {
  prefix: string;
  figures: number;
}

const namesSchema = { prefix: Joi.string().allow('').max(40).required(), figures: Joi.number().integer().min(1).max(6).required() };
const nameOf = ({ prefix, figures }: SeatNames, n: number) => `${prefix}${String(n).padStart(figures, '0')}`;

/** Numbers seats in the order given, from 1. Other parts that have such a name are no obstacle: the check of names says so. */
export const numberSeats = defineOperation<SeatNames & { seats: Id[] }>({
  id: 'grounds.number-seats',
  title: (kit, { seats }) => `Number ${namesOf(kit, seats, 'seats')}`,
  args: Joi.object({ ...namesSchema, seats: idsSchema.unique().required() }),
  change(kit, { seats, ...names }) {
    seats.forEach((id, i) => (partOf(kit, id).name = nameOf(names, i + 1)));
  },
});

/**
 * Puts a seat onto each of these parts, as a part of its own below it, numbered on from those that there are: where another part has its
 * seat, or where the part can be sat on.
 *
 * @param like A seat whose place on what carries it is taken for all.
 */
export const makeSeats = defineOperation<SeatNames & { chairs: Id[]; like: Id | null; ids?: Id[] }>({
  id: 'grounds.make-seats',
  title: (kit, { chairs }) => `Put ${chairs.length === 1 ? 'a seat' : 'seats'} onto ${namesOf(kit, chairs, 'parts')}`,
  args: Joi.object({
    ...namesSchema,
    chairs: idsSchema.unique().required(),
    like: Joi.string().max(64).allow(null).required(),
    ids: idsSchema,
  }),
  change(kit, { chairs, like, ids, ...names }, blobs) {
    const taken = new Set(Object.values(kit.parts).map(({ name }) => name));
    let n = 1;
    const parts = chairs.map((chair, i) => {
      const { translation, rotation } = like === null ? onChair(kit, chair, blobs) : asOn(kit, like);
      while (taken.has(nameOf(names, n))) n++;
      const name = nameOf(names, n);
      taken.add(name);
      const id = ids?.[i] ?? newId();
      putNewPart(
        kit,
        newPart({ id, name, role: 'seat', parent: partOf(kit, chair).id, order: nextOrder(kit, chair), translation, rotation }),
      );
      return id;
    });
    return { parts };
  },
});

/** Where a seat is on what carries it. */
function asOn(kit: Kit, like: Id): { translation: Vec3; rotation: Quat } {
  const { translation, rotation, parent, name } = partOf(kit, like);
  if (parent === null) throw new KitError('seat-alone', `“${name}” is carried by nothing, so it can’t be copied onto other parts.`, name);
  return { translation: [...translation], rotation: [...rotation] };
}

/** Where a part can be sat on, upright in the world. */
function onChair(kit: Kit, chair: Id, blobs: Blobs): { translation: Vec3; rotation: Quat } {
  const poser = new Poser(flattenParts(kit));
  const world = Float64Array.from(poser.worldOf(chair));
  const inverse = invertMatrix(world);
  const { name } = partOf(kit, chair);
  if (!inverse) throw new KitError('chair-flat', `“${name}” is scaled to nothing. Give it a size first.`, name);
  const place = sittingPlace(
    kit,
    blobs,
    chair,
    posedVertices(kit, blobs, kit.parts[chair], (id) => poser.worldOf(id)),
  );
  const facing = quatFromTurn([0, (Math.atan2(place.faces[0], place.faces[1]) * 180) / Math.PI, 0], 'xyz');
  return { translation: transformPoint(inverse, place.at), rotation: multiplyQuats(conjugateQuat(rotationOf(kit, chair)), facing) };
}
