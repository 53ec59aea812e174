import { wayInWords } from '../../geometry';
import type { Check } from '../types';
import { probed } from './probed';

/** Which way a part should go is said by the rulebook; where it is not, a person has to look. */
export const bindingsUnsettled: Check = {
  id: 'bindings.unsettled',
  family: 'variables',
  stage: 'wiring',
  about: 'Parts of which nothing that is measured says which way they should go',
  run(context) {
    const { kit } = context;
    return probed(context)
      .filter(({ verdict, variable }) => verdict === 'open' && variable.direction === undefined && variable.expression === undefined)
      .map(({ binding, part, key, variable, goes }) => ({
        key: binding,
        title: 'Nothing measures its way',
        message: `“${kit.parts[part].name}” follows ${key}. Rising means that ${variable.positive}: look whether it does.`,
        measured: `rising, it goes ${wayInWords(goes) || 'nowhere'}`,
        limit: 'seen by a person',
        parts: [part],
      }));
  },
};
