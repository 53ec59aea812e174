import { count, figure } from '../../document';
import { factFault, tilesAcross } from '../../grounds';
import type { Rulebook } from '../../rulebook';
import type { LoadedPackage } from '../../ship';
import { importLog as commonLog } from '../import-log';
import type { LogLine } from '../trial';
import { openPlot } from './plot';

/** What Plotwick says while it takes a thing into the shop: what every stand-in says, its tiles, seats, ways, states and facts. */
export function importLog(loaded: LoadedPackage, rulebook: Rulebook): LogLine[] {
  const plot = openPlot(loaded, rulebook);
  const { kit } = loaded;
  const own: LogLine[] = [];
  const say = (grade: LogLine['grade'], text: string) => own.push({ grade, text });
  const footprint = kit.grounds?.footprint;
  if (footprint) {
    const [across, deep] = tilesAcross(footprint, rulebook.tileMetres * plot.perMetre);
    say('taken', `${across} × ${deep} tiles${footprint.holes.length > 0 ? `, ${footprint.holes.length} of them to be crossed` : ''}`);
  } else say('refused', 'It does not say which tiles it takes: the shop can’t put it down');
  for (const { rule, clip, from, to } of plot.plays)
    if (clip) say('taken', `${rule.title}: “${clip.name}” from ${figure(from, 2)} to ${figure(to, 2)} s`);
    else say(rule.kind === 'rides' ? 'odd' : 'taken', `${rule.title}: it stands as it was built`);
  for (const { name, seats, boards, leaves, toBoard } of plot.rides) {
    say('taken', `“${name}” carries ${count(seats.length, 'seat')}`);
    if (boards.length === 0 || !plot.edges.some((id) => toBoard.far.has(id))) say('refused', `No visitor comes to “${name}” from the edge`);
    if (leaves.length === 0) say('refused', `No visitor gets off “${name}” again`);
    else if (!leaves.some((id) => plot.toEdge.far.has(id))) say('refused', `From “${name}” no way leads back to the edge`);
  }
  if (plot.rides.length === 0) say('odd', 'No seats: visitors look at it and go on');
  const { knots = [], ropes = [] } = kit.walkway ?? {};
  say(
    'taken',
    `Walkway of ${count(knots.length, 'knot')} and ${count(ropes.length, 'rope')}, ${count(kit.colliders?.length ?? 0, 'collider')}`,
  );
  for (const rule of plot.rules.facts) {
    const fault = factFault(rule, kit.grounds?.facts[rule.name]);
    if (fault !== null) say('refused', `${rule.title} ${fault}`);
  }
  for (const { material, factor } of kit.grounds?.glows ?? []) say('taken', `“${material}” shines by night, ${figure(factor)} times`);
  return [...commonLog(loaded, rulebook), ...own];
}
