import { count, slotsOf, type Kit } from '@itchkit/core/document';

/** What a kit holds that no package of it does, each with the reason. */
export function leftOut(kit: Kit): { what: string; why: string }[] {
  const shown = new Set(
    Object.values(kit.parts).flatMap((part) =>
      part.mesh === null ? [] : kit.meshes[part.mesh].primitives.map((primitive) => primitive.material),
    ),
  );
  const materials = Object.values(kit.materials).filter((material) => !shown.has(material.id));
  const used = new Set(
    Object.values(kit.materials)
      .filter((material) => shown.has(material.id))
      .flatMap((one) => slotsOf(one).map((slot) => slot.image)),
  );
  const images = Object.values(kit.images).filter((image) => !used.has(image.id));
  const clips = Object.values(kit.clips).filter((clip) => clip.tracks.length === 0);
  const lines: { what: string; why: string }[] = [];
  if (kit.source) lines.push({ what: kit.source.fileName, why: 'the source as it came; kept with the kit' });
  lines.push({ what: 'History and revisions', why: 'kept on the shelf' });
  if (materials.length > 0)
    lines.push({
      what: count(materials.length, 'material'),
      why: `no part shows ${materials.length === 1 ? 'it' : 'them'}: ${materials.map((one) => one.name).join(', ')}`,
    });
  if (images.length > 0)
    lines.push({
      what: count(images.length, 'texture'),
      why: `no material in use reads ${images.length === 1 ? 'it' : 'them'}: ${images.map((one) => one.name).join(', ')}`,
    });
  for (const clip of clips) lines.push({ what: `Clip “${clip.name}”`, why: 'it moves nothing' });
  return lines;
}
