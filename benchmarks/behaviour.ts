import { holdsOf, leadsFrom, proofsOf, type ParameterRule, type Values } from '@itchkit/core/behaviour';
import type { Condition, Layer, Passage } from '@itchkit/core/document';
import { milliseconds, paired, rowOf, type Benchmark } from './row';

const NAMES = Array.from({ length: 6 }, (_, i) => `name ${i}`);
const PARAMETERS: ParameterRule[] = [
  ...['ahead', 'side', 'lift'].map((name): ParameterRule => ({ name, title: name, about: '', kind: 'number', unit: '', min: 0, max: 10 })),
  { name: 'gait', title: 'gait', about: '', kind: 'names', values: NAMES },
  { name: 'down', title: 'down', about: '', kind: 'yes-no' },
  { name: 'jolt', title: 'jolt', about: '', kind: 'signal' },
];
const [STATES, PASSAGES, THRESHOLDS] = [60, 400, [1, 2, 3, 5, 8]];

/** The same numbers at every run. */
function* chance(): Generator<number, never> {
  let seed = 20261130;
  for (;;) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    yield seed / 2 ** 32;
  }
}

function machine(): Layer {
  const next = chance();
  const among = <T>(all: readonly T[]): T => all[Math.floor(next.next().value * all.length)];
  const condition = (): Condition =>
    among([
      (): Condition => ({ kind: 'range', parameter: among(['ahead', 'side', 'lift']), atLeast: among(THRESHOLDS), below: null }),
      (): Condition => ({ kind: 'range', parameter: among(['ahead', 'side', 'lift']), atLeast: null, below: among(THRESHOLDS) }),
      (): Condition => ({ kind: 'among', parameter: 'gait', values: [among(NAMES)] }),
      (): Condition => ({ kind: 'among', parameter: 'down', values: [among(['yes', 'no'])] }),
      (): Condition => ({ kind: 'sent', parameter: 'jolt' }),
    ])();
  const states = Array.from({ length: STATES }, (_, i) => ({ id: `s${i}`, name: `s${i}`, clip: 'clip', speed: 1, loop: true }));
  const passages = Array.from({ length: PASSAGES }, (_, i): Passage => {
    const from = i < 10 ? null : among(states).id;
    const to = among(states.filter(({ id }) => id !== from)).id;
    return { id: `p${i}`, from, except: [], to, when: [condition(), condition()], after: 'any', over: 0.2 };
  });
  return { id: 'layer', name: 'Layer', parts: [], how: 'replaces', first: 's0', states, passages };
}

/** Values of all parameters such that each class of any of them is there with each of the others. */
function everything(): Values[] {
  const numbers = [0, ...THRESHOLDS];
  const samples = { ahead: numbers, side: numbers, lift: numbers, gait: NAMES, down: ['no', 'yes'], jolt: [false, true] };
  return Object.entries(samples).reduce<Values[]>(
    (all, [name, values]) => all.flatMap((one) => values.map((value) => ({ ...one, [name]: value }))),
    [{}],
  );
}

/** What is reached, what is taken and what is open at once, by trying all values in each state. */
function tried({ first, passages }: Layer, all: readonly Values[]): number {
  const reached = new Set([first]);
  const taken = new Set<string>();
  const pairs = new Set<string>();
  for (const state of reached) {
    const own = passages.filter((one) => leadsFrom(one, state));
    for (const values of all) {
      const [found, ...others] = own.filter(({ when }) => when.every((one) => holdsOf(one, values[one.parameter])));
      if (!found) continue;
      for (const other of others) if (other.to !== found.to) pairs.add(`${found.id} ${other.id}`);
      taken.add(found.id);
      reached.add(found.to);
    }
  }
  return reached.size + taken.size + pairs.size;
}

export const behaviourProofs: Benchmark = {
  row: 'behaviour-proofs',
  title: `proofs of ${STATES} states and ${PASSAGES} passages, against trying all values in every state (half its time)`,
  async run() {
    const layer = machine();
    const all = everything();
    let kept = 0;
    const [ours, peer] = await paired(
      7,
      () => milliseconds(async () => void (kept += proofsOf({ layers: [layer] }, PARAMETERS, () => false).length)),
      () => milliseconds(async () => void (kept += tried(layer, all))),
    );
    if (kept === 0) throw new Error('nothing was proven');
    return rowOf('behaviour-proofs', 'ms', ours, peer, 0.5);
  },
};
