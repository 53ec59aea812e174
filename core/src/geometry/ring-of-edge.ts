import type { Blobs, Mesh, Vec3 } from '../document';
import { circleThrough } from './circle';
import { edgeRing, graphOf } from './mesh-graph';
import { wholeMesh } from './whole-mesh';

/** The rim of a hole or of a shaft's end: the mean of its corners, the unit normal of its plane, its radius in metres. */
export interface Ring {
  centre: Vec3;
  normal: Vec3;
  radius: number;
}

/**
 * The ring that an edge of a face lies on, in the mesh's own axes.
 *
 * @param edge 0 to 2: from that corner of the face to the next.
 * @returns null where the edge is of no rim that closes.
 */
export function ringOfEdge(mesh: Mesh, face: number, edge: number, blobs: Blobs): Ring | null {
  const graph = graphOf(mesh, blobs);
  const ring = edgeRing(graph, 3 * face + edge);
  if (!ring) return null;
  const { positions, indices } = wholeMesh(mesh, blobs);
  const wanted = new Set(ring);
  const placeOf = new Map<number, Vec3>();
  graph.places.forEach((place, corner) => {
    if (wanted.has(place)) placeOf.set(place, [0, 1, 2].map((axis) => positions[3 * indices[corner] + axis]) as Vec3);
  });
  const corners = ring.map((place) => placeOf.get(place)!);
  const third = Math.floor(corners.length / 3);
  const circle = third > 0 ? circleThrough(corners[0], corners[third], corners[2 * third]) : null;
  if (!circle) return null;
  const centre = [0, 1, 2].map((axis) => corners.reduce((sum, corner) => sum + corner[axis], 0) / corners.length) as Vec3;
  return { centre, normal: circle.normal, radius: circle.radius };
}
