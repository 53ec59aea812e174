import type { Check, Said } from '../types';
import { claimsOf, needsBehaviours } from './behaviour-shared';

/** What the platform passes in is asked about, and its names are told apart. */
export const behaviourAsked: Check = {
  id: 'behaviour.asked',
  family: 'behaviour',
  stage: 'wiring',
  about: 'What the platform passes in is asked about, and its names are told apart',
  needs: needsBehaviours,
  run(context) {
    const titles = new Map(context.rulebook.behaviours!.parameters.map((rule) => [rule.name, rule]));
    return claimsOf(context).flatMap((one): Said[] => {
      if (one.kind !== 'unread' && one.kind !== 'alike') return [];
      const rule = titles.get(one.parameter)!;
      // What never changes need not be asked about.
      if ('always' in rule && rule.always !== undefined) return [];
      const alike = one.kind === 'alike' ? one.values : null;
      return [
        {
          key: `${one.kind}.${one.parameter}`,
          title: alike ? 'Names that are not told apart' : 'Nothing asks about it',
          message: alike
            ? `${rule.title} is ${alike.join(' or ')}: no condition tells these apart.`
            : `No condition asks about ${rule.title}: ${rule.about}`,
          measured: alike ? alike.join(', ') : 'nothing',
          limit: alike ? 'one by one' : 'some condition',
          parts: [],
        },
      ];
    });
  },
};
