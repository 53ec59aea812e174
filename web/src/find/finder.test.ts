import { emptyKit, newPart, type Kit } from '@itchkit/core/document';
import { STAGES as STAGE_IDS } from '@itchkit/core/rulebook';
import { allRulebooks } from '../rulebooks';
import type { Session } from '../session/session';
import { createUiStore } from '../session/ui-store';
import { STAGES } from '../stages/list';
import { commandsOf } from '../workspace/command-list';
import { entriesOf } from './entries';
import { Finder } from './finder';

function kitWith(): Kit {
  const kit = emptyKit('Sluice crane');
  for (const name of ['base_quay', 'drv_jib', 'hook_block', 'lamp_left']) kit.parts[name] = newPart({ id: name, name });
  kit.clips.c = { id: 'c', name: 'lift_load', order: 0, lengthSeconds: 1, rate: 30, loop: 'loop', tracks: [] };
  return kit;
}

const kit = kitWith();
const nothing = () => undefined;
const [rulebook] = allRulebooks();
const commands = commandsOf(STAGES[1], {
  session: { kit, shown: kit, id: 'kit' } as unknown as Session,
  ui: createUiStore(STAGES.flatMap(({ slices }) => slices)),
  rulebook,
  run: () => true,
  go: nothing,
  setPanel: nothing,
  dark: false,
  switchScheme: nothing,
});
const entries = entriesOf(kit, {
  commands,
  kits: [{ id: 'other', name: 'Night watch keeper' }],
  rulebooks: allRulebooks(),
  stages: STAGE_IDS,
  doing: { toPlace: nothing, toPart: nothing, toClip: nothing, to: nothing },
});
const finder = new Finder(entries);

/** What a person types, and what has to be among the first three. */
const PHRASES: [string, RegExp][] = [
  ['apply scale', /Apply (the )?scale/],
  ['pivot to bottom', /Pivot.*bottom|ground/i],
  ['origin to bottom', /Pivot/],
  ['triangle count', /triangles/i],
  ['polycount', /triangles|Simplify/i],
  ['flip normals', /inside out|normals/i],
  ['rename many', /name/i],
  ['slow in', /Easing|Curve/i],
  ['fps', /Frame rate/i],
  ['weights smooth', /^Smooth/],
  ['smooth weights', /^Smooth/],
  ['origin', /Pivot/],
  ['unit', /Unit/],
  ['ghost', /Ghost/],
  ['snap', /step|Snap/i],
  ['dark', /night/i],
  ['export', /Export|package/i],
  ['bake', /keys|Apply|rest/i],
  ['build', /Build/],
  ['freeze transforms', /Apply/],
  ['reduce polygons', /Simplify|Reduce/],
  ['decimate', /Simplify|Thin|Reduce/],
  ['lod', /Levels/],
  ['merge vertices', /Weld/],
  ['remove doubles', /Weld/],
  ['weld', /Weld/],
  ['invert faces', /inside out|Flip/i],
  ['mirror', /Mirror/],
  ['symmetry', /Mirror|sides|twin/i],
  ['separate', /Split/],
  ['combine', /Join/],
  ['add bone', /joint|Add one at its end|skeleton/i],
  ['rig of bones', /skeleton/i],
  ['skinning', /weights|skin/i],
  ['brush skin', /Brush/],
  ['skeleton template', /skeleton|Template/i],
  ['walk', /Motions|walk|library/i],
  ['retarget', /Clips from a file/],
  ['mocap', /Clips from a file/],
  ['loop seamless', /loop/i],
  ['cycle', /loop/i],
  ['trim clip', /Trim/],
  ['split clip', /Split/],
  ['crop', /Trim/],
  ['slower', /Stretch|Slower/],
  ['keyframe easing', /Easing/],
  ['expression', /Formula/],
  ['sound', /[Cc]ue|Hear/],
  ['event', /[Cc]ue/],
  ['additive', /overlay|run along/i],
  ['onion skin', /Ghost/],
  ['driver', /Bind|variable/i],
  ['variable', /variable/i],
  ['hinge', /hinge/i],
  ['constraint', /[Cc]oupling/],
  ['physics', /Bod|coupling/i],
  ['collision', /Bod/],
  ['texture', /Picture|picture|texture/],
  ['colour', /material/i],
  ['uv', /UV/],
  ['normal map', /tangents/i],
  ['hide', /Hide/],
  ['delete', /Delete/],
  ['undo', /Undo/],
  ['revisions', /history/i],
  ['fix everything', /Mend/],
  ['auto repair', /Mend/],
  ['errors', /Ledger/],
  ['shortcuts', /keys/i],
  ['home', /shelf/i],
  ['zoom to selection', /Frame/],
  ['front view', /front/],
  ['top', /above|top/],
  ['simulator', /Trial|trial/],
  ['requirements', /rulebook/i],
  ['brinework', /Brinework/],
  ['clamshere', /Clashmere/],
  ['night keeper', /Night watch keeper/],
  ['hook', /hook_block/],
  ['block hook', /hook_block/],
  ['lift load', /lift_load/],
  ['in place', /place/i],
  ['measure', /Measures|size/],
  ['duplicate in a ring', /ring/i],
  ['clean decimals', /Clean|numbers/],
  ['simplfy', /Simplify/],
  ['tangnets', /[Tt]angents/],
  ['wieghts', /[Ww]eights/],
];

test('more than eighty phrases are here', () => expect(PHRASES.length).toBeGreaterThanOrEqual(80));

test.each(PHRASES)('“%s” finds it among the first three', (phrase, wanted) => {
  const first = finder.find(phrase).slice(0, 3);
  expect(first.some(({ title, group }) => wanted.test(title) || wanted.test(group)) ? 'found' : first.map(({ title }) => title)).toBe(
    'found',
  );
});

test('what was found last comes first while nothing is typed, and of what fits as well', () => {
  const [, , third] = finder.find('split');
  expect(finder.find('', [third.id])[0]).toBe(third);
  expect(finder.find('split', [third.id]).slice(0, 2)).toContain(third);
});

test('every entry has a name of its own and says where it is', () => {
  expect(new Set(entries.map(({ id }) => id)).size).toBe(entries.length);
  expect(entries.filter(({ group }) => group === '')).toEqual([]);
});
