import { jointsOutside } from '../../rig';
import type { Check } from '../types';
import { count, nameList } from '../wording';

/** Joints that bend a skin stand inside of it. */
export const skinJointsInside: Check = {
  id: 'skin.joints-inside',
  family: 'skin',
  stage: 'rig',
  about: 'Joints that bend a skin stand inside of it',
  run({ kit, blobs }) {
    const found = jointsOutside(kit, blobs);
    if (found.length === 0) return [];
    const worst = Math.max(...found.map(({ offMetres }) => offMetres));
    const joints = found.map(({ joint }) => joint);
    return [
      {
        title: 'Joints outside the body',
        message: `${nameList(joints.map((id) => kit.parts[id].name))} ${found.length === 1 ? 'stands' : 'stand'} outside the skin, up to ${Math.round(worst * 1000)} mm away from it.`,
        measured: `${Math.round(worst * 1000)} mm outside`,
        limit: 'inside',
        parts: joints,
        mend: {
          title: `Pull ${count(found.length, 'joint')} into the body`,
          safe: false,
          call: { operation: 'rig.pull-inside', args: { joints } },
          changes: found.map(
            ({ joint, offMetres }) =>
              `${kit.parts[joint].name}: moved in by ${Math.round(offMetres * 1000)} mm and a little more; the mesh stays`,
          ),
        },
      },
    ];
  },
};
