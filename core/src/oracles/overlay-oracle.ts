import type { Clip, Overlay, Track } from '../document';
import { flattenParts, Poser } from '../geometry';
import { sampleStack, stackClips } from '../motion';
import { furthestOf, looksAt, type Oracle } from './oracle';
import { plainPose, plainVertices } from './plain-poser';
import { randomKit } from './random-kits';
import { shownVertices } from './shown-vertices';

/** Offset, turn, size or weights of a part: what one overlay may take from another. */
const placeOf = ({ part, property }: Track) =>
  `${part} ${({ rotation: 'turn', shown: 'size', weights: 'weight' } as Record<string, string>)[property] ?? property}`;

/** What is left of each layer, from the lowest to the highest, when the others have taken theirs. */
function whatIsLeft(layers: readonly Clip[]): Track[] {
  const left: Track[] = [];
  layers.forEach((layer, level) => {
    for (const track of layer.tracks) {
      const above = layers.slice(level + 1).filter(({ tracks }) => tracks.some((other) => placeOf(other) === placeOf(track)));
      const taken = above.some(({ overlay }) => overlay?.place === 'over' && overlay.mode === 'replace');
      const givesWay = layer.overlay?.place === 'under' && layer.overlay.mode === 'replace' && above.length > 0;
      if (!taken && !givesWay) left.push(track);
    }
  });
  return left;
}

/** Clips that run with others, under and over them, adding and replacing. */
export const overlaying: Oracle = {
  id: 'overlays',
  about: 'A clip with overlays under and over it, that add to it or take its place: every vertex',
  against: 'a plain poser on one clip of what is left of each',
  promised: 1e-2,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const { kit, blobs, clip, random } = randomKit(seed, { kinds: ['keys', 'samples'], shown: false });
    const overlay = (place: Overlay['place']): Overlay => ({ place, mode: random.oneOf(['add', 'replace']), parts: null });
    const own = (id: string, said?: Overlay): Clip => ({
      ...clip,
      id,
      name: id,
      loop: 'loop',
      tracks: clip.tracks.filter(() => random.chance(0.6)).map((track) => ({ ...track, id: `${id} ${track.id}` })),
      ...(said ? { overlay: said } : {}),
    });
    const [under, base, over] = [own('under', overlay('under')), own('base'), own('over', overlay('over'))];
    const poser = new Poser(flattenParts(kit));
    const stack = stackClips(base, [over, under], poser.flat, blobs);
    const plain: Clip = { ...clip, tracks: whatIsLeft([under, base, over]) };
    return (
      1000 *
      Math.max(
        0,
        ...looksAt(clip, blobs, random, 8).map((time) => {
          poser.reset();
          sampleStack(stack, time, poser.pose);
          poser.update();
          return furthestOf(shownVertices(kit, blobs, poser), plainVertices(kit, blobs, plainPose(kit, blobs, plain, time)));
        }),
      )
    );
  },
};
