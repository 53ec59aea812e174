import { proxy, wrap, type Remote } from 'comlink';
import { blobsOf, type Blobs, type Kit } from '@itchkit/core/document';
import type { LoopsFound, LoopTask, Mover } from './motion.worker';
import { CancelledError } from '../rig/rig-job';

/** One long job of Motion in a worker of its own. Ending it cancels the job. */
export class MotionJob {
  private readonly worker = new Worker(new URL('./motion.worker.ts', import.meta.url), { type: 'module' });
  private readonly mover: Remote<Mover> = wrap<Mover>(this.worker);
  private stop: () => void = () => undefined;
  private readonly stopped = new Promise<never>((_, reject) => (this.stop = () => reject(new CancelledError())));

  async loops(kit: Kit, blobs: Blobs, task: LoopTask, told: (share: number) => void): Promise<LoopsFound> {
    // Surfaces go along: seams are measured at their vertices.
    const bare: Kit = { ...kit, images: {}, materials: {}, clips: { [task.clip]: kit.clips[task.clip] } };
    const entries = [...blobsOf(bare)].map((sha) => [sha, blobs.get(sha)] as [string, Uint8Array]);
    try {
      return await Promise.race([this.mover.loops(bare, entries, task, proxy(told)) as Promise<LoopsFound>, this.stopped]);
    } finally {
      this.worker.terminate();
    }
  }

  cancel(): void {
    this.worker.terminate();
    this.stop();
  }
}
