import { restOf } from '../../behaviour';
import { playsOf } from '../../document';
import { derivedReaders } from '../../formula';
import type { Check, CheckContext, Said } from '../types';
import { claimsOfKind, layerIn, needsBehaviours, takeAway, wayName } from './behaviour-shared';

/** Conditions ask about what the platform passes in. */
export const behaviourKnown: Check = {
  id: 'behaviour.known',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Conditions ask about what the platform passes in, and for values that it has',
  needs: needsBehaviours,
  run(context) {
    const asked = claimsOfKind(context, 'unknown').map(({ layer: id, passage, parameter, value }): Said => {
      const layer = layerIn(context, id);
      const rule = context.rulebook.behaviours!.parameters.find(({ name }) => name === parameter);
      const what = value === null ? `“${parameter}”` : `“${value}” of ${rule!.title}`;
      return {
        key: `${passage}.${parameter}.${value ?? ''}`,
        title: 'It is never passed in',
        message: `The passage ${wayName(layer, passage)} asks for ${what}, which ${context.rulebook.title} does not ${value === null && rule ? 'have of that kind' : 'pass in'}.`,
        measured: what,
        limit: rule && value !== null && rule.kind === 'names' ? rule.values.join(', ') : 'what is passed in',
        parts: [],
        things: [passage],
        mend: takeAway(layer, passage),
      };
    });
    return [...asked, ...otherReads(context), ...unreadable(context)];
  },
};

/** What mixes, layers and gaits go by, where it is not passed in or of another kind. */
function otherReads({ kit, rulebook }: CheckContext): Said[] {
  const { behaviour, mixes = [] } = kit;
  if (!behaviour) return [];
  const played = new Set(behaviour.layers.flatMap(({ states }) => states.flatMap(playsOf)).map(({ mix }) => mix));
  const reads = [
    ...mixes
      .filter(({ id }) => played.has(id))
      .flatMap(({ name, parameters }) => parameters.map((one) => read(`The mix “${name}”`, one, 'number'))),
    ...behaviour.layers.flatMap(({ name, weight }) => (weight ? [read(`The layer “${name}”`, weight.parameter, 'number')] : [])),
    ...(behaviour.gait === undefined ? [] : [read('What states play otherwise', behaviour.gait, 'names')]),
  ];
  return reads.flatMap(({ what, parameter, kind }): Said[] => {
    const rule = rulebook.behaviours!.parameters.find(({ name }) => name === parameter);
    if (rule?.kind === kind) return [];
    const wanted = kind === 'number' ? 'number' : 'choice of names';
    return [
      {
        key: `${what}.${parameter}`,
        title: 'It is never passed in',
        message: `${what} goes by “${parameter}”, which ${rule ? `is no ${wanted}` : `${rulebook.title} does not pass in`}.`,
        measured: parameter,
        limit: `a ${wanted} that is passed in`,
        parts: [],
      },
    ];
  });
}

/** Numbers of the kit's own that something goes by, and that can't be worked out of what is passed in. */
function unreadable({ kit, rulebook }: CheckContext): Said[] {
  const { behaviour, mixes = [], derived = [] } = kit;
  if (!behaviour || derived.length === 0) return [];
  const platform = rulebook.behaviours!.parameters.filter((rule) => rule.kind !== 'number' || rule.expression === undefined);
  const readers = derivedReaders(derived, restOf(platform));
  const used = new Set([
    ...mixes.flatMap(({ parameters }) => parameters),
    ...behaviour.layers.flatMap(({ weight, passages }) => [
      ...(weight ? [weight.parameter] : []),
      ...passages.flatMap(({ when }) => when.map(({ parameter }) => parameter)),
    ]),
  ]);
  return derived.flatMap(({ name, expression }): Said[] =>
    readers.has(name) || !used.has(name)
      ? []
      : [
          {
            key: `own.${name}`,
            title: 'It can’t be worked out',
            message: `“${name}” of this kit is ${expression}, which can’t be worked out of the numbers that ${rulebook.title} passes in.`,
            measured: name,
            limit: 'numbers that are passed in',
            parts: [],
          },
        ],
  );
}

const read = (what: string, parameter: string, kind: 'number' | 'names') => ({ what, parameter, kind });
