import brinework from '@itchkit/rulebooks/brinework';
import { checkKit, MemoryBlobs, type Kit } from '@itchkit/core/document';
import { checkRulebook, countGrades, runChecks } from '@itchkit/core/rulebook';
import { packKit, readPackage } from '@itchkit/core/ship';
import { crossingInWords, playDuty, sweepAll, trialFor } from '@itchkit/core/trial';
import { tideLock, tideLockFinished } from '.';
import { owedByRule } from './owed-by-rule';

const rulebook = checkRulebook(brinework);

test('the raw lock owes two of each kind of mistake that wiring knows', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await tideLock(rulebook, blobs));
  const findings = runChecks({ kit, rulebook, blobs });
  expect(owedByRule(findings)).toEqual({
    'known-variable': 2,
    // In radians it stops short of the range. Links that do, too, are told by their own rule.
    'full-table': 1,
    // The right wheel goes with the gantry, the wrong way.
    way: 3,
    'way-unsettled': 2,
    stands: 2,
    'in-range': 2,
    'links-meet': 2,
    'neutral-rest': 2,
    // A gap and an overlap.
    'switched-once': 1,
  });
  const said = findings.map(({ message }) => message).join('\n');
  expect(said).toContain('At 40 to 50 deg none of them is shown. At 70 to 78 deg “lamp_go” and “lamp_wait” are shown over one another.');
  expect(said).toContain('its values look like rad');
  expect(said).toContain('its values look like mm');
});

describe('the finished lock', () => {
  let kit: Kit;
  let loaded: Kit;
  const blobs = new MemoryBlobs();
  const packed = new MemoryBlobs();
  const trial = trialFor(rulebook)!;
  let levers: ReturnType<typeof trial.levers>;
  beforeAll(async () => {
    kit = checkKit(await tideLockFinished(rulebook, blobs));
    const { bytes } = await packKit(kit, rulebook, blobs, []);
    const read = await readPackage(bytes, packed);
    loaded = read.kit;
    levers = trial.levers(read, rulebook);
  });

  test('owes nothing, and its package is taken without a word of complaint', async () => {
    expect(countGrades(runChecks({ kit, rulebook, blobs }))).toEqual({ stop: 0, warn: 0, note: 0 });
    const log = trial.importLog(await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, packed), rulebook);
    expect(log.filter(({ grade }) => grade !== 'taken')).toEqual([]);
  });

  test('has a right side that is the mirror image of the left one, whatever its gates do', () => {
    const swing = (index: number, value: number) => ({
      format: 'itchkit.duty/1' as const,
      name: 'x',
      about: '',
      seconds: 1,
      lines: [{ variable: 'lock_gate_swing', index, points: [{ time: 0, value }] }],
    });
    for (const value of [0, 13, 40, 77.5]) {
      const placed = (index: number) => playDuty(loaded, packed, levers, swing(index, value), 1, rulebook.variables).frames[0].parts;
      const [left, right] = [placed(0), placed(1)];
      for (const word of ['gate', 'strut', 'arm']) {
        const [a, b] = [left[`drv_${word}_left`], right[`drv_${word}_right`]];
        // The mirror image: M · world · M, with M = diag(−1, 1, 1).
        a.forEach((of, i) => expect(b[i]).toBeCloseTo((i % 4 === 0 ? -1 : 1) * (i < 4 ? -1 : 1) * of, 5));
      }
    }
  });

  test('by orders alone: the gate opens at six degrees a second, the wheel is blurred while it is fast', () => {
    const duty = trial.duties.find(({ name }) => name === 'By orders alone')!;
    const { frames, refused } = playDuty(loaded, packed, levers, duty, 10, rulebook.variables);
    expect(refused.map(({ variable }) => variable)).toEqual(['crane_slew_order[0]', 'crane_slew_angle[0]']);
    const angleAt = (time: number) => {
      const m = frames.find((frame) => Math.abs(frame.time - time) < 1e-9)!.parts.drv_gate_left;
      return (Math.acos(Math.min(1, Math.max(-1, (m[0] + m[5] + m[10] - 1) / 2))) * 180) / Math.PI;
    };
    expect(angleAt(6) - angleAt(4)).toBeCloseTo(12, 3);
    expect(angleAt(18)).toBeCloseTo(78, 3);
    const hidden = (time: number) => frames.find((frame) => Math.abs(frame.time - time) < 1e-9)!.hidden;
    expect(hidden(1)).toContain('pump_wheel_blurred');
    expect(hidden(15)).toContain('drv_pump_wheel');
    expect(hidden(15)).not.toContain('pump_wheel_blurred');
  });

  test('what cuts into what is told with its value', () => {
    const swept = levers.filter(({ key }) => ['lock_gate_swing[0]', 'crane_hoist_drop[0]'].includes(key));
    const { crossings, still } = sweepAll(loaded, packed, swept);
    const moved = ['drv_gate_left', 'drv_strut_left', 'drv_arm_left', 'drv_hook'];
    for (const id of still) expect(moved).not.toContain(loaded.parts[id].name);
    // The hook is let down onto the closed gates and the floor; gates, arms and struts pass one another.
    expect(crossings.map((one) => crossingInWords(loaded, one, 'm'))).toEqual([
      '“drv_gate_left” and “drv_hook” run into each other at crane_hoist_drop[0] 0.75 m',
      '“drv_gate_right” and “drv_hook” run into each other at crane_hoist_drop[0] 0.75 m',
      '“base_lock” and “drv_hook” run into each other at crane_hoist_drop[0] 3.1 m',
    ]);
  });
});
