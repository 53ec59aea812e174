import { partsInOrder, type Blobs, type Clip, type Id, type Kit } from '../document';
import { emptyBounds, flattenParts, growBounds, isEmptyBounds, Poser, posedVertices, type Bounds } from '../geometry';
import { compileClip, sampleClip } from '../motion';

/**
 * World bounds of every part that shows a mesh, over each frame of all clips and at rest, metres: exact over their vertices.
 *
 * @param played A clip as the platform plays it; null where it does not.
 */
export function sweptBounds(kit: Kit, blobs: Blobs, played: (clip: Clip) => Clip | null): Map<Id, Bounds> {
  const poser = new Poser(flattenParts(kit));
  const shown = partsInOrder(kit).filter((part) => part.mesh !== null);
  const result = new Map(shown.map((part) => [part.id, emptyBounds()]));
  const grow = () => {
    for (const part of shown)
      growBounds(
        result.get(part.id)!,
        posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id)),
      );
  };
  grow();
  for (const whole of Object.values(kit.clips)) {
    const clip = played(whole);
    if (clip === null) continue;
    const compiled = compileClip(clip, poser.flat, blobs);
    const frames = Math.max(1, Math.round(clip.lengthSeconds * clip.rate));
    for (let frame = 0; frame <= frames; frame++) {
      poser.reset();
      sampleClip(compiled, (clip.lengthSeconds * frame) / frames, poser.pose);
      poser.update();
      grow();
    }
  }
  for (const [id, bounds] of result) if (isEmptyBounds(bounds)) result.delete(id);
  return result;
}
