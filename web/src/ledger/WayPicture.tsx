'use client';
import Box from '@mui/material/Box';
import { useEffect, useState } from 'react';
import { BlobsOver, type Call, type Id } from '@itchkit/core/document';
import { applyCalls } from '../session/apply-calls';
import { useKit, useOpenKit } from '../session/context';

/** What some parts look like after a mend, seen from their front alone. */
export function WayPicture({ call, parts }: { call: Call; parts: readonly Id[] }) {
  const { session } = useOpenKit();
  const kit = useKit();
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    let made: string | null = null;
    let gone = false;
    void (async () => {
      const { drawKit, partsAlone } = await import('../bench/draw-kit');
      const blobs = new BlobsOver(session.blobs);
      const png = await drawKit(partsAlone(applyCalls(kit, [call], blobs).kit, parts), blobs, 240, 150).catch(() => null);
      if (png && !gone) setAddress((made = URL.createObjectURL(png)));
    })();
    return () => {
      gone = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [kit, call, parts, session]);
  return (
    <Box
      component={address ? 'img' : 'div'}
      src={address ?? undefined}
      alt=""
      sx={{ display: 'block', width: '100%', aspectRatio: '8 / 5', objectFit: 'contain', bgcolor: 'kit.paper' }}
    />
  );
}
