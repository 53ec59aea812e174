import { callOf, type Call, type Id, type Kit } from '@itchkit/core/document';
import { makeSeats } from '@itchkit/core/grounds';
import { roleOf, seatNames, type Rulebook } from '@itchkit/core/rulebook';
import { setRole } from '@itchkit/core/shape';

/**
 * What puts seats onto parts. Where a platform has seats below parts of some roles alone, a part without a role becomes a shell first, if
 * that is one of them; one that has another role keeps it, and the Ledger says that no seat may hang there.
 *
 * @param like A seat whose place on its part is taken over; null where each is found anew.
 */
export function seatCalls(kit: Kit, rulebook: Rulebook, chairs: Id[], like: Id | null): Call[] {
  const under = rulebook.hierarchy?.parents?.find(({ role }) => role === 'seat')?.under;
  const bare = under?.includes('shell') ? chairs.filter((id) => roleOf(rulebook, kit.parts[id]) === null) : [];
  return [
    ...(bare.length > 0 ? [callOf(setRole, { parts: bare, role: 'shell' })] : []),
    callOf(makeSeats, { chairs, like, ...seatNames(rulebook) }),
  ];
}
