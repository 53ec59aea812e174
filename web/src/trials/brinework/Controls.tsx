'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Empty } from '../../panels/Section';
import { trialFor } from '@itchkit/core/trial';
import { setSlice, useOpenKit, useRulebook } from '../../session/context';
import { useTrial } from '../trial-state';
import { Lever } from '../../card/Lever';
import { Readout } from './Readout';

/** A lever for every variable that the package asks for, and what the parts do. */
export default function BrineworkControls() {
  const { ui } = useOpenKit();
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const levers = useTrial((state) => state.levers);
  const trial = rulebook && trialFor(rulebook);
  if (!loaded || !rulebook || !trial) return null;
  const rows = trial.levers(loaded, rulebook);
  const neutral = () => setSlice(ui, 'trial', { levers: Object.fromEntries(rows.map(({ key, variable }) => [key, variable.neutral])) });
  return (
    <Box component="section" aria-label="Levers" sx={{ height: '100%', overflowY: 'auto', bgcolor: 'kit.sheet' }}>
      {rows.length === 0 && <Empty>The package asks for no variable of {rulebook.title}. Bind a part in Wiring.</Empty>}
      {rows.map(({ key, variable, bindings }) => (
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
          </Box>
        </Box>
      ))}
      {rows.length > 0 && (
        <Button color="inherit" onClick={neutral} sx={{ m: 2 }}>
          All levers to neutral
        </Button>
      )}
    </Box>
  );
}
