'use client';
import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import type { ShelfKit } from '../api';

let queue: Promise<unknown> = Promise.resolve();

/** One at a time: each picture needs a drawing context of its own for a moment. */
function drawLater(id: string): Promise<boolean> {
  const drawn = queue.then(async () => {
    const { renderThumbnail } = await import('../bench/render-thumbnail');
    await renderThumbnail(id);
    return true;
  });
  queue = drawn.catch(() => false);
  return drawn;
}

/** The kit's picture. A kit that nobody has opened yet is drawn here, and the picture kept. */
export function Picture({ kit }: { kit: ShelfKit }) {
  const missing = kit.thumbnailRevision === null;
  const { data: drawn } = useQuery({
    queryKey: ['picture', kit.id],
    queryFn: () => drawLater(kit.id),
    enabled: missing,
    retry: false,
    staleTime: Infinity,
  });
  if (missing && !drawn) return null;
  return (
    <Box
      component="img"
      src={`/api/kits/${kit.id}/thumbnail?revision=${kit.thumbnailRevision ?? 'new'}`}
      alt=""
      sx={{ width: '100%', height: '100%', objectFit: 'contain', display: 'block' }}
    />
  );
}
