'use client';
import { useSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { KitError } from '@itchkit/core/document';
import { CancelledError, RigJob } from './rig-job';

/** One long job at a time, with its progress; it ends when its section closes. */
export function useRigJob() {
  const { enqueueSnackbar } = useSnackbar();
  const job = useRef<RigJob | null>(null);
  const [share, setShare] = useState<number | null>(null);
  useEffect(() => () => job.current?.cancel(), []);
  const start = async (work: (job: RigJob, told: (share: number) => unknown) => Promise<void>) => {
    job.current?.cancel();
    const own = (job.current = new RigJob());
    setShare(0);
    try {
      // What a job that was cancelled still had to say comes too late.
      await work(own, (done) => job.current === own && setShare(done));
    } catch (error) {
      if (error instanceof KitError) enqueueSnackbar(error.message, { variant: 'error' });
      else if (!(error instanceof CancelledError))
        enqueueSnackbar('The job broke off; the kit is as it was. Try it again.', { variant: 'error' });
    } finally {
      if (job.current === own) {
        job.current = null;
        setShare(null);
      }
    }
  };
  return { share, start, cancel: () => job.current?.cancel() };
}
