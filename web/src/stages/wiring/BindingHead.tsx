'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useSnackbar } from 'notistack';
import type { ReactNode } from 'react';
import { BETWEENS, callOf, figure, OUTSIDES, type Between, type Binding, type Outside } from '@itchkit/core/document';
import { setBinding } from '@itchkit/core/wiring';
import { useKit, useOpenKit, useRun, useSetSlice, useUi } from '../../session/context';
import { capture, type BoundLever } from './levers';
import { RowsMenu } from './RowsMenu';
import { useValue } from './use-value';
import { VIEWS } from './wiring-state';
import { Toggles } from '../../panels/Toggles';

const WORDS: Record<Outside, string> = { clamp: 'stay at the end', extend: 'go on straight', wrap: 'begin again' };
const BETWEEN_WORDS: Record<Between, string> = { straight: 'straight', curve: 'in a curve' };
const TITLES: Record<(typeof VIEWS)[number], string> = { stations: 'Stations', table: 'Table', text: 'As text' };

/**
 * What is true of a binding beside its rows, and what writes how parts stand on the bench as a station.
 *
 * @param curves Whether the platform’s tables may go in curves.
 */
export function BindingHead({ lever, binding, curves }: { lever: BoundLever; binding: Binding; curves: boolean }) {
  const { ui } = useOpenKit();
  const { enqueueSnackbar } = useSnackbar();
  const kit = useKit();
  const run = useRun();
  const setWiring = useSetSlice('wiring');
  const { variable } = lever;
  const value = useValue(lever);
  const posed = useUi((state) => state.wiring.posed);
  const view = useUi((state) => state.wiring.view);
  const waiting = Object.keys(posed).filter((id) => kit.parts[id]).length;
  const indices = variable?.indices ?? 0;
  const linked = kit.links?.some(({ parts }) => parts.includes(binding.part));
  const set = (change: { index: number } | { outside: Outside } | { between: Between }) =>
    run(callOf(setBinding, { binding: binding.id, ...change }));
  const poseHere = () => {
    const found = capture(kit, lever, binding, value, posed);
    if ('why' in found) enqueueSnackbar(found.why, { variant: 'warning' });
    else if (run(found.calls, `Pose ${found.parts.map((id) => `“${kit.parts[id].name}”`).join(', ')} at ${figure(value)}`)) {
      setWiring({ posed: {} });
      ui.setState({ binding: binding.id });
    }
  };
  return (
    <Box sx={{ px: 2.5, pt: 1.5, pb: 0.5, display: 'flex', columnGap: 1.5, rowGap: 0.5, alignItems: 'center', flexWrap: 'wrap' }}>
      <Toggles
        label="What stands below"
        value={view}
        options={VIEWS.map((one) => [one, TITLES[one]] as const)}
        onChange={(next) => setWiring({ view: next })}
      />
      <RowsMenu binding={binding} lever={lever} />
      <Button variant={waiting > 0 ? 'contained' : 'outlined'} onClick={poseHere} sx={{ py: 0.25 }}>
        Pose here, at {figure(value)} {variable?.unit}
      </Button>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, fontSize: 12.5, flexBasis: '100%', minWidth: 0 }}>
        <Box component="span" sx={{ fontWeight: 600, fontSize: 13, overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {kit.parts[binding.part]?.name}
        </Box>
        {indices > 0 && (
          <Small label="Index" value={String(binding.index ?? '')} onChange={(next) => set({ index: Number(next) })}>
            {binding.index !== null && binding.index >= indices && <MenuItem value={String(binding.index)}>index {binding.index}</MenuItem>}
            {Array.from({ length: indices }, (_, i) => (
              <MenuItem key={i} value={String(i)}>
                index {i}
              </MenuItem>
            ))}
          </Small>
        )}
        {(curves || binding.between === 'curve') && !linked && (
          <Small label="From row to row" value={binding.between ?? 'straight'} onChange={(next) => set({ between: next as Between })}>
            {BETWEENS.map((one) => (
              <MenuItem key={one} value={one}>
                between: {BETWEEN_WORDS[one]}
              </MenuItem>
            ))}
          </Small>
        )}
        <Small label="Beyond the table" value={binding.outside} onChange={(next) => set({ outside: next as Outside })}>
          {OUTSIDES.map((one) => (
            <MenuItem key={one} value={one}>
              beyond: {WORDS[one]}
            </MenuItem>
          ))}
        </Small>
      </Box>
    </Box>
  );
}

/** A choice in a line of words. */
function Small({ label, value, onChange, children }: { label: string; value: string; onChange(value: string): void; children: ReactNode }) {
  return (
    <Select
      variant="standard"
      disableUnderline
      value={value}
      onChange={(event) => onChange(event.target.value)}
      SelectDisplayProps={{ 'aria-label': label }}
      sx={{ fontSize: 12.5, color: 'text.secondary' }}
    >
      {children}
    </Select>
  );
}
