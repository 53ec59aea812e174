import type { Id } from '../../document';
import { flattenParts, MeasuredVertices, Poser } from '../../geometry';
import { ridden, statePlays, waited, type StatePlay } from '../../grounds';
import { compileClip, sampleClip } from '../../motion';
import { playedClip } from '../played-tracks';
import type { Check, CheckContext, Said } from '../types';
import { figure } from '../wording';
import { needsGrounds } from './grounds-shared';

/** Seconds in which one state goes over into another, where they do not meet. */
const GOES_OVER = 0.5;

/** How far the vertex goes that goes furthest from the one pose to the other, metres. */
function gapBetween(context: CheckContext, a: [StatePlay, number], b: [StatePlay, number]): { metres: number; part: Id | null } {
  const { kit, blobs, rulebook } = context;
  const vertices = context.once('measured vertices', () => new MeasuredVertices(kit, blobs));
  const poser = new Poser(flattenParts(kit));
  const places = ([{ clip }, seconds]: [StatePlay, number]) => {
    poser.reset();
    if (clip) sampleClip(compileClip(playedClip(rulebook, clip), poser.flat, blobs), seconds, poser.pose);
    poser.update();
    const out = new Float64Array(3 * vertices.count);
    vertices.place(poser, out);
    return out;
  };
  const gap = { metres: 0, part: null as Id | null };
  vertices.eachDifference(places(a), places(b), (part, _, metres) => {
    if (metres > gap.metres) Object.assign(gap, { metres, part });
  });
  return gap;
}

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
        gap: gapBetween(context, [waits, waits.from], [rides, rides.from]),
      },
      {
        into: waits,
        key: 'end',
        where: `“${waits.rule.title}” goes on after it`,
        gap: gapBetween(context, [rides, rides.to], [waits, waits.from]),
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
