import type { StoreApi } from 'zustand';
import type { Blobs, Kit, Vec3 } from '@itchkit/core/document';
import { floodTriangles, graphOf, restWorlds, transformPoint } from '@itchkit/core/geometry';
import type { PickedPoint, UiState } from '../session/ui-store';
import { snapPoint, type SurfaceHit } from './snap-point';

/** So many picked points are kept; a further one takes the place of the first. */
const MOST_POINTS = 3;

interface Around {
  ui: StoreApi<UiState>;
  kit(): Kit;
  blobs: Blobs;
}

/** What clicks on surfaces mean in Shape: points for pivots, hinges and measures; faces to be split off. */
export function surfacePicks({ ui, kit, blobs }: Around) {
  /** Whether the stroke that is going on lets faces go. */
  let taking = false;
  return {
    point(hits: SurfaceHit[], distanceTo: (point: Vec3) => number): void {
      const worlds = restWorlds(kit());
      const points = hits
        .filter(({ part }) => kit().parts[part]?.skin === null)
        .map((hit) => {
          const world = worlds.get(hit.part)!;
          const point = snapPoint(kit(), blobs, hit, world, distanceTo);
          return { point, pixels: distanceTo(transformPoint(world, point.at)) };
        });
      const nearest = (kind: PickedPoint['kind']) => points.filter((one) => one.point.kind === kind).sort((a, b) => a.pixels - b.pixels)[0];
      const meant = nearest('vertex') ?? nearest('edge') ?? points[0];
      if (meant) ui.setState({ picked: [...ui.getState().picked, meant.point].slice(-MOST_POINTS) });
    },
    face(hit: SurfaceHit | null, { start, take }: { start: boolean; take: boolean }): void {
      const { faces, spreadDegrees } = ui.getState();
      const mesh = hit && kit().parts[hit.part]?.mesh;
      if (!hit || !mesh) return;
      if (faces?.part !== hit.part && !start) return;
      const before = faces?.part === hit.part ? faces.chosen : new Set<number>();
      if (start) taking = take || before.has(hit.face);
      const meant = spreadDegrees === null ? [hit.face] : floodTriangles(graphOf(kit().meshes[mesh], blobs), [hit.face], spreadDegrees);
      const chosen = new Set(before);
      for (const face of meant) {
        if (taking) chosen.delete(face);
        else chosen.add(face);
      }
      if (chosen.size === before.size && faces?.part === hit.part) return;
      ui.setState({ faces: { part: hit.part, chosen }, ...(start ? { selection: [hit.part] } : {}) });
    },
  };
}
