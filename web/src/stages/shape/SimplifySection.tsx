'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useDeferredValue, useMemo, useState } from 'react';
import { BlobsOver, callOf, KitError, type Id, type Kit } from '@itchkit/core/document';
import { meshCounts } from '@itchkit/core/geometry';
import { simplification, simplifyParts, type SimplifyGoal } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { Fold } from '../../panels/Fold';
import { formatCount } from '../../format';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { useProposal } from './use-proposal';

type Way = 'triangles' | 'share' | 'toleranceMm';

/** Up to so many triangles every number is tried at once; above, when it is asked for. */
const LIVE_MOST = 120_000;

const trianglesOf = (kit: Kit, ids: readonly Id[]) => ids.reduce((sum, id) => sum + meshCounts(kit, kit.parts[id].mesh).triangles, 0);

/** Fewer triangles for the chosen parts, or all: tried beside the kit as it is, with the error that it brings. */
export function SimplifySection({ ids }: { ids: Id[] }) {
  const kit = useKit();
  const total = trianglesOf(kit, ids);
  if (total < 8) return null;
  return (
    <Fold key={ids.join()} title="Simplify" passing aside={<span className="figures">{formatCount(total)}</span>}>
      <Simplify ids={ids} total={total} />
    </Fold>
  );
}

type Outcome = { left: number; errorMm: number } | string | null;

/** What simplifying comes to, or the sentence why it does not. */
function OutcomeLine({ total, tried }: { total: number; tried: Outcome }) {
  if (tried === null || typeof tried === 'string') return tried;
  return (
    <>
      <span className="figures">
        {formatCount(total)} → {formatCount(tried.left)}
      </span>{' '}
      triangles, off by <span className="figures">{tried.errorMm.toFixed(tried.errorMm < 10 ? 2 : 1)} mm</span>
    </>
  );
}

function Simplify({ ids, total }: { ids: Id[]; total: number }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const [way, setWay] = useState<Way>('share');
  const [numbers, setNumbers] = useState<Record<Way, number>>({ triangles: Math.round(total / 2), share: 50, toleranceMm: 2 });
  const [keepBorders, setKeepBorders] = useState(true);
  const [compare, setCompare] = useState(true);
  const [spare, setSpare] = useState<Id[]>([]);
  const { triangles, share, toleranceMm } = numbers;
  const goal: SimplifyGoal = { triangles: { triangles }, share: { share: share / 100 }, toleranceMm: { toleranceMm } }[way];
  const args = { parts: ids, goal, keepBorders, spare };
  const now = JSON.stringify(args);
  const [asked, setAsked] = useState<string | null>(null);
  const live = total <= LIVE_MOST;
  const text = useDeferredValue(live ? now : asked);
  const tried = useMemo((): Outcome => {
    if (text === null) return null;
    try {
      const { meshes, parts, errorMm } = simplification(kit, JSON.parse(text) as typeof args, new BlobsOver(session.blobs));
      const left = parts.reduce(
        (sum, id) => sum + meshes.get(kit.parts[id].mesh!)!.primitives.reduce((all, { indices }) => all + Math.floor(indices.count / 3), 0),
        0,
      );
      return { left: left + trianglesOf(kit, (JSON.parse(text) as typeof args).spare), errorMm };
    } catch (error) {
      if (error instanceof KitError) return error.message;
      throw error;
    }
  }, [text, kit, session]);
  const call = callOf(simplifyParts, args);
  const current = tried !== null && text === now;
  useProposal(current ? call : null, compare);
  const set = (value: number) => setNumbers({ ...numbers, [way]: value });
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <Choice
          label="Down to"
          value={way}
          options={[
            ['share', 'a share'],
            ['triangles', 'so many triangles'],
            ['toleranceMm', 'an error at most'],
          ]}
          onChange={setWay}
        />
        {way === 'share' && (
          <NumberField label="Share" unit="%" value={numbers.share} min={1} max={100} step={5} digits={1} onCommit={set} />
        )}
        {way === 'triangles' && (
          <NumberField
            label="Triangles"
            value={numbers.triangles}
            min={1}
            max={total}
            step={100}
            digits={0}
            onCommit={(value) => set(Math.round(value))}
          />
        )}
        {way === 'toleranceMm' && (
          <NumberField label="Error" unit="mm" value={numbers.toleranceMm} min={0} step={0.5} digits={3} onCommit={set} />
        )}
      </Box>
      {ids.length > 1 && (
        <Choice
          label="Leave as it is"
          value={spare[0] ?? ''}
          options={[
            ['', 'none of them'],
            ...ids.filter((id) => kit.parts[id].mesh !== null).map((id) => [id, kit.parts[id].name] as const),
          ]}
          onChange={(id) => setSpare(id === '' ? [] : [id])}
        />
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        <FormControlLabel
          control={<Checkbox size="small" checked={keepBorders} onChange={(event) => setKeepBorders(event.target.checked)} />}
          label="Keep borders"
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={compare} onChange={(event) => setCompare(event.target.checked)} />}
          label="Side by side"
        />
      </Box>
      <Box role="status" sx={{ fontSize: 13 }}>
        {!live && !current ? (
          <Button variant="outlined" onClick={() => setAsked(now)}>
            Try it on the bench
          </Button>
        ) : (
          <OutcomeLine total={total} tried={tried} />
        )}
      </Box>
      <Button
        variant="contained"
        disabled={tried === null || typeof tried === 'string' || (current && tried.left === total)}
        onClick={() => run(call)}
      >
        Simplify
      </Button>
    </>
  );
}
