import { ridden, statePlays, waited } from '../../grounds';
import type { Check, Said } from '../types';
import { figure } from '../wording';
import { needsGrounds } from './grounds-shared';
import { poseGapBetween } from './pose-gap';

/** Seconds in which one state goes over into another, where they do not meet. */
const GOES_OVER = 0.5;

/** A ride begins as it stood, and ends as it stands afterwards. */
export const groundsJoin: Check = {
  id: 'grounds.join',
  family: 'grounds',
  stage: 'wiring',
  about: 'A ride begins as the thing stood, and ends as it stands afterwards',
  limit: 'millimetres',
  needs: needsGrounds,
  run(context, rule) {
    const { kit } = context;
    const plays = statePlays(kit, context.rulebook.grounds!);
    const [rides, waits] = [ridden(plays), waited(plays)];
    if (!rides?.clip || !waits) return [];
    const joins = [
      {
        into: rides,
        key: 'begin',
        where: `“${rides.rule.title}” begins`,
        gap: poseGapBetween(context, [waits.clip, waits.from], [rides.clip, rides.from]),
      },
      {
        into: waits,
        key: 'end',
        where: `“${waits.rule.title}” goes on after it`,
        gap: poseGapBetween(context, [rides.clip, rides.to], [waits.clip, waits.from]),
      },
    ];
    return joins
      .filter(({ into, gap }) => into.over === 0 && 1000 * gap.metres > rule.limit!)
      .map(({ into, key, where, gap }): Said => {
        const {
          state = into.rule.name,
          clip = null,
          from = 0,
          to = null,
        } = kit.grounds?.states.find((one) => one.state === into.rule.name) ?? {};
        return {
          key,
          title: 'States do not meet',
          message: `Where ${where}, “${kit.parts[gap.part!].name}” jumps by ${figure(1000 * gap.metres, 0)} mm.`,
          measured: `${figure(1000 * gap.metres, 0)} mm`,
          limit: `${figure(rule.limit!, 0)} mm`,
          parts: [gap.part!],
          mend: {
            title: `Go over in ${figure(GOES_OVER)} s`,
            safe: false,
            call: { operation: 'grounds.set-state', args: { state, clip, from, to, over: GOES_OVER } },
            changes: [`it goes over into “${into.rule.title}” in ${figure(GOES_OVER)} s, which the clip is longer by`],
          },
        };
      });
  },
};
