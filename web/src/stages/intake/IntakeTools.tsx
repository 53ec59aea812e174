'use client';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import DriveFolderUpload from '@mui/icons-material/DriveFolderUpload';
import DirectionsRun from '@mui/icons-material/DirectionsRun';
import { useState } from 'react';
import { ViewTools } from '../../bench/BenchTools';
import { ClipsFromFileDialog } from './ClipsFromFileDialog';
import { NewVersionDialog } from './NewVersionDialog';

export function IntakeTools() {
  const [asked, setAsked] = useState<'version' | 'clips' | null>(null);
  return (
    <>
      <Button startIcon={<DriveFolderUpload />} color="inherit" onClick={() => setAsked('version')}>
        New version
      </Button>
      <Button startIcon={<DirectionsRun />} color="inherit" onClick={() => setAsked('clips')}>
        Clips from a file
      </Button>
      <Divider orientation="vertical" flexItem sx={{ mx: 1 }} />
      <ViewTools callouts />
      {asked === 'version' && <NewVersionDialog onClose={() => setAsked(null)} />}
      {asked === 'clips' && <ClipsFromFileDialog onClose={() => setAsked(null)} />}
    </>
  );
}
