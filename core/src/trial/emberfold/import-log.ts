import { playedClips } from '../../behaviour';
import { clipsInOrder, count } from '../../document';
import { withDerived, type Rulebook } from '../../rulebook';
import type { LoadedPackage } from '../../ship';
import { importLog as commonLog } from '../import-log';
import type { LogLine } from '../trial';

/** What Emberfold says while it loads a body: what every stand-in says, and what plays when. */
export function importLog(loaded: LoadedPackage, rulebook: Rulebook): LogLine[] {
  const { kit } = loaded;
  const own: LogLine[] = [];
  const say = (grade: LogLine['grade'], text: string) => own.push({ grade, text });
  const known = new Map(withDerived(rulebook, kit.derived).behaviours!.parameters.map((rule) => [rule.name, rule]));
  if (!kit.behaviour) say('odd', 'Nothing says what plays when: the body stands as it was modelled');
  for (const { name, states, passages } of kit.behaviour?.layers ?? [])
    say('taken', `Layer “${name}”: ${count(states.length, 'state')}, ${count(passages.length, 'passage')}`);
  for (const { name, parameters, pegs } of kit.mixes ?? []) {
    say('taken', `Mix “${name}”: ${count(pegs.length, 'clip')} by ${parameters.join(' and ')}`);
    for (const parameter of parameters)
      if (known.get(parameter)?.kind !== 'number') say('refused', `“${name}” goes by ${parameter}, which is not passed in: it stays at 0`);
  }
  const played = playedClips(kit);
  if (kit.behaviour) for (const clip of clipsInOrder(kit)) if (!played.has(clip.id)) say('odd', `Nothing plays the clip “${clip.name}”`);
  return [...commonLog(loaded, rulebook), ...own];
}
