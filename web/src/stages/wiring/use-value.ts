import { useMemo } from 'react';
import { useKit, useRulebook, useUi } from '../../session/context';
import { valueOf, type BoundLever } from './levers';

/** Where a variable stands on the bench. */
export function useValue(lever: Pick<BoundLever, 'key' | 'name' | 'variable'>): number {
  const kit = useKit();
  const rulebook = useRulebook();
  const levers = useUi((state) => state.wiring.levers);
  return useMemo(() => valueOf(kit, rulebook, lever, levers), [kit, rulebook, lever, levers]);
}
