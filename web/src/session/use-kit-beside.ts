import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Kit } from '@itchkit/core/document';
import { api } from '../api';
import { useOpenKit } from './context';

interface KitBeside {
  /** The kits of the shelf but this one: their ids and names. */
  kits: readonly (readonly [id: string, name: string])[];
  /** The id of the one that is looked at beside this one; empty for none. */
  other: string;
  setOther: (id: string) => void;
  /** Null until it is there. */
  beside: { name: string; kit: Kit } | null;
  failed: boolean;
}

/** Another kit of the shelf, looked at beside the open one. */
export function useKitBeside(): KitBeside {
  const { session } = useOpenKit();
  const [other, setOther] = useState('');
  const shelf = useQuery({ queryKey: ['kits'], queryFn: api.listKits });
  const loaded = useQuery({ queryKey: ['kit-beside', other], queryFn: () => api.loadKit(other), enabled: other !== '' });
  const kits = (shelf.data ?? []).flatMap(({ id, name }) => (id === session.id ? [] : [[id, name] as const]));
  const name = kits.find(([id]) => id === other)?.[1] ?? '';
  return { kits, other, setOther, beside: loaded.data ? { name, kit: loaded.data.document } : null, failed: loaded.isError };
}
