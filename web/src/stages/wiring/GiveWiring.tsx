'use client';
import Box from '@mui/material/Box';
import { useMemo, useState } from 'react';
import { callOf, newId, subtreeOf, type Axis, type Binding, type Call, type Id, type Kit } from '@itchkit/core/document';
import { twinName, type Rulebook } from '@itchkit/core/rulebook';
import { twinParts, type TwinPlace } from '@itchkit/core/shape';
import { bindTwins, likePairs, mirrorPlane, missingTwins } from '@itchkit/core/wiring';
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

/** What gives motion to twins: those that are missing are made first, within the same step. */
function callsOf(kit: Kit, bindings: readonly Binding[], { pairs, axis, place, index, rulebook }: GivenTo): Call[] {
  const ids = bindings.map(({ id }) => id);
  const { tops, parts } = missingTwins(
    kit,
    bindings.map(({ part }) => part),
    pairs,
  );
  if (tops.length === 0) return [callOf(bindTwins, { bindings: ids, pairs, axis, index })];
  const made = Object.fromEntries(parts.map((id) => [id, newId()]));
  const nameOf = (name: string) => (axis === null ? name.replace(/_\d+$/, '') : twinName(name, rulebook.naming.sides));
  const names = Object.fromEntries(parts.map((id) => [id, nameOf(kit.parts[id].name)]));
  return [
    callOf(twinParts, { tops, ids: made, names, place }),
    callOf(bindTwins, { bindings: ids, pairs: { ...pairs, ...made }, axis, index }),
  ];
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
      place={{
        axis: 0,
        at: mirrorPlane(
          kit,
          bindings.map(({ part }) => part),
          pairs,
          0,
        ),
      }}
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
  const bindings = apart ? bindingsBelow(kit, [from], pairs) : [];
  const { name } = kit.parts[to];
  return (
    <GiveTo
      bindings={bindings}
      pairs={pairs}
      axis={null}
      place={{ from, to }}
      rulebook={rulebook}
      says={`As at “${kit.parts[from].name}”, so here`}
      title={`Give it to ${name}`}
    />
  );
}

interface GivenTo {
  pairs: Record<Id, Id>;
  axis: Axis | null;
  place: TwinPlace;
  index: number | null;
  rulebook: Rulebook;
}

interface GiveProps {
  bindings: Binding[];
  pairs: Record<Id, Id>;
  axis: Axis | null;
  /** Where what is missing is made. */
  place: TwinPlace;
  rulebook: Rulebook;
  says: string;
  title: string;
}

/** What is given to which parts, by which index. */
function GiveTo({ bindings, pairs, axis, place, rulebook, says, title }: GiveProps) {
  const kit = useKit();
  const indices = Math.min(...bindings.map(({ variable }) => rulebook.variables.find(({ name }) => name === variable)?.indices ?? 0));
  const own = bindings[0]?.index ?? null;
  const [asked, setIndex] = useState<number | null>(null);
  const { tops } = missingTwins(
    kit,
    bindings.map(({ part }) => part),
    pairs,
  );
  // Where nothing stands on the other side, only a name that tells one says that something should.
  const sided = tops.some(({ part }) => twinName(kit.parts[part].name, rulebook.naming.sides) !== kit.parts[part].name);
  if (bindings.length === 0 || !(sided || bindings.some(({ part }) => pairs[part]))) return null;
  const index = indices > 0 ? Math.min(asked ?? (own ?? 0) + 1, indices - 1) : null;
  const calls = () => callsOf(kit, bindings, { pairs, axis, place, index, rulebook });
  const twins = bindings.flatMap(({ part }) => (pairs[part] ? [kit.parts[pairs[part]].name] : []));
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        {says}: {[...twins, ...tops.map(({ part }) => `one like ${kit.parts[part].name}, which is made`)].join(', ')}
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
        <TryButton variant="outlined" calls={calls} step={title}>
          {title}
        </TryButton>
      </Buttons>
    </Box>
  );
}
