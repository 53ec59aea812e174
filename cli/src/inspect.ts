import { jointsOf, clipsInOrder, type Blobs, type Kit, type ReadingNote, type Vec3 } from '@itchkit/core/document';
import { isEmptyBounds, kitBounds, kitCounts, sizeOf } from '@itchkit/core/geometry';
import { trackLength } from '@itchkit/core/motion';

export interface Inspection {
  file: string;
  format: string;
  ok: true;
  parts: number;
  meshes: number;
  triangles: number;
  vertices: number;
  materials: number;
  joints: number;
  skins: number;
  morphTargets: number;
  textures: { name: string; width: number; height: number; bytes: number; mediaType: string }[];
  clips: { name: string; seconds: number; tracks: number; keys: number }[];
  bounds: { min: Vec3; max: Vec3; sizeMetres: Vec3 };
  notes: ReadingNote[];
}

/** What a file holds, once for every part that shows a mesh; bounds of the world at rest, in metres, +Y up. */
export function inspectKit(file: string, kit: Kit, blobs: Blobs): Inspection {
  const bounds = kitBounds(kit, blobs);
  const empty = isEmptyBounds(bounds);
  const zero: Vec3 = [0, 0, 0];
  return {
    file,
    format: kit.source?.format ?? 'kit',
    ok: true,
    parts: Object.keys(kit.parts).length,
    meshes: Object.keys(kit.meshes).length,
    ...kitCounts(kit),
    materials: Object.keys(kit.materials).length,
    joints: jointsOf(kit).size,
    skins: Object.keys(kit.skins).length,
    morphTargets: Object.values(kit.meshes).reduce((sum, mesh) => sum + (mesh.targets?.length ?? 0), 0),
    textures: Object.values(kit.images).map(({ name, width, height, bytes, mediaType }) => ({ name, width, height, bytes, mediaType })),
    clips: clipsInOrder(kit).map((clip) => ({
      name: clip.name,
      seconds: clip.lengthSeconds,
      tracks: clip.tracks.length,
      keys: clip.tracks.reduce((sum, track) => sum + trackLength(track), 0),
    })),
    bounds: empty ? { min: zero, max: zero, sizeMetres: zero } : { ...bounds, sizeMetres: sizeOf(bounds) },
    notes: kit.source?.notes ?? [],
  };
}

const format = new Intl.NumberFormat('en', { maximumFractionDigits: 3 });
const number = (value: number) => format.format(value);

/** The same in words, for people. */
export function describe(one: Inspection): string {
  const row = (name: string, value: string) => `  ${name.padEnd(11)} ${value}`;
  const lines = [
    `${one.file}  ${one.format.toUpperCase()}`,
    row('Parts', `${number(one.parts)}, ${number(one.meshes)} meshes`),
    row('Triangles', `${number(one.triangles)}, ${number(one.vertices)} vertices`),
    row('Size', `${one.bounds.sizeMetres.map(number).join(' × ')} m`),
    row('Materials', `${number(one.materials)}`),
  ];
  if (one.textures.length > 0)
    lines.push(row('Textures', one.textures.map((texture) => `${texture.name} ${texture.width} × ${texture.height}`).join(', ')));
  if (one.joints > 0) lines.push(row('Joints', `${number(one.joints)}, ${number(one.skins)} skins`));
  if (one.morphTargets > 0) lines.push(row('Morphs', number(one.morphTargets)));
  for (const clip of one.clips)
    lines.push(row('Clip', `${clip.name}, ${number(clip.seconds)} s, ${number(clip.tracks)} tracks, ${number(clip.keys)} keys`));
  for (const note of one.notes) lines.push(`  ${note.grade === 'warn' ? '!' : '·'} ${note.message}`);
  return `${lines.join('\n')}\n`;
}
