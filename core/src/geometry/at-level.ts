import type { Kit } from '../document';

/** The kit in its simpler shapes; a mesh that has none of that name stays as it is. */
export function atLevel(kit: Kit, name: string): Kit {
  const meshes = Object.values(kit.meshes).map((mesh) => ({
    ...mesh,
    primitives: mesh.levels?.find((level) => level.name === name)?.primitives ?? mesh.primitives,
  }));
  return { ...kit, meshes: Object.fromEntries(meshes.map((mesh) => [mesh.id, mesh])) };
}
