import { nameList } from '../wording';
import type { Check, Said } from '../types';

/** All joints of a skin hang below one of them. */
export const skinOutside: Check = {
  id: 'skin.joints-outside',
  family: 'skin',
  stage: 'rig',
  about: 'All joints of a skin hang below one of them',
  run({ kit }) {
    return Object.values(kit.skins).flatMap((skin): Said[] => {
      const joints = new Set(skin.joints);
      const tops = skin.joints.filter((id) => {
        const { parent } = kit.parts[id];
        return parent === null || !joints.has(parent);
      });
      if (tops.length <= 1) return [];
      return [
        {
          key: skin.id,
          title: 'Joints outside the skeleton',
          message: `${nameList(tops.slice(1).map((id) => kit.parts[id].name))} ${tops.length === 2 ? 'holds' : 'hold'} the skin, but ${tops.length === 2 ? 'hangs' : 'hang'} below no other joint of it.`,
          measured: `${tops.length} tops`,
          limit: '1 top',
          parts: tops,
          mend: {
            title: `Hang ${nameList(tops.slice(1).map((id) => kit.parts[id].name))} below “${kit.parts[tops[0]].name}”`,
            safe: false,
            call: { operation: 'shape.reparent', args: { parts: tops.slice(1), parent: tops[0], keep: 'world' } },
            changes: tops.slice(1).map((id) => `${kit.parts[id].name}: below ${kit.parts[tops[0]].name}; it stays where it stands at rest`),
          },
        },
      ];
    });
  },
};
