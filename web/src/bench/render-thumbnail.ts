import { MemoryBlobs, blobsOf } from '@itchkit/core/document';
import { api } from '../api';
import { DAY } from '../theme/tokens';
import { BenchView } from './bench-view';

/** Draws a kit that nobody has open, out of sight, and stores its picture. */
export async function renderThumbnail(id: string): Promise<void> {
  const { document: kit, revision } = await api.loadKit(id);
  const blobs = new MemoryBlobs();
  for (const [sha, bytes] of await api.loadBlobs([...blobsOf(kit)])) blobs.load(sha, bytes);
  const holder = document.createElement('div');
  holder.style.cssText = 'position:fixed;left:-2000px;width:480px;height:300px';
  document.body.append(holder);
  const view = new BenchView(holder, DAY, {
    pick: () => undefined,
    point: () => undefined,
    face: () => undefined,
    swung: () => undefined,
    moved: () => undefined,
  });
  try {
    view.setKit(kit, blobs);
    view.posed();
    // Textures arrive a moment later.
    await new Promise((resolve) => setTimeout(resolve, 250));
    const png = await view.thumbnail();
    if (png) await api.setThumbnail(id, revision, png);
  } finally {
    view.dispose();
    holder.remove();
  }
}
