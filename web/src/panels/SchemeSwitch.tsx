'use client';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useColorScheme } from '@mui/material/styles';
import Contrast from '@mui/icons-material/Contrast';

/** Day or night watch. */
export function SchemeSwitch() {
  const { mode, systemMode, setMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  const label = dark ? 'To day' : 'To night watch';
  return (
    <Tooltip title={label}>
      <IconButton size="small" aria-label={label} onClick={() => setMode(dark ? 'light' : 'dark')}>
        <Contrast sx={{ fontSize: 19 }} />
      </IconButton>
    </Tooltip>
  );
}
