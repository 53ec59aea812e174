import { emptyKit } from '@itchkit/core/document';
import type { Finding } from '@itchkit/core/rulebook';
import { allRulebooks } from '../rulebooks';
import { nextStep } from './next-step';

const [brinework, plotwick] = allRulebooks();
const finding = (fields: Partial<Finding>): Finding =>
  ({ id: 'a', title: 'Odd', stage: 'shape', grade: 'stop', aside: null, mend: null, message: 'It is odd.', ...fields }) as Finding;
const mend = (safe: boolean) => ({ title: 'Mend', safe, call: { operation: '', args: {} } });
const kit = () => ({ ...emptyKit('Kit'), targets: [{ rulebook: 'brinework', version: '1.1.0' }] });

test('it names the one thing to do now', () => {
  expect(nextStep(emptyKit('Kit'), undefined, [])).toMatch(/wherever it goes. Choose a target/);
  expect(nextStep(kit(), undefined, [])).toMatch(/“brinework” 1.1.0 is not here/);
  expect(nextStep(kit(), brinework, [finding({ mend: mend(true) }), finding({ id: 'b', mend: mend(true) })])).toMatch(
    /mend the 2 findings/,
  );
  expect(nextStep(kit(), brinework, [finding({ grade: 'warn', title: 'Mild' }), finding({ mend: mend(false) })])).toBe(
    'Next: “Odd” in Shape. Its mend shows first what will change.',
  );
  expect(nextStep(kit(), brinework, [finding({ stage: 'rig' })])).toBe('Next: “Odd” in Rig. It is odd. Only you can decide that.');
  expect(nextStep(kit(), brinework, [finding({ grade: 'warn', aside: 'So it is.' })])).toMatch(/^Nothing is owed.*Wiring/);
  expect(nextStep(kit(), plotwick, [])).not.toMatch(/Wiring|Trial/);
});
