import { wayInWords } from '../../geometry';
import { directionInWords, probeStep } from '../../wiring';
import type { Check, Said } from '../types';
import { figure } from '../wording';
import { probed, type Probing } from './probed';

/** What a part does at the probe, in words. */
function seen({ variable, goes, verdict }: Probing): string {
  const step = probeStep(variable);
  const [from, to] = [variable.neutral, variable.neutral + step].map((value) => figure(value));
  const way = wayInWords(step > 0 ? goes : [-goes[0], -goes[1], -goes[2]]);
  const round = variable.direction !== undefined && 'from' in variable.direction;
  const how = round && verdict === 'wrong' ? 'it turns the other way' : `it goes ${way}`;
  return `from ${from} to ${to} ${variable.unit} ${how}`;
}

/** Where a variable rises from neutral, its part goes the way that the rulebook says. */
export const bindingsDirection: Check = {
  id: 'bindings.direction',
  family: 'variables',
  stage: 'wiring',
  about: 'Where a variable rises from neutral, its part goes the way that the rulebook says',
  run(context) {
    const { kit } = context;
    return probed(context).flatMap((one): Said[] => {
      if (one.verdict !== 'wrong' && one.verdict !== 'astray') return [];
      const { variable, key, binding, part } = one;
      const name = kit.parts[part].name;
      return [
        {
          key: binding,
          title: one.verdict === 'wrong' ? 'Moves the wrong way' : 'Moves astray',
          message: `“${name}” follows ${key}: ${seen(one)}. Rising means that ${variable.positive}.`,
          measured: `rising, it goes ${wayInWords(one.goes)}`,
          limit: directionInWords(variable.direction!),
          parts: [part],
          mend:
            one.verdict === 'wrong'
              ? {
                  title: 'Turn its way round',
                  safe: false,
                  call: { operation: 'wiring.negate', args: { bindings: [binding] } },
                  changes: [`${name}: every row of its table the other way about neutral`],
                }
              : undefined,
        },
      ];
    });
  },
};
