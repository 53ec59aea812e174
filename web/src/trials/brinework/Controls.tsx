'use client';
import Box from '@mui/material/Box';
import { useMemo, useState } from 'react';
import { ordersOf, trialFor } from '@itchkit/core/trial';
import { Empty } from '../../panels/Section';
import { useRulebook } from '../../session/context';
import { useTrial } from '../trial-state';
import { DutyPane } from './DutyPane';
import { Levers } from './Levers';
import { SweepPane } from './SweepPane';
import { Toggles } from '../../panels/Toggles';

const VIEWS = { levers: 'Levers', duties: 'Duties', sweep: 'Sweep' } as const;
type View = keyof typeof VIEWS;

/** Levers for every variable that the package asks for, runs of them, and a sweep through all their ranges. */
export default function BrineworkControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const [view, setView] = useState<View>('levers');
  const trial = rulebook && trialFor(rulebook);
  const [duty, setDutyName] = useState(trial?.duties[0]?.name ?? '');
  const rows = useMemo(() => (loaded && rulebook && trial ? trial.levers(loaded, rulebook) : []), [loaded, rulebook, trial]);
  const all = useMemo(() => ordersOf(rows, rulebook?.variables ?? []), [rows, rulebook]);
  /** Those that are no levers themselves. */
  const orders = useMemo(() => all.filter(({ key }) => rows.every((row) => row.key !== key)), [all, rows]);
  if (!loaded || !rulebook || !trial) return null;
  return (
    <Box component="section" aria-label={VIEWS[view]} sx={{ height: '100%', overflowY: 'auto', bgcolor: 'kit.sheet' }}>
      {rows.length === 0 ? (
        <Empty>The package asks for no variable of {rulebook.title}. Bind a part in Wiring.</Empty>
      ) : (
        <Toggles
          label="How the package is tried"
          value={view}
          options={Object.entries(VIEWS) as [View, string][]}
          onChange={setView}
          sx={{ px: 2.5, pt: 1.5, pb: 0.5 }}
        />
      )}
      {view === 'levers' && (
        <Levers
          rows={rows}
          orders={orders}
          loaded={loaded}
          rulebook={rulebook}
          onWritten={(name) => {
            setDutyName(name);
            setView('duties');
          }}
        />
      )}
      {view === 'duties' && rows.length > 0 && (
        <DutyPane
          key={duty}
          duties={trial.duties}
          keys={new Set(rows.map(({ key }) => key))}
          worked={[...rows, ...orders]}
          orders={all}
          variables={rulebook.variables}
          name={duty}
          onName={setDutyName}
        />
      )}
      {view === 'sweep' && rows.length > 0 && <SweepPane loaded={loaded} levers={rows} />}
    </Box>
  );
}
