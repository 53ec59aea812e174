import type { Kit, Vec3 } from '../document';
import { couplingInWorld, placeInBody, restWorlds } from '../geometry';

const rounded = (values: Vec3) => values.map((value) => Number(value.toPrecision(9)) + 0);

/**
 * Bodies and couplings of a kit in the platform's space: lengths in its unit, turns in degrees. Each coupling's place is told in the axes
 * of both bodies, which are those of their first part.
 */
export function assemblyTable(kit: Kit) {
  const worlds = restWorlds(kit);
  const bodies = kit.bodies ?? [];
  const nameOf = (id: string) => bodies.find((body) => body.id === id)!.name;
  return {
    format: 'itchkit.assembly/1',
    bodies: bodies.map(({ name, parts, anchored }) => ({ name, anchored, parts: parts.map((id) => kit.parts[id].name) })),
    couplings: (kit.couplings ?? []).map((coupling) => {
      const held = placeInBody(kit, coupling.to, couplingInWorld(kit, coupling, worlds), worlds);
      return {
        name: coupling.name,
        kind: coupling.kind,
        from: nameOf(coupling.from),
        to: nameOf(coupling.to),
        inFrom: { at: rounded(coupling.at), axis: rounded(coupling.axis) },
        inTo: { at: rounded(held.at), axis: rounded(held.axis) },
        min: coupling.min,
        max: coupling.max,
      };
    }),
  };
}
