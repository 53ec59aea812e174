import { proxy, wrap, type Remote } from 'comlink';
import { blobsOf, type Blobs, type Kit } from '@itchkit/core/document';
import type { Fit, PoseFigures, SkinTask, SolvedWeights, SolveOptions, TestPose } from '@itchkit/core/rig';
import type { Rigger } from './rig.worker';

/** One long job of Rig in a worker of its own. Ending it cancels the job; nothing of it has touched the kit. */
export class RigJob {
  private readonly worker = new Worker(new URL('./rig.worker.ts', import.meta.url), { type: 'module' });
  private readonly rigger: Remote<Rigger> = wrap<Rigger>(this.worker);
  private stop: (reason: 'cancelled') => void = () => undefined;
  private readonly stopped = new Promise<never>((_, reject) => (this.stop = () => reject(new CancelledError())));

  solve(task: SkinTask, options: Partial<SolveOptions>, progress: (share: number) => void): Promise<SolvedWeights> {
    return this.end(this.rigger.solve(task, options, proxy(progress)) as Promise<SolvedWeights>);
  }

  fit(positions: Float32Array, indices: Uint32Array, template: string, mirrored: boolean): Promise<Fit> {
    return this.end(this.rigger.fit(positions, indices, template, mirrored) as Promise<Fit>);
  }

  measure(kit: Kit, blobs: Blobs, poses: TestPose[], told: (index: number, figures: PoseFigures) => void): Promise<void> {
    const bare = { ...kit, images: {}, materials: {}, clips: {} };
    const entries = [...blobsOf(bare)].map((sha) => [sha, blobs.get(sha)] as [string, Uint8Array]);
    return this.end(this.rigger.measure(bare, entries, poses, proxy(told)) as Promise<void>);
  }

  cancel(): void {
    this.worker.terminate();
    this.stop('cancelled');
  }

  private async end<T>(job: Promise<T>): Promise<T> {
    try {
      return await Promise.race([job, this.stopped]);
    } finally {
      this.worker.terminate();
    }
  }
}

export class CancelledError extends Error {}
