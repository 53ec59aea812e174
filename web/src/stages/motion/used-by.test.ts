import { emptyKit, newPart, type Clip, type Kit } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { rulebookOf } from '../../rulebooks';
import { usedBy } from './used-by';

const clip = (id: string, fields: Partial<Clip> = {}): Clip => ({
  id,
  name: id,
  order: 0,
  lengthSeconds: 1,
  rate: 30,
  loop: 'loop',
  tracks: [],
  ...fields,
});
const emberfold: Rulebook = rulebookOf({ rulebook: 'emberfold', version: '1.0.0' })!;

function kitWith(...clips: Clip[]): Kit {
  const kit = emptyKit('walker');
  kit.parts.a = newPart({ id: 'a', name: 'a' });
  for (const one of clips) kit.clips[one.id] = one;
  return kit;
}

test('a clip says which targets ask for it and what runs along with it', () => {
  const slots = emberfold.motion!.clips!;
  const needed = slots.find((slot) => slot.needed)!;
  const moving = clip('one', { name: needed.name, tracks: [{ kind: 'keys', id: 't', part: 'a', property: 'turn', axis: 0, keys: [] }] });
  const blink = clip('blink', { overlay: { place: 'over', mode: 'add', parts: ['a'] } });
  const kit = kitWith(moving, blink, clip('other'));
  expect(usedBy(kit, moving, [emberfold])).toEqual([`asked for by ${emberfold.title}`, '“blink” runs over it, on parts that it moves']);
  expect(usedBy(kit, kit.clips.other, [emberfold])).toEqual(['“blink” runs over it']);
  expect(usedBy(kit, blink, [])).toEqual(['runs over every other clip']);
  expect(usedBy(kitWith(kit.clips.other), kit.clips.other, [emberfold])).toEqual([]);
});
