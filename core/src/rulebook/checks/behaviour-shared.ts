import { proofsOf, timelessIn, type Claim, type ParameterRule, type Values } from '../../behaviour';
import type { Condition, Id, Layer, Passage } from '../../document';
import type { CheckContext, Mend, Rulebook } from '../types';
import { figure } from '../wording';

/** What the rulebook has to say for a check of behaviours. */
export const needsBehaviours = ({ behaviours }: Rulebook): string | null =>
  behaviours ? null : 'what is played by values that the game passes in (behaviours)';

/** What is proven of the kit's behaviour; nothing where it has none. */
export const claimsOf = (context: CheckContext): Claim[] =>
  context.once('claims', ({ kit, rulebook }) => {
    const { behaviour, mixes } = kit;
    return behaviour ? proofsOf(behaviour, rulebook.behaviours!.parameters, timelessIn(kit), mixes) : [];
  });

/** Those of one kind. */
export const claimsOfKind = <K extends Claim['kind']>(context: CheckContext, kind: K) =>
  claimsOf(context).filter((one): one is Extract<Claim, { kind: K }> => one.kind === kind);

/** A layer of the kit's behaviour, which is there. */
export const layerIn = ({ kit }: CheckContext, id: Id): Layer => kit.behaviour!.layers.find((one) => one.id === id)!;
/** What a state of a layer is called. */
export const stateName = (layer: Layer, id: Id): string => layer.states.find((one) => one.id === id)!.name;
/** A passage of a layer, which is there. */
export const passageIn = (layer: Layer, id: Id): Passage => layer.passages.find((one) => one.id === id)!;

/** A passage in words: from where to where. */
export function wayName(layer: Layer, id: Id): string {
  const { from, to } = passageIn(layer, id);
  return `from ${from === null ? 'anywhere' : `“${stateName(layer, from)}”`} to “${stateName(layer, to)}”`;
}

/** A condition in words. */
export function conditionSaid(one: Condition, rule?: ParameterRule): string {
  const title = rule?.title ?? `“${one.parameter}”`;
  const unit = rule?.kind === 'number' && rule.unit !== '' ? ` ${rule.unit}` : '';
  if (one.kind === 'sent') return `${title} is sent`;
  if (one.kind === 'among') return `${title} is ${one.values.join(' or ')}`;
  const { atLeast, below } = one;
  if (atLeast === null) return `${title} is below ${figure(below!)}${unit}`;
  return below === null
    ? `${title} is ${figure(atLeast)}${unit} or more`
    : `${title} is from ${figure(atLeast)} to below ${figure(below)}${unit}`;
}

/** Values in words: those that some conditions ask about. */
export function valuesSaid(values: Values, asked: readonly Condition[], parameters: readonly ParameterRule[]): string {
  const names = [...new Set(asked.map(({ parameter }) => parameter))];
  if (names.length === 0) return 'whatever is passed in';
  return names
    .map((name) => {
      const rule = parameters.find((one) => one.name === name);
      const value = values[name];
      if (typeof value === 'boolean') return `${rule?.title ?? name} ${value ? 'sent' : 'not sent'}`;
      return `${rule?.title ?? name} ${typeof value === 'number' ? figure(value) : value}`;
    })
    .join(', ');
}

/** The mend that takes a passage away. */
export const takeAway = (layer: Layer, passage: Id): Mend => ({
  title: 'Take it away',
  safe: false,
  call: { operation: 'behaviour.remove-passages', args: { layer: layer.id, passages: [passage] } },
  changes: [`the passage ${wayName(layer, passage)} goes`],
});
