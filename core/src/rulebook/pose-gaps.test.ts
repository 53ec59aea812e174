import { type Clip, type Kit, type KeyTrack, type MemoryBlobs } from '../document';
import { randomKit } from '../oracles/random-kits';
import { chainKit } from '../tests/helpers';
import { SHIPPED } from '../tests/sound-kits';
import { runChecks } from './check-runner';
import type { Rule, TrackKind } from './types';

const rule = (check: string, limit?: number): Rule => ({ id: 'asked', check, grade: 'warn', why: 'A test asks.', limit });
const ask = (kit: Kit, blobs: MemoryBlobs, check: string, limit?: number, tracks?: TrackKind[]) =>
  runChecks({ kit, blobs, rulebook: { ...SHIPPED.plotwick, motion: { tracks }, rules: [rule(check, limit)] } });

/** A clip of a second that loops, in which one number goes from one value to another. */
const going = (
  part: string,
  property: KeyTrack['property'],
  axis: number,
  from: number,
  to: number,
  easing: 'straight' | 'hold' = 'straight',
): Clip => ({
  id: 'clip',
  name: 'clip',
  order: 0,
  lengthSeconds: 1,
  rate: 30,
  loop: 'loop',
  tracks: [
    {
      kind: 'keys',
      id: 'track',
      part,
      property,
      axis,
      keys: [
        { time: 0, value: from, easing },
        { time: 1, value: to, easing: 'hold' },
      ],
    },
  ],
});

test.each(['clips.seam', 'clips.neutral-start'])('%s sees what a morph target moves', (check) => {
  const made = Array.from({ length: 60 }, (_, seed) => randomKit(seed, { skins: false })).find(({ kit }) =>
    Object.values(kit.parts).some(({ mesh }) => mesh !== null && kit.meshes[mesh].targets),
  )!;
  const { kit, blobs } = made;
  const part = Object.values(kit.parts).find(({ mesh }) => mesh !== null && kit.meshes[mesh].targets)!;
  kit.meshes[part.mesh!].targets!.forEach((target) => (target.weight = 0));
  kit.clips = { clip: going(part.id, 'weight', 0, 1, 0) };
  const [finding] = ask(kit, blobs, check, 1);
  expect(finding.parts).toEqual([part.id]);
});

test.each(['clips.seam', 'clips.neutral-start'])('%s sees what joints hold, and names the part that goes furthest', (check) => {
  const { kit, blobs } = Array.from({ length: 60 }, (_, seed) => randomKit(seed, { skins: true })).find(
    ({ kit: one }) => one.parts.hide && one.skins.skin.joints.length > 1,
  )!;
  const joint = kit.skins.skin.joints[1];
  for (const part of Object.values(kit.parts)) if (part.id !== 'hide' && part.mesh !== null) kit.parts[part.id] = { ...part, mesh: null };
  kit.clips = { clip: going(joint, 'turn', 1, 60, 0) };
  const [finding] = ask(kit, blobs, check, 1);
  expect(finding.parts).toEqual(['hide']);
});

test.each(['clips.seam', 'clips.neutral-start', 'clips.footprint'])('%s leaves out what the platform does not play', (check) => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  kit.clips = { clip: going('b', 'offset', 0, 30, 0) };
  expect(ask(kit, blobs, check, 1, ['offset', 'turn'])).toHaveLength(1);
  expect(ask(kit, blobs, check, 1, ['turn'])).toEqual([]);
});

test('a gap is told of the surface, not of the corners of a box around it', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  // The wedge's furthest point from the axis it turns about is at 2 m; its box has a corner at more than 2.2.
  kit.clips = { clip: going('b', 'turn', 1, 0, 1) };
  const [finding] = ask(kit, blobs, 'clips.seam', 1e-6);
  const way = 2 * 2 * Math.sin(Math.PI / 360) * 1000;
  expect(finding.share! * 1e-6).toBeCloseTo(way, 3);
});

test('a held key turns nothing, however far the next one is; a straight one does', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  kit.clips = { clip: going('b', 'turn', 1, 0, 270, 'hold') };
  expect(ask(kit, blobs, 'clips.half-turns')).toEqual([]);
  kit.clips = { clip: going('b', 'turn', 1, 0, 270) };
  expect(ask(kit, blobs, 'clips.half-turns')).toHaveLength(1);
});
