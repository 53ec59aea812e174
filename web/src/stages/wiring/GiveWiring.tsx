'use client';
import Box from '@mui/material/Box';
import { useMemo, useState } from 'react';
import { callOf, subtreeOf, type Axis, type Binding, type Id, type Kit } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { bindTwins, likePairs } from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { TryButton } from '../../card/TryButton';
import { Buttons } from '../../panels/Fold';
import { twinPairs } from '../../parts/twin-pairs';
import { useKit, useOpenKit } from '../../session/context';

/** Bindings of parts and of all that they carry, but of what stands in the middle. */
function bindingsBelow(kit: Kit, parts: readonly Id[], pairs: Record<Id, Id>): Binding[] {
  const all = new Set(parts.flatMap((id) => [...subtreeOf(kit, id)]));
  return Object.values(kit.bindings).filter(({ part }) => all.has(part) && pairs[part] !== part);
}

/** The same on the other side, in the mirror: with an index of its own. */
export function OtherSide({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const pairs = useMemo(() => twinPairs(kit, session.blobs), [kit, session]);
  const bindings = bindingsBelow(kit, parts, pairs);
  return (
    <GiveTo
      bindings={bindings}
      pairs={pairs}
      axis={0}
      rulebook={rulebook}
      says="In the mirror on the other side"
      title="Give it to the other side"
    />
  );
}

/** The same at another place: of two chosen parts the first is what the second one is to be like. */
export function OtherPlace({ from, to, rulebook }: { from: Id; to: Id; rulebook: Rulebook }) {
  const kit = useKit();
  const apart = !subtreeOf(kit, from).has(to) && !subtreeOf(kit, to).has(from);
  const pairs = useMemo(() => (apart ? likePairs(kit, from, to) : {}), [kit, from, to, apart]);
  const bindings = apart ? bindingsBelow(kit, [from], pairs).filter(({ part }) => pairs[part]) : [];
  const { name } = kit.parts[to];
  return (
    <GiveTo
      bindings={bindings}
      pairs={pairs}
      axis={null}
      rulebook={rulebook}
      says={`As at “${kit.parts[from].name}”, so here`}
      title={`Give it to ${name}`}
    />
  );
}

interface GiveProps {
  bindings: Binding[];
  pairs: Record<Id, Id>;
  axis: Axis | null;
  rulebook: Rulebook;
  says: string;
  title: string;
}

/** What is given to which parts, by which index. */
function GiveTo({ bindings, pairs, axis, rulebook, says, title }: GiveProps) {
  const kit = useKit();
  const indices = Math.min(...bindings.map(({ variable }) => rulebook.variables.find(({ name }) => name === variable)?.indices ?? 0));
  const own = bindings[0]?.index ?? null;
  const [asked, setIndex] = useState<number | null>(null);
  if (bindings.length === 0 || !bindings.some(({ part }) => pairs[part])) return null;
  const index = indices > 0 ? Math.min(asked ?? (own ?? 0) + 1, indices - 1) : null;
  const calls = () => callOf(bindTwins, { bindings: bindings.map(({ id }) => id), pairs, axis, index });
  const twins = bindings.flatMap(({ part }) => (pairs[part] ? [kit.parts[pairs[part]].name] : []));
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        {says}: {twins.join(', ')}
      </Box>
      {index !== null && (
        <Choice
          label={axis === null ? 'Index at that place' : 'Index there'}
          value={index}
          options={Array.from({ length: indices }, (_, i) => [i, i === own ? `${i}, as here` : String(i)] as const)}
          onChange={setIndex}
        />
      )}
      <Buttons>
        <TryButton variant="outlined" calls={calls}>
          {title}
        </TryButton>
      </Buttons>
    </Box>
  );
}
