import Joi from 'joi';
import { defineOperation } from './operation';

export const renameKit = defineOperation<{ name: string }>({
  id: 'kit.rename',
  title: (_, { name }) => `Rename the kit to “${name}”`,
  args: Joi.object({ name: Joi.string().trim().min(1).max(200).required() }),
  change(kit, { name }) {
    kit.name = name;
  },
});

/** Puts a rulebook first among the kit's targets. */
export const setTarget = defineOperation<{ rulebook: string; version: string }>({
  id: 'kit.set-target',
  title: (_, { rulebook }) => `Prepare for ${rulebook}`,
  args: Joi.object({ rulebook: Joi.string().max(64).required(), version: Joi.string().max(20).required() }),
  change(kit, target) {
    kit.targets = [target, ...kit.targets.filter((other) => other.rulebook !== target.rulebook)];
  },
});
