import Joi from 'joi';
import { defineOperation } from './operation';
import { nameOfKitSchema, rulebookIdSchema } from './schemas';
import type { Aside } from './sections/asides';
import type { Target } from './sections/head';

/** Gives the kit another name, 1 to 200 characters. */
export const renameKit = defineOperation<{ name: string }>({
  id: 'kit.rename',
  title: (_, { name }) => `Rename the kit to “${name}”`,
  args: Joi.object({ name: nameOfKitSchema.trim().required() }),
  change(kit, { name }) {
    kit.name = name;
  },
});

/** Puts a rulebook first among the kit's targets. */
export const setTarget = defineOperation<Target>({
  id: 'kit.set-target',
  title: (_, { rulebook }) => `Prepare for ${rulebook}`,
  args: Joi.object({ rulebook: rulebookIdSchema.required(), version: Joi.string().max(20).required() }),
  change(kit, target) {
    kit.targets = [target, ...kit.targets.filter((other) => other.rulebook !== target.rulebook)];
  },
});

/** Takes a rulebook off the kit's targets. */
export const dropTarget = defineOperation<{ rulebook: string }>({
  id: 'kit.drop-target',
  title: (_, { rulebook }) => `No longer prepare for ${rulebook}`,
  args: Joi.object({ rulebook: rulebookIdSchema.required() }),
  change(kit, { rulebook }) {
    kit.targets = kit.targets.filter((other) => other.rulebook !== rulebook);
  },
});

const asideOf = { rulebook: rulebookIdSchema.required(), finding: Joi.string().max(400).required() };

/** Sets a finding aside for a target, with a reason that goes into the package's report. A stop stays one all the same. */
export const setAside = defineOperation<Aside>({
  id: 'kit.set-aside',
  title: (_, { rulebook }) => `Set a finding of ${rulebook} aside`,
  args: Joi.object({ ...asideOf, reason: Joi.string().trim().min(1).max(1000).required() }),
  change(kit, aside) {
    kit.asides = [...(kit.asides ?? []).filter((other) => other.rulebook !== aside.rulebook || other.finding !== aside.finding), aside];
  },
});

/** Takes up again what was set aside. */
export const takeUp = defineOperation<Omit<Aside, 'reason'>>({
  id: 'kit.take-up',
  title: (_, { rulebook }) => `Take up a finding of ${rulebook} again`,
  args: Joi.object(asideOf),
  change(kit, { rulebook, finding }) {
    kit.asides = (kit.asides ?? []).filter((other) => other.rulebook !== rulebook || other.finding !== finding);
  },
});
