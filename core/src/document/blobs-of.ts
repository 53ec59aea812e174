import type { Accessor, Sha } from './blobs';
import type { Kit, Track } from './types';

/** Every blob that the kit refers to, each once. */
export function blobsOf(kit: Kit): Set<Sha> {
  const result = new Set<Sha>();
  const add = (accessor: Accessor) => result.add(accessor.blob);
  for (const mesh of Object.values(kit.meshes)) {
    for (const primitive of [...mesh.primitives, ...(mesh.levels ?? []).flatMap((level) => level.primitives)]) {
      Object.values(primitive.attributes).forEach(add);
      add(primitive.indices);
      for (const target of primitive.targets ?? []) Object.values(target).forEach(add);
    }
    for (const stroke of mesh.strokes ?? []) {
      Object.values(stroke.attributes).forEach(add);
      add(stroke.indices);
    }
  }
  for (const image of Object.values(kit.images)) result.add(image.blob);
  for (const skin of Object.values(kit.skins)) add(skin.inverseBindMatrices);
  const addTrack = (track: Track) => {
    if (track.kind !== 'samples') return;
    add(track.times);
    add(track.values);
  };
  for (const clip of Object.values(kit.clips)) clip.tracks.forEach(addTrack);
  for (const one of kit.parked ?? []) if (one.kind === 'track') addTrack(one.track);
  return result;
}

/** What a kit needs to be kept whole: its blobs, and the file that it came from. */
export function keptBlobsOf(kit: Kit): Set<Sha> {
  const result = blobsOf(kit);
  if (kit.source) result.add(kit.source.sha);
  return result;
}
