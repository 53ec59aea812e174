import { MemoryBlobs, blobsOf } from '@itchkit/core/document';
import { api } from '../api';
import { drawKit } from './draw-kit';

/** Draws a kit that nobody has open, out of sight, and stores its picture. */
export async function renderThumbnail(id: string): Promise<void> {
  const { document: kit, revision } = await api.loadKit(id);
  const blobs = new MemoryBlobs();
  for (const [sha, bytes] of await api.loadBlobs([...blobsOf(kit)])) blobs.load(sha, bytes);
  const png = await drawKit(kit, blobs);
  if (png) await api.setThumbnail(id, revision, png);
}
