import type { Clip } from '../document';
import { chainKit, withMotion } from '../tests/helpers';
import { playedDifferences } from './played-differences';

test('what a platform leaves out is told by part, the rest of the clip as a whole; nothing where it plays all', () => {
  const { kit: still, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  const kit = structuredClone(withMotion(withMotion(still, blobs, 'a', 'turn', 1, [0, 90]), blobs, 'b', 'size', 1, [1, 2]));
  const clip: Clip = { ...kit.clips.clip, rate: 30 };
  expect(playedDifferences(kit, clip, { title: 'Anywhere' })).toEqual([]);
  const motion = { tracks: ['offset' as const, 'turn' as const], rate: 24, cues: ['sound' as const] };
  clip.cues = ['effect' as const, 'sound' as const].map((kind, i) => ({ id: `c${i}`, time: 0, kind, name: 'spray', part: null }));
  clip.overlay = { place: 'over', mode: 'add', parts: null };
  expect(playedDifferences(kit, clip, { title: 'Here', motion })).toEqual([
    { what: '“b” keeps its size of rest', part: 'b' },
    { what: '1 cue of the kind effect left out', part: null },
    { what: 'Here plays 24 frames a second, the clip has 30', part: null },
    { what: 'Here plays one clip at a time: it does not run beside others', part: null },
  ]);
});
