import type { Coupling, Id, Kit, Vec3 } from '../document';
import { invertMatrix, transformPoint, type Mat4 } from './linear';
import { restWorlds } from './pose';

/** A place with a direction: where a coupling stands. */
export interface CouplingPlace {
  /** Metres. */
  at: Vec3;
  /** Unit vector. */
  axis: Vec3;
}

type Worlds = ReadonlyMap<Id, Float64Array>;

const leadOf = (kit: Kit, body: Id): Id => kit.bodies!.find(({ id }) => id === body)!.parts[0];

/** A place taken by a matrix. */
export function movedPlace(matrix: Mat4, { at, axis }: CouplingPlace): CouplingPlace {
  const point = transformPoint(matrix, at);
  const end = transformPoint(matrix, at.map((value, i) => value + axis[i]) as Vec3);
  const way = end.map((value, i) => value - point[i]);
  const length = Math.hypot(...way) || 1;
  return { at: point, axis: way.map((value) => value / length + 0) as Vec3 };
}

/** W = A · F_A: from the axes of the holding body into the world. */
export function couplingInWorld(
  kit: Kit,
  coupling: Pick<Coupling, 'from' | 'at' | 'axis'>,
  worlds: Worlds = restWorlds(kit),
): CouplingPlace {
  return placeFromBody(kit, coupling.from, coupling, worlds);
}

/** F_B = B⁻¹ · W: a place of the world read in the axes of a body, which are those of its first part. */
export function placeInBody(kit: Kit, body: Id, place: CouplingPlace, worlds: Worlds = restWorlds(kit)): CouplingPlace {
  const inverse = invertMatrix(worlds.get(leadOf(kit, body))!);
  return inverse ? movedPlace(inverse, place) : place;
}

/** A place typed in the axes of a body, in the world. */
export function placeFromBody(kit: Kit, body: Id, place: CouplingPlace, worlds: Worlds = restWorlds(kit)): CouplingPlace {
  return movedPlace(worlds.get(leadOf(kit, body))!, place);
}

/**
 * Couplings keep their place in the world while bodies lose or change their first part. Parts that go are taken out elsewhere. Writes to
 * the draft.
 */
export function keepCouplings(kit: Kit, change: () => void): void {
  if (!kit.bodies) return change();
  const worlds = restWorlds(kit);
  const places = new Map((kit.couplings ?? []).map((coupling) => [coupling.id, couplingInWorld(kit, coupling, worlds)]));
  const leads = new Map(kit.bodies.map((body) => [body.id, body.parts[0]]));
  change();
  dropEmptyBodies(kit);
  for (const coupling of kit.couplings ?? [])
    if (leads.get(coupling.from) !== leadOf(kit, coupling.from))
      Object.assign(coupling, tidied(placeInBody(kit, coupling.from, places.get(coupling.id)!, worlds)));
}

/** Bodies without parts go, and couplings without their bodies. Writes to the draft. */
function dropEmptyBodies(kit: Kit): void {
  if (!kit.bodies) return;
  const bodies = kit.bodies.filter(({ parts }) => parts.length > 0);
  const ids = new Set(bodies.map(({ id }) => id));
  const couplings = kit.couplings?.filter(({ from, to }) => ids.has(from) && ids.has(to));
  if (bodies.length === 0) delete kit.bodies;
  else if (bodies.length < kit.bodies.length) kit.bodies = bodies;
  if (couplings?.length === 0) delete kit.couplings;
  else if (couplings && couplings.length < kit.couplings!.length) kit.couplings = couplings;
}

const tidied = ({ at, axis }: CouplingPlace): CouplingPlace => ({
  at: at.map((value) => Number(value.toFixed(9)) + 0) as Vec3,
  axis: axis.map((value) => Number(value.toFixed(9)) + 0) as Vec3,
});
