'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import { fileEndings } from '@itchkit/core/intake';
import { useDropzone } from 'react-dropzone';
import type { ReactNode } from 'react';
import { useReading, type Brought } from './use-reading';

interface Props {
  title: string;
  /** What will be done with the file. */
  intro: string;
  withBase: boolean;
  onClose: () => void;
  children: (brought: Brought) => ReactNode;
}

/** Asks for a file, reads it beside the kit, and then shows what is in it. */
export function FileDialog({ title, intro, withBase, onClose, children }: Props) {
  const { state, read, cancel } = useReading(withBase);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({ onDrop: (files) => void read(files), noClick: true });
  if (state.step === 'read') return <>{children(state.brought)}</>;
  return (
    <Dialog
      open
      onClose={() => {
        cancel();
        onClose();
      }}
      maxWidth="sm"
      fullWidth
    >
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 3, fontSize: 13.5, lineHeight: 1.5 }}>{intro}</Box>
        {state.step === 'reading' ? (
          <Box sx={{ py: 6 }}>
            <Box sx={{ mb: 2, fontSize: 13.5 }}>{state.share < 1 ? `Sending “${state.name}” …` : `Reading “${state.name}” …`}</Box>
            <LinearProgress
              variant={state.share < 1 ? 'determinate' : 'indeterminate'}
              value={100 * state.share}
              aria-label={`Reading ${state.name}`}
            />
          </Box>
        ) : (
          <Box
            {...getRootProps()}
            sx={{
              border: '1.5px dashed',
              borderColor: isDragActive ? 'kit.signal' : 'kit.line',
              borderRadius: 2,
              p: 8,
              textAlign: 'center',
              color: 'text.secondary',
            }}
          >
            <input {...getInputProps({ 'aria-label': `File for ${title.toLowerCase()}`, accept: fileEndings().join(',') })} />
            <Box sx={{ mb: 3 }}>Drop the file here, with its folder where it has one.</Box>
            <Button variant="outlined" onClick={open}>
              Choose a file
            </Button>
          </Box>
        )}
        {state.step === 'failed' && (
          <Box role="alert" sx={{ mt: 3, pl: 3, borderLeft: 4, borderColor: 'kit.stop', fontSize: 13.5, lineHeight: 1.5 }}>
            {state.message}
          </Box>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button
          onClick={() => {
            cancel();
            if (state.step !== 'reading') onClose();
          }}
        >
          {state.step === 'reading' ? 'Cancel' : 'Close'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
