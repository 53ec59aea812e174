import { expose, transfer } from 'comlink';
import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import {
  chainTemplate,
  fitSkeleton,
  PoseMeter,
  runSkinTask,
  SKELETON_TEMPLATES,
  type Fit,
  type PoseFigures,
  type SkinTask,
  type SolvedWeights,
  type SolveOptions,
  type TestPose,
} from '@itchkit/core/rig';

/** What Rig works out beside the interface. A job is cancelled by ending the worker. */
const rigger = {
  solve(task: SkinTask, options: Partial<SolveOptions>, progress: (share: number) => void): SolvedWeights {
    let said = 0;
    const solved = runSkinTask(task, options, (share) => {
      // The interface is told twenty times at most.
      if (share - said < 0.05) return;
      said = share;
      progress(share);
    });
    return transfer(solved, [solved.joints.buffer, solved.weights.buffer]);
  },

  fit(positions: Float32Array, indices: Uint32Array, template: string, mirrored: boolean): Fit {
    const chain = /^chain-(\d+)$/.exec(template);
    const found = chain ? chainTemplate(Number(chain[1])) : SKELETON_TEMPLATES.find(({ id }) => id === template)!;
    return fitSkeleton(positions, indices, found, { mirrored });
  },

  measure(kit: Kit, entries: [string, Uint8Array][], poses: TestPose[], told: (index: number, figures: PoseFigures) => void): void {
    const blobs = new MemoryBlobs();
    for (const [sha, bytes] of entries) blobs.load(sha, bytes);
    const meter = new PoseMeter(kit, blobs);
    poses.forEach((pose, i) => told(i, meter.measure(pose)));
  },
};

export type Rigger = typeof rigger;

expose(rigger);
