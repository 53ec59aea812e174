'use client';
import Box from '@mui/material/Box';
import Drawer from '@mui/material/Drawer';
import IconButton from '@mui/material/IconButton';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import Close from '@mui/icons-material/Close';
import { useState } from 'react';
import { RevisionList } from './RevisionList';
import { StepList } from './StepList';

/** What was done to the kit: steps of this window, and revisions of all time. */
export function HistoryPanel({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [tab, setTab] = useState<'steps' | 'revisions'>('steps');
  return (
    <Drawer
      anchor="left"
      open={open}
      onClose={onClose}
      slotProps={{
        backdrop: { invisible: true },
        paper: { sx: { width: 384, bgcolor: 'kit.sheet', borderRight: 1, borderColor: 'divider' }, 'aria-label': 'History' },
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', px: 3, borderBottom: 1, borderColor: 'divider' }}>
        <Tabs value={tab} onChange={(_, value: 'steps' | 'revisions') => setTab(value)} sx={{ flex: 1 }} aria-label="History">
          <Tab value="steps" label="Steps" />
          <Tab value="revisions" label="Revisions" />
        </Tabs>
        <IconButton size="small" aria-label="Close" onClick={onClose}>
          <Close sx={{ fontSize: 19 }} />
        </IconButton>
      </Box>
      {open && (tab === 'steps' ? <StepList /> : <RevisionList onView={onClose} />)}
    </Drawer>
  );
}
