import { BlobsOver, KitError, type Blobs, type Call, type Kit, type Part } from '@itchkit/core/document';
import { meshCounts } from '@itchkit/core/geometry';
import { trackLength } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';

export interface Proposed {
  kit: Kit;
  blobs: Blobs;
  /** What would be other, or why it can't be done. */
  says: string;
}

let last: { kit: Kit; calls: readonly Call[]; made: Proposed } | null = null;

/** As `proposed`, but worked out once for all that show it. */
export function proposedOnce(kit: Kit, calls: readonly Call[] | null, blobs: Blobs): Proposed {
  if (!calls) return proposed(kit, null, blobs);
  if (last?.kit !== kit || last.calls !== calls) last = { kit, calls, made: proposed(kit, calls, blobs) };
  return last.made;
}

/** The kit as operations would make it, with blobs of its own; as it is, where there are none or they can't be done. */
export function proposed(kit: Kit, calls: readonly Call[] | null, blobs: Blobs): Proposed {
  if (!calls) return { kit, blobs, says: '' };
  try {
    const own = new BlobsOver(blobs);
    const after = calls.reduce((now, call) => runCall(now, call, own).kit, kit);
    return { kit: after, blobs: own, says: differences(kit, after) };
  } catch (error) {
    if (error instanceof KitError) return { kit, blobs, says: error.message };
    throw error;
  }
}

interface Figures {
  parts: number;
  triangles: number;
  vertices: number;
  materials: number;
  pictures: number;
  'bytes of pictures': number;
  'levels of detail': number;
  clips: number;
  keys: number;
  'seconds of clips': number;
}

function figuresOf(kit: Kit): Figures {
  const figures: Figures = {
    parts: 0,
    triangles: 0,
    vertices: 0,
    materials: Object.keys(kit.materials).length,
    pictures: 0,
    'bytes of pictures': 0,
    'levels of detail': 0,
    clips: Object.keys(kit.clips).length,
    keys: 0,
    'seconds of clips': 0,
  };
  for (const part of Object.values(kit.parts)) {
    const { triangles, vertices } = meshCounts(kit, part.mesh);
    figures.parts++;
    figures.triangles += triangles;
    figures.vertices += vertices;
  }
  for (const mesh of Object.values(kit.meshes)) figures['levels of detail'] += mesh.levels?.length ?? 0;
  for (const clip of Object.values(kit.clips)) {
    figures['seconds of clips'] += clip.lengthSeconds;
    for (const track of clip.tracks) figures.keys += trackLength(track);
  }
  figures['seconds of clips'] = Number(figures['seconds of clips'].toFixed(3));
  for (const image of Object.values(kit.images)) {
    figures.pictures++;
    figures['bytes of pictures'] += image.bytes;
  }
  return figures;
}

/** The counts that differ, as “vertices 1,200 → 980”; of parts that stay, how many change otherwise. */
export function differences(before: Kit, after: Kit): string {
  const [old, now] = [figuresOf(before), figuresOf(after)];
  const counts = (Object.keys(old) as (keyof Figures)[])
    .filter((name) => old[name] !== now[name])
    .map((name) => `${name} ${old[name].toLocaleString('en')} → ${now[name].toLocaleString('en')}`);
  if (counts.length > 0) return counts.join(', ');
  const changed = Object.values(after.parts).filter((part) => {
    const was = before.parts[part.id];
    return (
      was !== part &&
      (JSON.stringify(was) !== JSON.stringify(part) || (part.mesh !== null && before.meshes[part.mesh] !== after.meshes[part.mesh]))
    );
  });
  const meshes = Object.values(after.parts).filter(
    (part) => part.mesh !== null && before.meshes[part.mesh] !== after.meshes[part.mesh] && !changed.includes(part),
  );
  const count = changed.length + meshes.length;
  if (count > 0) return `${count} ${count === 1 ? 'part' : 'parts'} changed${naming(changed, before, after)}, every count the same`;
  const materials = Object.values(after.materials).filter(
    (material) => JSON.stringify(before.materials[material.id]) !== JSON.stringify(material),
  );
  const clips = Object.values(after.clips).filter((clip) => before.clips[clip.id] !== clip);
  if (materials.length === 0 && clips.length > 0)
    return `${clips.length === 1 ? `clip “${clips[0].name}”` : `${clips.length} clips`} changed, every count the same`;
  return materials.length === 0
    ? 'nothing to change'
    : `${materials.length === 1 ? `material “${materials[0].name}”` : `${materials.length} materials`} changed`;
}

/** What of them is other, where they are few words: “ (role, hidden)”. */
function naming(changed: readonly Part[], before: Kit, after: Kit): string {
  const fields = new Set(
    changed.flatMap((part) =>
      (Object.keys(part) as (keyof Part)[]).filter(
        (field) => JSON.stringify(before.parts[part.id]?.[field]) !== JSON.stringify(after.parts[part.id][field]),
      ),
    ),
  );
  fields.delete('order');
  return fields.size > 0 && fields.size <= 3
    ? ` (${[...fields].map((field) => (field === 'translation' ? 'position' : field)).join(', ')})`
    : '';
}
