'use client';
import { useQuery } from '@tanstack/react-query';
import { useKit, useOpenKit } from '../../session/context';

/** The package as it would be now, built in the worker and not kept: what goes in, with sizes. */
export function useDryPackage() {
  const { session } = useOpenKit();
  const kit = useKit();
  return useQuery({
    queryKey: ['dry-package', session.id, kit],
    queryFn: () => session.pack(),
    queryKeyHashFn: () => `dry-package/${session.id}/${keyOf(kit)}`,
    staleTime: Infinity,
    gcTime: 60_000,
    enabled: kit.targets.length > 0,
  });
}

const keys = new WeakMap<object, number>();
let next = 1;

/** A number for a document: documents are immutable, so the same object is the same contents. */
function keyOf(kit: object): number {
  let key = keys.get(kit);
  if (key === undefined) keys.set(kit, (key = next++));
  return key;
}
