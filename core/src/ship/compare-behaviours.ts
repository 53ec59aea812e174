import { MIX_KIND_WORDS, type ParameterRule } from '../behaviour';
import { figure, type Kit } from '../document';
import { conditionSaid, nameList } from '../rulebook';
import { behaviourTable, type BehaviourTable } from './behaviour-table';

/** Something of two behaviours that stand beside one another. */
export interface BehaviourRow {
  /** The layer or the mix in which it stands; null where it is one itself, or of the whole. */
  of: string | null;
  name: string;
  /** As it is here and there, in words; null where it is not. */
  here: string | null;
  there: string | null;
}

type Saying = Omit<BehaviourRow, 'here' | 'there'> & { said: string };
type SaidLayer = BehaviourTable['layers'][number];
type SaidState = SaidLayer['states'][number];
type SaidPassage = SaidLayer['passages'][number];

const playedSaid = ({ clip, mix }: Pick<SaidState, 'clip' | 'mix'>): string => (mix !== undefined ? `the mix ${mix}` : (clip ?? 'nothing'));

function stateSaid(state: SaidState): string {
  const { gaits = [], sends = [], speed, loop, group } = state;
  return [
    `plays ${playedSaid(state)}${loop ? ' over and over' : ' once'}`,
    speed !== 1 && `${figure(speed, 3)} times as fast`,
    ...gaits.map((gait) => `${gait.gait}: ${playedSaid(gait)}`),
    sends.length > 0 && `tells the game ${nameList(sends)}`,
    group !== undefined && `in the group ${group}`,
  ]
    .filter(Boolean)
    .join('; ');
}

function passageSaid({ when, after, over, firm, begins, except = [] }: SaidPassage, rules: ReadonlyMap<string, ParameterRule>): string {
  return [
    when.length > 0 ? when.map((one) => conditionSaid(one, rules.get(one.parameter))).join(', ') : 'always',
    after === 'end' && 'once its clip has ended',
    `over ${figure(over, 3)} s`,
    except.length > 0 && `but not from ${nameList(except)}`,
    firm && 'not to be broken off',
    begins === 'along' && 'as far along as what it leaves',
    typeof begins === 'number' && `from ${figure(100 * begins, 1)} % on`,
  ]
    .filter(Boolean)
    .join('; ');
}

function layerSaid({ how, parts, first, edge = 0, weight }: SaidLayer): string {
  return [
    `${how === 'adds' ? 'on top of' : 'instead of'} those before`,
    parts.length > 0 ? `on ${nameList(parts)}` : 'on all parts',
    `begins in ${first}`,
    edge > 0 && `soft over ${edge}`,
    weight && `by ${weight.parameter} from ${figure(weight.none)} to ${figure(weight.whole)}`,
  ]
    .filter(Boolean)
    .join('; ');
}

/** Of several of one name the second is “… (2)”, and so on. */
function numbered<T>(list: readonly T[], nameOf: (one: T) => string): [name: string, one: T][] {
  const seen = new Map<string, number>();
  return list.map((one) => {
    const name = nameOf(one);
    const n = (seen.get(name) ?? 0) + 1;
    seen.set(name, n);
    return [n > 1 ? `${name} (${n})` : name, one];
  });
}

function sayings(kit: Kit, rules: ReadonlyMap<string, ParameterRule>): Saying[] {
  const { gait, layers, mixes = [] } = behaviourTable(kit);
  return [
    ...(gait === undefined ? [] : [{ of: null, name: 'States play otherwise', said: `by ${rules.get(gait)?.title ?? gait}` }]),
    ...layers.flatMap((layer): Saying[] => [
      { of: null, name: `Layer ${layer.name}`, said: layerSaid(layer) },
      ...layer.states.map((state) => ({ of: layer.name, name: state.name, said: stateSaid(state) })),
      ...numbered(layer.passages, ({ from, to }) => `${from ?? 'anywhere'} → ${to}`).map(([name, passage]) => ({
        of: layer.name,
        name,
        said: passageSaid(passage, rules),
      })),
    ]),
    ...mixes.flatMap((mix): Saying[] => [
      {
        of: null,
        name: `Mix ${mix.name}`,
        said: `${MIX_KIND_WORDS[mix.kind]}: ${mix.parameters.map((one) => rules.get(one)?.title ?? one).join(' and ')}`,
      },
      ...numbered(mix.clips, ({ clip }) => clip ?? 'rest').map(([name, { at, speed }]) => ({
        of: mix.name,
        name,
        said: `at ${at.map((value) => figure(value, 2)).join(' and ')}${speed === 1 ? '' : `, ${figure(speed, 3)} times as fast`}`,
      })),
    ]),
  ];
}

/**
 * Two kits' behaviours beside one another, matched by names: layers, states, passages by where they lead from and to, mixes with their
 * clips.
 * What is in both in the same words is counted alone.
 */
export function compareBehaviours(here: Kit, there: Kit, parameters: readonly ParameterRule[]): { differ: BehaviourRow[]; alike: number } {
  const rules = new Map(parameters.map((rule) => [rule.name, rule]));
  const rows = new Map<string, BehaviourRow>();
  for (const [side, kit] of [
    ['here', here],
    ['there', there],
  ] as const)
    for (const { of, name, said } of sayings(kit, rules)) {
      const key = JSON.stringify([of, name]);
      const row = rows.get(key) ?? { of, name, here: null, there: null };
      rows.set(key, { ...row, [side]: said });
    }
  const all = [...rows.values()];
  const differ = all.filter((row) => row.here !== row.there);
  return { differ, alike: all.length - differ.length };
}
