'use client';
import { useMemo } from 'react';
import type { Axis, Coupling, Kit, Part, Vec3 } from '@itchkit/core/document';
import { couplingInWorld, restWorlds } from '@itchkit/core/geometry';
import { hingeLimits, hingeReach, type HingeLimits } from '@itchkit/core/rig';
import { useKit, useOpenKit } from '../../session/context';

/** Lines closer than this to one another are one, by the sine of the angle between them. */
const ALONG = 0.02;

/** The hinge whose body a part is in, where the part turns about it as about one of its own axes. */
function hingeOf(kit: Kit, part: Part, way: Vec3): { coupling: Coupling; sign: 1 | -1 } | null {
  const body = kit.bodies?.find(({ parts }) => parts.includes(part.id));
  for (const coupling of kit.couplings ?? []) {
    if (coupling.kind !== 'hinge' || coupling.to !== body?.id) continue;
    const { axis } = couplingInWorld(kit, coupling);
    const [x, y, z] = [0, 1, 2].map((i) => axis[(i + 1) % 3] * way[(i + 2) % 3] - axis[(i + 2) % 3] * way[(i + 1) % 3]);
    if (Math.hypot(x, y, z) > ALONG) continue;
    return { coupling, sign: axis[0] * way[0] + axis[1] * way[1] + axis[2] * way[2] >= 0 ? 1 : -1 };
  }
  return null;
}

/** How far a part swings about one of its own axes, degrees, and what says so: its coupling, or what stands around it. */
export function useHingeLimits(part: Part, axis: Axis): HingeLimits & { why: string } {
  const kit = useKit();
  const { session } = useOpenKit();
  return useMemo(() => {
    const world = restWorlds(kit).get(part.id)!;
    const from: Vec3 = [world[12], world[13], world[14]];
    const length = Math.hypot(world[4 * axis], world[4 * axis + 1], world[4 * axis + 2]) || 1;
    const way = [0, 1, 2].map((i) => world[4 * axis + i] / length) as Vec3;
    const held = hingeOf(kit, part, way);
    if (held) {
      const [min, max] = [held.coupling.min ?? -180, held.coupling.max ?? 180];
      return { ...(held.sign > 0 ? { min, max } : { min: -max + 0, max: -min + 0 }), why: `as “${held.coupling.name}” lets it` };
    }
    const reach = hingeReach(kit, [part.id], [from, from.map((value, i) => value + way[i]) as Vec3], session.blobs);
    const stopped = reach && (reach.min !== null || reach.max !== null);
    return { ...hingeLimits(reach), why: stopped ? 'as far as nothing is in its way' : 'nothing is in its way' };
  }, [kit, part, axis, session]);
}
