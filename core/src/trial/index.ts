import type { Rulebook } from '../rulebook';
import { DUTIES } from './brinework/duties';
import { importLog as cubbinLog } from './cubbin/import-log';
import { importLog } from './import-log';
import { importLog as emberfoldLog } from './emberfold/import-log';
import { levers } from './levers';
import { importLog as plotwickLog } from './plotwick/import-log';
import type { Trial } from './trial';

export * from './cubbin/figure';
export * from './duties';
export * from './emberfold/body-row';
export * from './emberfold/field-body';
export * from './emberfold/script';
export * from './emberfold/turning-root';
export * from './lever';
export * from './orders';
export * from './play-duty';
export * from './plotwick/park';
export * from './plotwick/plot';
export * from './plotwick/terrain';
export * from './pose-kit';
export * from './record-duty';
export * from './sweep';
export * from './taken-by';
export * from './trial';

/** The stand-ins that there are, by the rulebook's id: a target that is not here has none. */
const TRIALS: Readonly<Record<string, Trial>> = {
  brinework: { importLog, levers, duties: DUTIES },
  cubbin: { importLog: cubbinLog, levers, duties: [], choosesClips: true },
  emberfold: { importLog: emberfoldLog, levers, duties: [], choosesClips: true, needs: 'behaviours' },
  plotwick: { importLog: plotwickLog, levers, duties: [], choosesClips: true, needs: 'grounds' },
};

/** Which platforms have a stand-in. */
export const TRIAL_PLATFORMS = Object.keys(TRIALS);

/** The stand-in of a rulebook's platform, if there is one that can do with this version of it. */
export function trialFor(rulebook: Pick<Rulebook, 'id' | 'grounds' | 'behaviours'>): Trial | undefined {
  const trial = Object.hasOwn(TRIALS, rulebook.id) ? TRIALS[rulebook.id] : undefined;
  return trial?.needs && rulebook[trial.needs] === undefined ? undefined : trial;
}

/** Whether the stand-in of a platform, by the rulebook's id, says itself which clip plays. */
export const choosesOwnClips = (id: string): boolean => Object.hasOwn(TRIALS, id) && TRIALS[id].choosesClips === true;
