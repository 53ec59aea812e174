'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import Refresh from '@mui/icons-material/Refresh';
import { useEffect } from 'react';
import { clipsInOrder } from '@itchkit/core/document';
import { setSlice, useKit, useOpenKit, useRulebook } from '../../session/context';
import { choosesClips, packsAlike, playTrial, startTrial, useTrial } from '../../trials/trial-state';
import { ViewTools } from '../../bench/BenchTools';

const SAYS = { empty: '', building: 'building the package …', running: 'running from the package', failed: 'not loaded' } as const;

export function TrialTools() {
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const rulebook = useRulebook();
  const status = useTrial((state) => state.status);
  const builtFrom = useTrial((state) => state.builtFrom);
  const loaded = useTrial((state) => state.loaded);
  const clip = useTrial((state) => state.clip);
  const playing = useTrial((state) => state.playing);
  const behind = status === 'running' && !packsAlike(builtFrom, kit);
  // Coming to the trial loads the kit as it stands; an edit afterwards says that the trial is behind.
  useEffect(() => {
    if (!packsAlike(ui.getState().trial.builtFrom, session.shown)) void startTrial(ui, session);
  }, [ui, session]);
  return (
    <>
      <Button
        variant={behind ? 'contained' : 'text'}
        color={behind ? 'primary' : 'inherit'}
        startIcon={<Refresh />}
        disabled={status === 'building'}
        onClick={() => void startTrial(ui, session)}
        sx={{ whiteSpace: 'nowrap', flex: 'none' }}
      >
        {behind ? 'The kit has changed: load it again' : `Load into ${rulebook?.title ?? 'the platform'}`}
      </Button>
      <Box
        component="span"
        role="status"
        data-trial={status}
        sx={{ fontSize: 12.5, color: 'text.secondary', mx: 1.5, whiteSpace: 'nowrap' }}
      >
        {SAYS[status]}
      </Box>
      {choosesClips(loaded) && <PlayButton playing={playing} onClick={() => playTrial(ui)} />}
      {loaded && !choosesClips(loaded) && Object.keys(loaded.kit.clips).length > 0 && (
        <>
          <TextField
            select
            value={clip ?? ''}
            onChange={(event) => setSlice(ui, 'trial', { clip: event.target.value || null, time: 0, playing: false })}
            sx={{ width: 150, flex: 'none', alignSelf: 'center' }}
            slotProps={{
              select: {
                displayEmpty: true,
                sx: { '& .MuiSelect-select': { py: 0.75 } },
                SelectDisplayProps: { 'aria-label': 'Clip' },
                startAdornment: <Box sx={{ fontSize: 12.5, color: 'text.secondary', mr: 1 }}>Clip</Box>,
              },
            }}
          >
            <MenuItem value="">levers alone</MenuItem>
            {clipsInOrder(loaded.kit).map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            ))}
          </TextField>
          <PlayButton playing={playing} disabled={!clip} onClick={() => playTrial(ui)} />
        </>
      )}
      <ViewTools />
    </>
  );
}

function PlayButton({ playing, disabled, onClick }: { playing: boolean; disabled?: boolean; onClick: () => void }) {
  return (
    <Button color="inherit" disabled={disabled} startIcon={playing ? <Pause /> : <PlayArrow />} onClick={onClick}>
      {playing ? 'Stop' : 'Play'}
    </Button>
  );
}
