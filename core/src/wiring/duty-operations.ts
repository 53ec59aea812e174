import Joi from 'joi';
import { defineOperation, dutySchema, idSchema, KitError, type Id, type OwnDuty } from '../document';

/** A duty that is not there any more, or whose name another one has. */
export class OwnDutyError extends KitError {
  constructor(message: string, where: string) {
    super('own-duty', message, where);
  }
}

/** Adds a duty to try the kit by, or changes one. @throws {OwnDutyError} where another one has its name */
export const setDuty = defineOperation<{ duty: OwnDuty }>({
  id: 'wiring.set-duty',
  title: (kit, { duty }) =>
    kit.duties?.some(({ id }) => id === duty.id) ? `Change the duty “${duty.name}”` : `Add the duty “${duty.name}”`,
  args: Joi.object({ duty: dutySchema.required() }),
  change(kit, { duty }) {
    const list = kit.duties ?? [];
    if (list.some(({ id, name }) => id !== duty.id && name === duty.name))
      throw new OwnDutyError(`There is a duty “${duty.name}” already. Give it another name.`, duty.name);
    const known = list.some(({ id }) => id === duty.id);
    kit.duties = known ? list.map((one) => (one.id === duty.id ? duty : one)) : [...list, duty];
  },
});

/** Takes duties away. */
export const removeDuties = defineOperation<{ duties: Id[] }>({
  id: 'wiring.remove-duties',
  title: (kit, { duties }) => `Take away ${duties.map((id) => `“${kit.duties?.find((one) => one.id === id)?.name}”`).join(', ')}`,
  args: Joi.object({ duties: Joi.array().items(idSchema).min(1).required() }),
  change(kit, { duties }) {
    const gone = duties.find((id) => !kit.duties?.some((one) => one.id === id));
    if (gone !== undefined) throw new OwnDutyError('That duty is no longer in the kit. Look at the list again.', gone);
    const left = kit.duties!.filter(({ id }) => !duties.includes(id));
    if (left.length > 0) kit.duties = left;
    else delete kit.duties;
  },
});
