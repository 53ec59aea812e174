import type { Blobs, Id, Kit } from '@itchkit/core/document';
import { DAY } from '../theme/tokens';
import { BenchView } from './bench-view';

const nothing = () => undefined;

/** Draws a kit out of sight, as a PNG of so many pixels; null where it can't be drawn. */
export async function drawKit(kit: Kit, blobs: Blobs, width?: number, height?: number): Promise<Blob | null> {
  const holder = document.createElement('div');
  holder.style.cssText = 'position:fixed;left:-2000px;width:480px;height:300px';
  document.body.append(holder);
  const view = new BenchView(holder, DAY, { pick: nothing, point: nothing, face: nothing, swung: nothing, moved: nothing });
  try {
    view.setKit(kit, blobs);
    view.posed();
    // Textures arrive a moment later.
    await new Promise((resolve) => setTimeout(resolve, 250));
    return await view.thumbnail(width, height);
  } finally {
    view.dispose();
    holder.remove();
  }
}

/** A kit as a picture of some of its parts shows it: the others without their meshes, and every face from its front alone. */
export function partsAlone(kit: Kit, parts: readonly Id[]): Kit {
  const wanted = new Set(parts);
  return {
    ...kit,
    parts: Object.fromEntries(
      Object.entries(kit.parts).map(([id, part]) => [
        id,
        wanted.has(id) ? { ...part, hidden: false } : { ...part, mesh: null, skin: null },
      ]),
    ),
    materials: Object.fromEntries(Object.entries(kit.materials).map(([id, material]) => [id, { ...material, doubleSided: false }])),
  };
}
