'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useSnackbar } from 'notistack';
import { callOf, figure, OUTSIDES, type Binding, type Outside } from '@itchkit/core/document';
import { setBinding } from '@itchkit/core/wiring';
import { useKit, useOpenKit, useRun, useSetSlice, useUi } from '../../session/context';
import { capture, type BoundLever } from './levers';
import { RowsMenu } from './RowsMenu';
import { VIEWS } from './wiring-state';

const WORDS: Record<Outside, string> = { clamp: 'stay at the end', extend: 'go on straight', wrap: 'begin again' };
const TITLES: Record<(typeof VIEWS)[number], string> = { stations: 'Stations', table: 'Table' };

/** What is true of a binding beside its rows, and what writes how parts stand on the bench as a station. */
export function BindingHead({ lever, binding }: { lever: BoundLever; binding: Binding }) {
  const { ui } = useOpenKit();
  const { enqueueSnackbar } = useSnackbar();
  const kit = useKit();
  const run = useRun();
  const setWiring = useSetSlice('wiring');
  const { key, variable } = lever;
  const value = useUi((state) => state.wiring.levers[key]) ?? variable?.neutral ?? 0;
  const posed = useUi((state) => state.wiring.posed);
  const view = useUi((state) => state.wiring.view);
  const waiting = Object.keys(posed).filter((id) => kit.parts[id]).length;
  const indices = variable?.indices ?? 0;
  const poseHere = () => {
    const found = capture(kit, lever, binding, value, posed);
    if ('why' in found) enqueueSnackbar(found.why, { variant: 'warning' });
    else if (run(found.calls, `Pose ${found.parts.map((id) => `“${kit.parts[id].name}”`).join(', ')} at ${figure(value)}`)) {
      setWiring({ posed: {} });
      ui.setState({ binding: binding.id });
    }
  };
  return (
    <Box sx={{ px: 2.5, pt: 2.5, pb: 1.5, display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={view}
        onChange={(_, next: (typeof VIEWS)[number] | null) => next && setWiring({ view: next })}
        aria-label="What stands below"
      >
        {VIEWS.map((one) => (
          <ToggleButton key={one} value={one} sx={{ py: 0.25, px: 1.25, fontSize: 12 }}>
            {TITLES[one]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ fontWeight: 600, fontSize: 13 }}>{kit.parts[binding.part]?.name}</Box>
      {indices > 0 && (
        <TextField
          select
          label="Index"
          value={binding.index ?? ''}
          onChange={(event) => run(callOf(setBinding, { binding: binding.id, index: Number(event.target.value) }))}
          sx={{ width: 64 }}
        >
          {binding.index !== null && binding.index >= indices && <MenuItem value={binding.index}>{binding.index}</MenuItem>}
          {Array.from({ length: indices }, (_, i) => (
            <MenuItem key={i} value={i}>
              {i}
            </MenuItem>
          ))}
        </TextField>
      )}
      <TextField
        select
        label="Beyond the table"
        value={binding.outside}
        onChange={(event) => run(callOf(setBinding, { binding: binding.id, outside: event.target.value as Outside }))}
        sx={{ width: 136 }}
      >
        {OUTSIDES.map((one) => (
          <MenuItem key={one} value={one}>
            {WORDS[one]}
          </MenuItem>
        ))}
      </TextField>
      <RowsMenu binding={binding} lever={lever} />
      <Button variant={waiting > 0 ? 'contained' : 'outlined'} onClick={poseHere}>
        Pose here, at {figure(value)} {variable?.unit}
      </Button>
    </Box>
  );
}
