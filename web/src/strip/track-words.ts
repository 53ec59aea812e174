import type { KeyProperty, Kit, Track } from '@itchkit/core/document';

/** How a value of each property is shown and stepped. */
export const PROPERTY: Record<KeyProperty, { title: string; unit: string; step: number; within: number }> = {
  offset: { title: 'Offset', unit: 'm', step: 0.01, within: 0.0005 },
  turn: { title: 'Turn', unit: '°', step: 1, within: 0.05 },
  size: { title: 'Size', unit: '×', step: 0.01, within: 0.0005 },
  shown: { title: 'Shown', unit: '', step: 1, within: 0.5 },
  weight: { title: 'Morph weight', unit: '', step: 0.05, within: 0.001 },
};

/** Red, green and blue for x, y and z, as everywhere. */
export const AXIS_COLOURS = ['#c0392b', '#2e8b57', '#2f6fb3'];

/** What a track moves, in words: “turn y”, “weight smile”, “rotation, dense”. */
export function trackName(kit: Kit, track: Track): string {
  if (track.kind === 'samples') return `${track.property}, dense`;
  const formula = track.kind === 'formula' ? ', formula' : '';
  if (track.property === 'shown') return 'shown';
  if (track.property !== 'weight') return `${track.property} ${'xyz'[track.axis]}${formula}`;
  const mesh = kit.parts[track.part]?.mesh;
  const target = mesh === null || mesh === undefined ? undefined : kit.meshes[mesh]?.targets?.[track.axis];
  return `weight ${target?.name ?? track.axis}${formula}`;
}

export const trackColour = (track: Track | { property: KeyProperty; axis: number }): string | null =>
  'axis' in track && (track.property === 'offset' || track.property === 'turn' || track.property === 'size')
    ? AXIS_COLOURS[track.axis]
    : null;
