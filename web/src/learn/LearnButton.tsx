'use client';
import Button, { type ButtonProps } from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useRouter } from 'next/navigation';
import { useState, useSyncExternalStore } from 'react';
import { learning, onLearning, takeUpLearning } from './learning';

/** Starts to learn on a copy of the crane, or goes on where it was left. */
export function LearnButton({ onGone, ...rest }: ButtonProps & { onGone?: () => void }) {
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const [busy, setBusy] = useState(false);
  const begun = useSyncExternalStore(onLearning, learning, () => null) !== null;
  const go = async () => {
    setBusy(true);
    try {
      router.push(`/kits/${await takeUpLearning()}/intake`);
      onGone?.();
    } catch (error) {
      enqueueSnackbar(error instanceof Error ? error.message : String(error), { variant: 'error' });
    }
    setBusy(false);
  };
  return (
    <Button {...rest} disabled={busy} onClick={() => void go()}>
      {begun ? 'Go on mending the crane' : 'Learn by mending the crane'}
    </Button>
  );
}
