import type { Check, Said } from '../types';
import { count, nameList } from '../wording';
import { claimsOf, needsBehaviours } from './behaviour-shared';

/** What the platform passes in is asked about, and its names are told apart. */
export const behaviourAsked: Check = {
  id: 'behaviour.asked',
  family: 'behaviour',
  stage: 'wiring',
  about: 'What the platform passes in is asked about, and its names are told apart',
  needs: needsBehaviours,
  run(context) {
    const rules = new Map(context.rulebook.behaviours!.parameters.map((rule) => [rule.name, rule]));
    const claims = claimsOf(context);
    // What never changes need not be asked about.
    const changes = ({ parameter }: { parameter: string }) => {
      const rule = rules.get(parameter)!;
      return !('always' in rule) && !('expression' in rule);
    };
    const unread = claims.filter((one) => one.kind === 'unread').filter(changes);
    const titles = unread.map(({ parameter }) => rules.get(parameter)!.title);
    const alike = claims.filter((one) => one.kind === 'alike').filter(changes);
    return [
      ...(titles.length > 0
        ? [
            {
              key: 'unread',
              title: titles.length === 1 ? `Nothing asks about ${titles[0]}` : `Nothing asks about ${count(titles.length, 'value')}`,
              message: `No condition asks about ${nameList(titles)}, which ${context.rulebook.title} passes in.`,
              measured: 'nothing',
              limit: 'some condition',
              parts: [],
            },
          ]
        : []),
      ...alike.map(({ parameter, values }): Said => {
        const { title } = rules.get(parameter)!;
        return {
          key: `alike.${parameter}`,
          title: `${title} is not told apart`,
          message: `${title} is ${values.join(' or ')}: no condition tells these apart.`,
          measured: values.join(', '),
          limit: 'one by one',
          parts: [],
        };
      }),
    ];
  },
};
