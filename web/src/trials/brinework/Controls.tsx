'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import { trialFor, type Lever as TrialLever } from '@itchkit/core/trial';
import type { Rulebook } from '@itchkit/core/rulebook';
import { isShown } from '@itchkit/core/wiring';
import { Lever } from '../../card/Lever';
import { Empty } from '../../panels/Section';
import { setSlice, useOpenKit, useRulebook } from '../../session/context';
import { useTrial, type InTrial } from '../trial-state';
import { DutyPane } from './DutyPane';
import { Readout } from './Readout';
import { SweepPane } from './SweepPane';

const VIEWS = { levers: 'Levers', duties: 'Duties', sweep: 'Sweep' } as const;
type View = keyof typeof VIEWS;

/** Levers for every variable that the package asks for, runs of them, and a sweep through all their ranges. */
export default function BrineworkControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const [view, setView] = useState<View>('levers');
  const trial = rulebook && trialFor(rulebook);
  if (!loaded || !rulebook || !trial) return null;
  const rows = trial.levers(loaded, rulebook);
  return (
    <Box component="section" aria-label={VIEWS[view]} sx={{ height: '100%', overflowY: 'auto', bgcolor: 'kit.sheet' }}>
      {rows.length === 0 ? (
        <Empty>The package asks for no variable of {rulebook.title}. Bind a part in Wiring.</Empty>
      ) : (
        <ToggleButtonGroup
          exclusive
          size="small"
          value={view}
          onChange={(_, next: View | null) => next && setView(next)}
          aria-label="How the package is tried"
          sx={{ px: 2.5, pt: 1.5, pb: 0.5 }}
        >
          {(Object.keys(VIEWS) as View[]).map((one) => (
            <ToggleButton key={one} value={one} sx={{ py: 0.25, px: 1.5, fontSize: 12 }}>
              {VIEWS[one]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      )}
      {view === 'levers' && <Levers rows={rows} loaded={loaded} rulebook={rulebook} />}
      {view === 'duties' && rows.length > 0 && (
        <DutyPane duties={trial.duties} keys={new Set(rows.map(({ key }) => key))} variables={rulebook.variables} />
      )}
      {view === 'sweep' && rows.length > 0 && <SweepPane loaded={loaded} levers={rows} />}
    </Box>
  );
}

function Levers({ rows, loaded, rulebook }: { rows: TrialLever[]; loaded: InTrial; rulebook: Rulebook }) {
  const { ui } = useOpenKit();
  const levers = useTrial((state) => state.levers);
  const neutral = () => setSlice(ui, 'trial', { levers: Object.fromEntries(rows.map(({ key, variable }) => [key, variable.neutral])) });
  return (
    <>
      {rows.map(({ key, variable, bindings, switches }) => (
        <Box
          key={key}
          sx={{
            px: 3,
            py: 1.75,
            borderBottom: 1,
            borderColor: 'divider',
            display: 'grid',
            gridTemplateColumns: 'minmax(120px, 170px) minmax(210px, 1fr) minmax(150px, 210px)',
            gap: 3,
            alignItems: 'center',
          }}
        >
          <Box sx={{ minWidth: 0 }}>
            <Box sx={{ fontSize: 13, fontWeight: 600 }}>{variable.title}</Box>
            <Box className="figures" sx={{ color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {key}
            </Box>
          </Box>
          <Lever
            name={key}
            variable={variable}
            value={levers[key] ?? variable.neutral}
            onChange={(next) => setSlice(ui, 'trial', { levers: { ...levers, [key]: next } })}
          />
          <Box>
            {bindings.map((binding) => (
              <Readout key={binding.id} loaded={loaded} part={binding.part} variables={rulebook.variables} />
            ))}
            {switches.map((one) => (
              <Box key={one.id} sx={{ fontSize: 12.5 }}>
                {loaded.kit.parts[one.part].name} is {isShown(one, levers[key] ?? variable.neutral) ? 'shown' : 'hidden'}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
      {rows.length > 0 && (
        <Button color="inherit" onClick={neutral} sx={{ m: 2 }}>
          All levers to neutral
        </Button>
      )}
    </>
  );
}
