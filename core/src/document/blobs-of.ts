import type { Accessor, Sha } from './blobs';
import type { Kit } from './types';

/** Every blob that the kit refers to, each once. */
export function blobsOf(kit: Kit): Set<Sha> {
  const result = new Set<Sha>();
  const add = (accessor: Accessor) => result.add(accessor.blob);
  for (const mesh of Object.values(kit.meshes)) {
    for (const primitive of mesh.primitives) {
      Object.values(primitive.attributes).forEach(add);
      add(primitive.indices);
    }
  }
  for (const image of Object.values(kit.images)) result.add(image.blob);
  for (const skin of Object.values(kit.skins)) add(skin.inverseBindMatrices);
  for (const clip of Object.values(kit.clips)) {
    for (const track of clip.tracks) {
      if (track.kind === 'samples') {
        add(track.times);
        add(track.values);
      }
    }
  }
  return result;
}
