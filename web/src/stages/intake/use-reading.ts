'use client';
import { useCallback, useRef, useState } from 'react';
import type { Kit } from '@itchkit/core/document';
import { inSpaceOf } from '@itchkit/core/intake';
import { api, readFileBeside } from '../../api';
import { useOpenKit } from '../../session/context';
import { bundleFile, gatherDrop, type DroppedFile } from '../../gather-files';

export interface Brought {
  fileName: string;
  /** As read, in the kit's space. */
  next: Kit;
  /** The kit's source read again in the same space; null where it is not kept. */
  base: Kit | null;
}

type State =
  | { step: 'idle' }
  | { step: 'reading'; name: string; share: number }
  | { step: 'failed'; message: string }
  | { step: 'read'; brought: Brought };

/** Reads a file beside the open kit, with progress, cancellable; nothing of the kit is changed by it. */
export function useReading(withBase: boolean) {
  const { session } = useOpenKit();
  const [state, setState] = useState<State>({ step: 'idle' });
  const abort = useRef<AbortController | null>(null);
  const read = useCallback(
    async (files: DroppedFile[]) => {
      const [bundle] = gatherDrop(files);
      if (!bundle) return;
      abort.current = new AbortController();
      setState({ step: 'reading', name: bundle.name, share: 0 });
      try {
        const file = await bundleFile(bundle);
        const reading = await readFileBeside(
          session.id,
          file,
          (share) => setState({ step: 'reading', name: bundle.name, share }),
          abort.current.signal,
        );
        const source = withBase ? (await api.readSource(session.id)).kit : null;
        await session.bring(reading);
        if (source) await session.bring(source);
        const { kit, blobs } = session;
        setState({
          step: 'read',
          brought: { fileName: file.name, next: inSpaceOf(kit, reading, blobs), base: source && inSpaceOf(kit, source, blobs) },
        });
      } catch (error) {
        if (error instanceof DOMException && error.name === 'AbortError') setState({ step: 'idle' });
        else setState({ step: 'failed', message: error instanceof Error ? error.message : String(error) });
      }
    },
    [session, withBase],
  );
  return { state, read, cancel: () => abort.current?.abort() };
}
