import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  freeName,
  idSchema,
  idsSchema,
  newId,
  newPart,
  partOf,
  putNewPart,
  subtreeOf,
  type Axis,
  type Id,
  type Kit,
  type Part,
} from '../document';
import {
  affineMatrix,
  decomposeMatrix,
  invertMatrix,
  keepPlaceBelow,
  mat3FromQuat,
  multiplyMat3,
  restWorlds,
  transformPoint,
} from '../geometry';
import {
  betweenAxes,
  betweenParents,
  depthOf,
  mirroredAxes,
  mirrorPlane,
  resizes,
  sameOrder,
  takenRows,
  throughMirror,
  toPlace,
  turning,
  TwinError,
  type MirroredAxes,
  type Taking,
} from './twin-taking';

/** Puts an empty part above some, where another one is taken to: its own axes are there what those of the other are. */
function putCarrier(kit: Kit, of: Part, above: readonly Id[], { linear, det, place }: Taking, name: string): Id {
  const worlds = restWorlds(kit);
  const { parent } = kit.parts[above[0]];
  const { translation, rotation } = decomposeMatrix(worlds.get(of.id)!);
  const there = multiplyMat3(linear, mat3FromQuat(rotation));
  // In a mirror M · R · M is a rotation again, with the own axes of the part, mirrored along the same one.
  const turned = decomposeMatrix(affineMatrix(det < 0 ? multiplyMat3(there, linear) : there)).rotation;
  const at = place(translation);
  const taken = new Set(Object.values(kit.parts).map((part) => part.name));
  const id = newId();
  const { order } = kit.parts[above[0]];
  const carrier = newPart({ id, name: freeName(name, taken), parent: null, role: 'driven', order, translation: at, rotation: turned });
  carrier.turnOrder = of.turnOrder;
  putNewPart(kit, carrier);
  const withIt = new Map(worlds).set(id, restWorlds(kit).get(id)!);
  if (parent !== null) keepPlaceBelow(kit, id, parent, withIt);
  for (const child of above) keepPlaceBelow(kit, child, id, withIt);
  for (const under of [parent, id]) childrenOf(kit, under).forEach((child, place) => (kit.parts[child.id].order = place));
  return id;
}

/** The twin of a part that shows nothing: what carries the twins of what it carries. */
function hollowTwin(kit: Kit, part: Part, pairs: Map<Id, Id>, taking: Taking, names: (name: string) => string): Id {
  const twins = childrenOf(kit, part.id).flatMap(({ id }) => pairs.get(id) ?? []);
  if (part.mesh !== null || twins.length === 0)
    throw new TwinError(
      'twin-missing',
      `“${part.name}” has no twin there. ${taking.det < 0 ? 'Mirror' : 'Repeat'} it in Shape first, or take it out of the choice.`,
      part.name,
    );
  return putCarrier(kit, part, twins, taking, names(part.name));
}

/** Twins are shown and hidden as what they are twins of, by an index of their own: of the chosen parts and of all that these carry. */
function switchTwins(kit: Kit, chosen: readonly Id[], pairs: ReadonlyMap<Id, Id>, index: number | null): void {
  const carried = new Set(chosen.flatMap((id) => [...subtreeOf(kit, id)]));
  for (const one of (kit.switches ?? []).filter(({ part }) => carried.has(part))) {
    const twin = pairs.get(one.part);
    if (twin === undefined || twin === one.part) continue;
    const own = one.index === null ? null : index;
    // By the same variable they would stand for one another: they are another set.
    const among = one.among !== '' && own === one.index ? `${one.among} twin` : one.among;
    const made = { ...one, spans: one.spans.map((span) => ({ ...span })), id: newId(), part: twin, index: own, among };
    kit.switches = [...kit.switches!.filter(({ part }) => part !== twin), made];
  }
}

/** Links between parts that were all given to twins are those of the twins, too: renewed with what carries these. */
function linkTwins(kit: Kit, twins: ReadonlyMap<Id, { twin: Id; to: readonly Axis[] }>, { place }: Taking, index: number | null): void {
  const worlds = restWorlds(kit);
  const made = (kit.links ?? []).flatMap((link) => {
    const pair = link.parts.map((id) => twins.get(id));
    if (!pair.every((one) => one !== undefined) || pair.some(({ twin }, i) => twin === link.parts[i])) return [];
    const world = worlds.get(link.parts[0])!;
    const back = invertMatrix(Float64Array.from(worlds.get(pair[0].twin)!));
    const there = link.at && place(transformPoint(world, link.at));
    return [
      {
        ...link,
        id: newId(),
        parts: pair.map(({ twin }) => twin),
        axes: pair.map(({ to }, i) => to[link.axes[i]]),
        at: there && back ? transformPoint(back, there) : null,
        on: link.on === null ? null : (twins.get(link.on)?.twin ?? link.on),
        index: link.index === null ? null : index,
      },
    ];
  });
  if (made.length === 0) return;
  const taken = new Set(made.flatMap(({ parts }) => parts));
  kit.links = [...kit.links!.filter(({ parts }) => !parts.some((id) => taken.has(id))), ...made];
}

/**
 * Gives the motion of parts to their twins, with an index of its own: rows go over as M·Δ·M⁻¹ in the twin’s own axes, so that every world
 * placement is the image of the other’s; they are linked, shown and hidden as those are. What twins followed before is replaced. A carrier
 * that has no twin gets one; where a twin’s axes lie askew, a carrier with axes that do not is put above it.
 *
 * @param pairs Twin of each part, by id.
 * @param axis Normal of the mirror: 0 left and right, midway between the uppermost part and its twin where they face one another, else
 *   through the middle of the kit; null for a place that is no mirror image, to which the
 *   uppermost part is taken as it stands against its twin
 * @throws {TwinError} where a part that is drawn has no twin
 */
export const bindTwins = defineOperation<{ bindings: Id[]; pairs: Record<Id, Id>; axis: Axis | null; index: number | null }>({
  id: 'wiring.bind-twins',
  title: (kit, { bindings, axis }) =>
    `Give the wiring of ${bindings.map((id) => `“${kit.parts[kit.bindings[id]?.part]?.name}”`).join(', ')} to ${axis === null ? 'another place' : 'the other side'}`,
  args: Joi.object({
    bindings: idsSchema.required(),
    pairs: Joi.object().pattern(idSchema, idSchema).required(),
    axis: Joi.valid(0, 1, 2, null).required(),
    index: Joi.number().integer().min(0).allow(null).required(),
  }),
  change(kit, { bindings, pairs: told, axis, index }) {
    const pairs = new Map(Object.entries(told).filter(([a, b]) => kit.parts[a] && kit.parts[b] && a !== b));
    const given = bindings.map((id) => {
      const binding = kit.bindings[id];
      if (!binding) throw new TwinError('twin-binding', 'One of these bindings is no longer in the kit. Choose again.', id);
      return binding;
    });
    // From the ends up, so that a carrier finds the twins of what it carries.
    const chosen = [...new Set(given.map(({ part }) => part))].sort((a, b) => depthOf(kit, b) - depthOf(kit, a));
    const top = chosen.findLast((id) => pairs.has(id));
    if (axis === null && top === undefined)
      throw new TwinError('twin-missing', 'None of these parts has one like it there. Repeat them in Shape first.');
    const worlds = restWorlds(kit);
    const taking = axis === null ? toPlace(worlds, top!, pairs.get(top!)!) : throughMirror(axis, mirrorPlane(kit, chosen, told, axis));
    const other = (name: string) => `${name}_twin`;
    for (const id of chosen) {
      const part = partOf(kit, id);
      if (!pairs.has(id)) pairs.set(id, hollowTwin(kit, part, pairs, taking, other));
    }
    const made: Id[] = [];
    const twinOf = new Map<Id, { twin: Id; to: readonly Axis[] }>();
    for (const binding of given) {
      const part = partOf(kit, binding.part);
      const about = turning(binding);
      let twin = pairs.get(part.id)!;
      const fits = (id: Id): MirroredAxes | null => {
        const axes = mirroredAxes(betweenAxes(restWorlds(kit), part.id, id, taking));
        return axes && sameOrder(part, kit.parts[id], about, axes) ? axes : null;
      };
      let axes = fits(twin);
      if (!axes && (about.length > 0 || resizes(binding))) {
        twin = putCarrier(kit, part, [twin], taking, `${kit.parts[twin].name}_carrier`);
        axes = fits(twin)!;
      }
      axes ??= { to: [0, 1, 2], sign: [1, 1, 1] };
      for (const old of Object.values(kit.bindings)) if (old.part === twin || old.part === pairs.get(part.id)) delete kit.bindings[old.id];
      kit.parts[twin].role ??= 'driven';
      const between = betweenParents(restWorlds(kit), part, kit.parts[twin].parent, taking);
      const id = newId();
      kit.bindings[id] = {
        id,
        part: twin,
        variable: binding.variable,
        index,
        outside: binding.outside,
        ...(binding.between && { between: binding.between }),
        rows: takenRows(binding, between, axes, taking.det),
      };
      made.push(twin);
      twinOf.set(part.id, { twin, to: axes.to });
    }
    linkTwins(kit, twinOf, taking, index);
    switchTwins(kit, chosen, pairs, index);
    return { parts: made };
  },
});
