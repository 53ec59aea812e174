import type { Blobs, Kit } from '@itchkit/core/document';
import { boundsByPart, restWorlds } from '@itchkit/core/geometry';
import type { Finding, Stage } from '@itchkit/core/rulebook';

/** How a kit stands, for what was done to tell. */
export interface Standing {
  kit: Kit;
  blobs: Blobs;
  /** What is owed; only asked once the checks have run. */
  findings: readonly Finding[];
  packages: number;
}

export interface Task {
  stage: Stage;
  /** What to do, in a line. */
  line: string;
  /** A CSS selector of the place where it is done. */
  at: string;
  isDone(standing: Standing): boolean;
}

const TURNTABLE = 'drv_turntable';

const turntable = (kit: Kit) => Object.values(kit.parts).find(({ name }) => name === TURNTABLE);

/** Millimetres. */
const near = (a: number, b: number) => Math.abs(a - b) < 1e-3;

/** From a raw file to a package: each task is done when the kit says so, by whatever way it was done. */
export const TASKS: readonly Task[] = [
  {
    stage: 'intake',
    line: 'The crane would be over a kilometre long: it was drawn in centimetres. Choose them here.',
    at: '[aria-label="Unit and axes"]',
    isDone: ({ kit }) => kit.source?.settled === true && near(kit.source.space.metresPerUnit, 0.01),
  },
  {
    stage: 'intake',
    line: 'The Ledger says what the platform would refuse. What changes nothing you can see is mended by one button.',
    at: '[aria-label="Ledger"] [data-mend-all]',
    isDone: ({ findings }) => !findings.some((finding) => finding.mend?.safe && finding.aside === null),
  },
  {
    stage: 'intake',
    line: 'Other mends show first what will change. Press the button of each red finding, and answer.',
    at: '[data-finding][data-grade=stop]',
    isDone: ({ findings }) =>
      !findings.some((finding) => finding.grade === 'stop' && finding.mend !== null && finding.family !== 'variables'),
  },
  {
    stage: 'shape',
    line: `Choose ${TURNTABLE} in Parts, and put its pivot to “bottom, centre, centre”: it will turn about it.`,
    at: `[data-part="${TURNTABLE}"], [aria-label="Pivot"]`,
    isDone({ kit, blobs }) {
      const part = turntable(kit);
      const bounds = part && boundsByPart(kit, blobs).get(part.id);
      const world = part && restWorlds(kit).get(part.id)!;
      if (!bounds || !world) return false;
      return near(world[13], bounds.min[1]) && [0, 2].every((axis) => near(world[12 + axis], (bounds.min[axis] + bounds.max[axis]) / 2));
    },
  },
  {
    stage: 'motion',
    line: 'Add a clip, choose the turntable, and type two values of “Turn y” at two times: it slews.',
    at: '[aria-label="Tools of this stage"]',
    isDone: ({ kit }) =>
      Object.values(kit.clips).some(({ tracks }) =>
        tracks.some(
          (track) => track.kind === 'keys' && track.part === turntable(kit)?.id && track.property === 'turn' && track.keys.length > 1,
        ),
      ),
  },
  {
    stage: 'wiring',
    line: 'Choose the turntable and bind it to crane_slew_angle: its table begins as the variable measures. Move the lever to see it slew.',
    at: '[aria-label="Catalogue of variables"], [aria-label="Card"]',
    isDone: ({ kit, findings }) => Object.keys(kit.bindings).length > 0 && !findings.some(({ grade }) => grade === 'stop'),
  },
  {
    stage: 'ship',
    line: 'Nothing stops it any more. Build the package: everything that goes in is listed here.',
    at: '[aria-label="Tools of this stage"]',
    isDone: ({ packages }) => packages > 0,
  },
];

/** The first task that is not done; their number where all are. A task that is done out of turn stays done. */
export function currentTask(standing: Standing): number {
  const open = TASKS.findIndex((task) => !task.isDone(standing));
  return open < 0 ? TASKS.length : open;
}
