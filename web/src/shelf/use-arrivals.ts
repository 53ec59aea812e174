'use client';
import { useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useCallback, useState } from 'react';
import { takeInFile } from '../api';
import { formatBytes } from '../format';
import { MAX_FILE_BYTES } from '@itchkit/core';

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
  const change = useCallback((key: number, fields: Partial<Arrival> | null) => setList((before) => before.flatMap((one) => (one.key !== key ? [one] : fields ? [{ ...one, ...fields }] : []))), []);

  const take = useCallback(
    async (files: File[]) => {
      const made = files.map((file) => ({ file, arrival: { key: nextKey++, name: file.name, share: 0, failure: null, abort: new AbortController() } as Arrival }));
      setList((before) => [...before.filter((one) => one.failure === null), ...made.map(({ arrival }) => arrival)]);
      const ids: string[] = [];
      for (const { file, arrival } of made) {
        if (file.size > MAX_FILE_BYTES) {
          change(arrival.key, { failure: `“${file.name}” is ${formatBytes(file.size)}; files up to ${formatBytes(MAX_FILE_BYTES)} are taken in. Simplify it, or split it into several files.` });
          continue;
        }
        try {
          ids.push(await takeInFile(file, (share) => change(arrival.key, { share }), arrival.abort.signal));
          change(arrival.key, null);
        } catch (error) {
          if (error instanceof DOMException && error.name === 'AbortError') change(arrival.key, null);
          else change(arrival.key, { failure: error instanceof Error ? error.message : String(error) });
        }
      }
      await queries.invalidateQueries({ queryKey: ['kits'] });
      if (ids.length === 1 && files.length === 1) router.push(`/kits/${ids[0]}/intake`);
    },
    [change, queries, router],
  );

  return {
    list,
    take,
    cancel: (key: number) => list.find((one) => one.key === key)?.abort.abort(),
    dismiss: (key: number) => change(key, null),
  };
}
