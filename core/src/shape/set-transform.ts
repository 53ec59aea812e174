import Joi from 'joi';
import { defineOperation, idSchema, partOf, quatSchema, vec3Schema, type Id, type Quat, type Vec3 } from '../document';
import { normalizeQuat } from '../geometry';

/** Places a part anew at rest, in its parent's axes; children go along. */
export const setTransform = defineOperation<{ part: Id; translation?: Vec3; rotation?: Quat; scale?: Vec3 }>({
  id: 'shape.set-transform',
  title: (kit, { part, translation, rotation, scale }) => {
    const verbs = [translation && 'Move', rotation && 'Turn', scale && 'Scale'].filter(Boolean);
    return `${verbs.length === 1 ? verbs[0] : 'Place'} “${kit.parts[part]?.name}”`;
  },
  args: Joi.object({ part: idSchema.required(), translation: vec3Schema, rotation: quatSchema, scale: vec3Schema }),
  change(kit, { part: id, translation, rotation, scale }) {
    const part = partOf(kit, id);
    if (translation) part.translation = translation;
    if (rotation) part.rotation = normalizeQuat(rotation);
    if (scale) part.scale = scale;
  },
});
