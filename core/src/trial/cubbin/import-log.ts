import { figure } from '../../document';
import type { Rulebook } from '../../rulebook';
import type { LoadedPackage } from '../../ship';
import { importLog as commonLog } from '../import-log';
import type { LogLine } from '../trial';
import { halfTurns } from '../../wiring';
import { clipsToAsk, figureFacts } from './figure';

/** What Cubbin says while it loads a figure: what every stand-in says, which clip plays when, and what turns as it looks about. */
export function importLog(loaded: LoadedPackage, rulebook: Rulebook): LogLine[] {
  const { clips, turn, nod } = figureFacts(loaded, rulebook);
  const own: LogLine[] = [];
  const say = (grade: LogLine['grade'], text: string) => own.push({ grade, text });
  if (!clips.stands) say('odd', 'No clip “stand”: the figure stands as it was modelled');
  else if (clips.walks === clips.stands) say('odd', 'No clip “walk”: the figure glides');
  const looks = (range: readonly [number, number] | null, how: string, other: string) =>
    range ? say('taken', `It looks ${how} from ${figure(range[0])}° to ${figure(range[1])}°`) : say('odd', other);
  looks(turn, 'aside', 'Nothing follows look_turn: the whole body turns to what it looks at');
  looks(nod, 'up', 'Nothing follows look_nod: it looks neither up nor down');
  // As it is written; what is played goes the short way already.
  for (const { node, variable, rows } of loaded.manifest.bindings)
    if (halfTurns({ rows }).length > 0)
      say('odd', `“${loaded.manifest.parts[node].name}” turns by half a turn or more between two values of ${variable}: it goes the short way`);
  const along = Object.values(loaded.kit.clips).filter((clip) => !clipsToAsk(loaded.kit).includes(clip));
  for (const { name } of along) say('taken', `“${name}” runs along with all that plays`);
  return [...commonLog(loaded, rulebook), ...own];
}
