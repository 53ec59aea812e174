import type * as THREE from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';

/** Under this many triangles looking at each is as fast. */
const FEW = 500;

const trees = new WeakMap<THREE.BufferGeometry, MeshBVH>();

/**
 * The nearest hit of a ray on some meshes. Geometry is sorted into a tree of boxes the first time (three-mesh-bvh), beside its index: the
 * arrays are the kit's own and stay as they are. Meshes that joints or morphs deform are looked at as they are posed.
 */
export function nearestHit(caster: THREE.Raycaster, meshes: readonly THREE.Mesh[]): THREE.Intersection | null {
  caster.firstHitOnly = true;
  let best: THREE.Intersection | null = null;
  for (const mesh of meshes) {
    const hits: THREE.Intersection[] = [];
    const deformed = (mesh as THREE.SkinnedMesh).isSkinnedMesh || mesh.morphTargetInfluences?.some((weight) => weight !== 0);
    const { geometry } = mesh;
    if (deformed || (geometry.index?.count ?? 0) < 3 * FEW) mesh.raycast(caster, hits);
    else {
      geometry.boundsTree = treeOf(geometry);
      acceleratedRaycast.call(mesh, caster, hits);
    }
    for (const hit of hits) if (!best || hit.distance < best.distance) best = hit;
  }
  return best;
}

function treeOf(geometry: THREE.BufferGeometry): MeshBVH {
  let tree = trees.get(geometry);
  if (!tree) trees.set(geometry, (tree = new MeshBVH(geometry, { indirect: true })));
  return tree;
}
