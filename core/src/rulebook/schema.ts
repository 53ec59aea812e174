import { KitError } from '../document';
import { CHECKS } from './checks';
import { rulebookSchema } from './fields';
import { namePattern, PatternError } from './name-pattern';
import type { Rulebook } from './types';

/** A rulebook that does not fit the format: what, and the path of where. */
export class RulebookError extends KitError {
  constructor(
    readonly detail: string,
    where: string,
  ) {
    super('rulebook', `This rulebook can't be used: ${detail}. Mend it there and read it again.`, where);
  }
}

/** @throws {RulebookError} naming the first field that does not fit */
export function checkRulebook(value: unknown): Rulebook {
  const { error } = rulebookSchema.validate(value, { convert: false });
  if (error) throw new RulebookError(error.message, error.details[0].path.join('.'));
  const rulebook = value as Rulebook;
  checkPatterns(rulebook);
  checkReferences(rulebook);
  return rulebook;
}

function checkPatterns(rulebook: Rulebook): void {
  for (const [i, { pattern, examples }] of rulebook.naming.patterns.entries()) {
    try {
      const made = namePattern(pattern);
      const missed = examples.findIndex((example) => !made.test(example));
      if (missed >= 0)
        throw new RulebookError(
          `the example “${examples[missed]}” does not fit the pattern ${pattern}`,
          `naming.patterns.${i}.examples.${missed}`,
        );
    } catch (error) {
      if (error instanceof PatternError)
        throw new RulebookError(`the pattern ${pattern} is refused: ${error.message} (place ${error.at})`, `naming.patterns.${i}.pattern`);
      throw error;
    }
  }
}

function checkReferences(rulebook: Rulebook): void {
  const names = new Set(rulebook.variables.map((one) => one.name));
  const unknown = rulebook.hierarchy?.drivenOrder?.findIndex((name) => !names.has(name)) ?? -1;
  if (unknown >= 0)
    throw new RulebookError(
      `the variable “${rulebook.hierarchy!.drivenOrder![unknown]}” is not in the catalogue`,
      `hierarchy.drivenOrder.${unknown}`,
    );
  for (const [i, { name, position, moves }] of rulebook.variables.entries()) {
    if (moves && position === undefined)
      throw new RulebookError(`“${name}” moves something, and does not say what (position)`, `variables.${i}.moves`);
    if (position !== undefined && (position === name || !names.has(position)))
      throw new RulebookError(
        `“${name}” names “${position}” as where it stands, which is no other variable of the catalogue`,
        `variables.${i}.position`,
      );
  }
  const joints = new Set(rulebook.skeleton?.map((joint) => joint.name));
  for (const [i, { name, parent }] of (rulebook.skeleton ?? []).entries()) {
    if (parent !== null && !joints.has(parent))
      throw new RulebookError(`the joint “${name}” hangs below “${parent}”, which is not in the skeleton`, `skeleton.${i}.parent`);
  }
  for (const [i, { path, holds }] of rulebook.packaging.entries()) {
    const hole = holds === 'clip' || holds === 'texture' || holds === 'level' ? `{${holds}}` : null;
    if (hole !== null && !path.includes(hole))
      throw new RulebookError(`“${path}” has to say ${hole}: there is a file for each`, `packaging.${i}.path`);
    const bad = path.replace(/\{(kit|clip|texture|level)\}/g, 'x').match(/[{}\\:*?"<>|]|^\/|(^|\/)\.\.?(\/|$)|\/\/|\/$/);
    if (bad) throw new RulebookError(`“${path}” is no path within a package`, `packaging.${i}.path`);
  }
  for (const [i, rule] of rulebook.rules.entries()) {
    const check = CHECKS.get(rule.check);
    if (!check)
      throw new RulebookError(`the rule “${rule.id}” asks for the check “${rule.check}”, which does not exist`, `rules.${i}.check`);
    if (check.limit && rule.limit === undefined)
      throw new RulebookError(`the rule “${rule.id}” needs a limit (${check.limit})`, `rules.${i}.limit`);
    const missing = check.needs?.(rulebook) ?? null;
    if (missing !== null) throw new RulebookError(`the rule “${rule.id}” needs ${missing} in the rulebook`, `rules.${i}.check`);
  }
}
