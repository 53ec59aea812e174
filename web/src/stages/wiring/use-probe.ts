import { useMemo } from 'react';
import type { Binding } from '@itchkit/core/document';
import { probeDirections, type ProbedPart } from '@itchkit/core/wiring';
import { useKit, useOpenKit } from '../../session/context';
import type { BoundLever } from './levers';

/** What a part does where its variable rises from neutral; null where nothing can be said yet. */
export function useProbe(lever: BoundLever | undefined, binding: Binding | undefined): ProbedPart | null {
  const kit = useKit();
  const { session } = useOpenKit();
  return useMemo(() => {
    if (!lever?.variable || !binding || binding.rows.length < 2) return null;
    return probeDirections(kit, session.blobs, lever.bindings, lever.variable).find((one) => one.binding === binding.id) ?? null;
  }, [kit, session, lever, binding]);
}
