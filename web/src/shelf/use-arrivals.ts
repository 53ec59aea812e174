'use client';
import { useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useCallback, useState } from 'react';
import { takeInFile } from '../api';
import { askLater } from '../workspace/asked-target';
import { bundleFile, gatherDrop, type DroppedFile } from '../gather-files';

/** A file on its way in. */
export interface Arrival {
  key: number;
  name: string;
  share: number;
  failure: string | null;
  abort: AbortController;
}

let nextKey = 1;

/** Files being taken in: with progress, cancellable, each refused on its own. One file alone is opened when it is in. */
export function useArrivals() {
  const [list, setList] = useState<Arrival[]>([]);
  const queries = useQueryClient();
  const router = useRouter();
  const change = useCallback(
    (key: number, fields: Partial<Arrival> | null) =>
      setList((before) =>
        fields === null ? before.filter((one) => one.key !== key) : before.map((one) => (one.key === key ? { ...one, ...fields } : one)),
      ),
    [],
  );

  const take = useCallback(
    async (files: DroppedFile[]) => {
      const made = gatherDrop(files).map((bundle) => ({
        bundle,
        arrival: { key: nextKey++, name: bundle.name, share: 0, failure: null, abort: new AbortController() } as Arrival,
      }));
      setList((before) => [...before.filter((one) => one.failure === null), ...made.map(({ arrival }) => arrival)]);
      const ids: string[] = [];
      for (const { bundle, arrival } of made) {
        // Cancelled while it waited for those before it.
        if (arrival.abort.signal.aborted) continue;
        try {
          ids.push(await takeInFile(await bundleFile(bundle), (share) => change(arrival.key, { share }), arrival.abort.signal));
          change(arrival.key, null);
        } catch (error) {
          if (error instanceof DOMException && error.name === 'AbortError') change(arrival.key, null);
          else if (error instanceof DOMException)
            change(arrival.key, {
              failure: `“${arrival.name}” could not be read from the disk. Was it moved or changed meanwhile? Drop it again.`,
            });
          else change(arrival.key, { failure: error instanceof Error ? error.message : String(error) });
        }
      }
      askLater(ids);
      await queries.invalidateQueries({ queryKey: ['kits'] });
      if (ids.length === 1 && made.length === 1) router.push(`/kits/${ids[0]}/intake`);
    },
    [change, queries, router],
  );

  return {
    list,
    take,
    cancel: (key: number) => {
      list.find((one) => one.key === key)?.abort.abort();
      change(key, null);
    },
    dismiss: (key: number) => change(key, null),
  };
}
