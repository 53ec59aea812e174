import Joi from 'joi';
import { defineOperation, derivedSchema, idSchema, KitError, newId, type DerivedVariable, type Id } from '../document';

/** A variable of the kit’s own that does not hold together. */
export class DerivedError extends KitError {
  constructor(message: string, where: string | null = null) {
    super('derived', message, where);
  }
}

const fields = derivedSchema.fork(['id'], (id) => id.optional());

/** Adds a variable of the kit’s own, or changes one. What follows one that is renamed goes on following it. */
export const setDerived = defineOperation<Omit<DerivedVariable, 'id'> & { id?: Id }>({
  id: 'wiring.set-derived',
  title: (kit, { id, name }) => (kit.derived?.some((one) => one.id === id) ? `Change the variable ${name}` : `Add the variable ${name}`),
  args: fields,
  change(kit, { id = newId(), ...said }) {
    const list = kit.derived ?? [];
    if (list.some((one) => one.id !== id && one.name === said.name))
      throw new DerivedError(`There is a variable “${said.name}” of this kit already. Give it another name.`, said.name);
    const before = list.find((one) => one.id === id);
    kit.derived = before ? list.map((one) => (one === before ? { id, ...said } : one)) : [...list, { id, ...said }];
    if (!before || before.name === said.name) return;
    for (const binding of Object.values(kit.bindings)) if (binding.variable === before.name) binding.variable = said.name;
    for (const one of kit.switches ?? []) if (one.variable === before.name) one.variable = said.name;
    const word = new RegExp(`(?<![\\w.])${before.name}(?!\\w)`, 'g');
    for (const one of kit.derived) one.expression = one.expression.replace(word, said.name);
  },
});

/** Takes variables of the kit’s own away. @throws {DerivedError} where something follows one */
export const removeDerived = defineOperation<{ derived: Id[] }>({
  id: 'wiring.remove-derived',
  title: (kit, { derived }) => `Take away ${derived.map((id) => kit.derived?.find((one) => one.id === id)?.name).join(', ')}`,
  args: Joi.object({ derived: Joi.array().items(idSchema).min(1).required() }),
  change(kit, { derived }) {
    const gone = (kit.derived ?? []).filter(({ id }) => derived.includes(id));
    if (gone.length !== derived.length) throw new DerivedError('That variable is no longer in the kit. Look at the list again.');
    const left = kit.derived!.filter(({ id }) => !derived.includes(id));
    for (const { name } of gone) {
      const follower = [...Object.values(kit.bindings), ...(kit.switches ?? [])].find(({ variable }) => variable === name);
      if (follower)
        throw new DerivedError(`“${kit.parts[follower.part].name}” follows ${name}. Bind it to another variable first.`, follower.part);
      const other = left.find(({ expression }) => new RegExp(`(?<![\\w.])${name}(?!\\w)`).test(expression));
      if (other) throw new DerivedError(`${other.name} is worked out of ${name}. Change that first.`, other.name);
    }
    if (left.length > 0) kit.derived = left;
    else delete kit.derived;
  },
});
