import Joi from 'joi';
import {
  asItIs,
  defineOperation,
  idSchema,
  idsSchema,
  KitError,
  linkSchema,
  newId,
  partOf,
  subtreeOf,
  type Id,
  type Kit,
  type Link,
} from '../document';
import { leverKey } from '../formula';
import { isSettled, tablesOf } from './link-gaps';
import { LinkError, solveLink } from './solve-link';

const namesOf = (kit: Kit, parts: readonly Id[]) => parts.map((id) => `“${kit.parts[id]?.name}”`).join(' and ');

const TITLES = {
  meet: (names: string) => `Let ${names} meet`,
  aim: (names: string) => `Let ${names} aim at one another`,
  roll: (names: string) => `Let ${names} roll`,
} as const satisfies Record<Link['kind'], (names: string) => string>;

/** Works a link out and writes its tables. Writes to the draft. */
function writeTables(kit: Kit, link: Link): void {
  const { rows } = solveLink(asItIs(kit), link);
  tablesOf(kit, link).forEach((binding, i) => {
    if (binding) {
      kit.bindings[binding.id].rows = rows[i];
      // What is worked out is worked out for straight lines between its rows.
      delete kit.bindings[binding.id].between;
    } else {
      const id = newId();
      const { variable, index } = link;
      kit.bindings[id] = { id, part: link.parts[i], variable, index, rows: rows[i], outside: 'clamp' };
    }
    kit.parts[link.parts[i]].role ??= 'driven';
  });
}

/** What carries the other one, or rolls on itself, would be worked out of what comes of it. */
function mustStandApart(kit: Kit, { parts, on }: Link): void {
  const others = on === null ? parts : [...parts, on];
  for (const id of parts) {
    const { name } = partOf(kit, id);
    if (id === on) throw new LinkError('link-itself', `“${name}” can’t roll on itself. Choose what it rolls on.`, name);
    const below = subtreeOf(kit, id);
    const carried = others.find((other) => other !== id && below.has(other));
    if (carried !== undefined)
      throw new LinkError(
        'link-carried',
        `“${name}” carries “${kit.parts[carried].name}”: where it turns, that goes along. Choose parts that stand beside one another.`,
        name,
      );
  }
}

/** Two links of one part, or one that something else moves, can’t both be right. */
function mustBeFree(kit: Kit, link: Link): void {
  if (link.kind === 'roll' && link.parts.length !== 1) throw new LinkError('link-count', 'One part rolls at a time. Choose one.', null);
  if (link.kind !== 'roll' && link.parts.length !== 2) throw new LinkError('link-count', 'Two parts are linked. Choose two.', null);
  const key = leverKey(link.variable, link.index);
  for (const id of link.parts) {
    const { name } = partOf(kit, id);
    const other = Object.values(kit.bindings).find((one) => one.part === id && leverKey(one.variable, one.index) !== key);
    if (other)
      throw new LinkError(
        'link-driven',
        `“${name}” follows ${leverKey(other.variable, other.index)} already. Put a carrier above it and bind that, or unbind it, first.`,
        name,
      );
    const linked = kit.links?.find((one) => one.id !== link.id && one.parts.includes(id));
    if (linked) throw new LinkError('link-twice', `“${name}” is linked already. Let go of that link first.`, name);
  }
}

/**
 * Links parts: works out at each value of the variable how they have to turn so that their ends meet, that they aim at one another, or that
 * one rolls by the way it has gone, and writes that as their tables. What tables they had for that variable is replaced.
 *
 * @throws {LinkError} where they can’t be worked out
 */
export const addLink = defineOperation<Omit<Link, 'id'> & { id?: Id }>({
  id: 'wiring.add-link',
  title: (kit, { kind, parts }) => TITLES[kind](namesOf(kit, parts)),
  args: linkSchema.fork(['id'], (id) => id.optional()),
  change(kit, { id = newId(), ...said }) {
    const link: Link = { id, ...said };
    mustBeFree(kit, link);
    mustStandApart(kit, link);
    kit.links = [...(kit.links ?? []).filter((one) => one.id !== id), link];
    writeTables(kit, link);
    return { parts: link.parts, binding: tablesOf(kit, link)[0]!.id };
  },
});

const linkOf = (kit: Kit, id: Id): Link => {
  const link = kit.links?.find((one) => one.id === id);
  if (!link) throw new KitError('link-missing', 'That link is no longer in the kit. Look at the list again.', id);
  return link;
};

/** Works links out anew, as what carries their parts moves now. */
export const renewLinks = defineOperation<{ links: Id[] }>({
  id: 'wiring.renew-links',
  title: (kit, { links }) =>
    `Work out ${links.map((id) => namesOf(kit, kit.links?.find((one) => one.id === id)?.parts ?? [])).join(', ')} again`,
  args: Joi.object({ links: idsSchema.required() }),
  change(kit, { links }) {
    for (const id of links) writeTables(kit, linkOf(kit, id));
  },
});

/** Lets links go. Their tables stay as they are, as ones that a person made. */
export const removeLinks = defineOperation<{ links: Id[] }>({
  id: 'wiring.remove-links',
  title: (kit, { links }) =>
    `Let go of the link of ${links.map((id) => namesOf(kit, kit.links?.find((one) => one.id === id)?.parts ?? [])).join(', ')}`,
  args: Joi.object({ links: Joi.array().items(idSchema).min(1).required() }),
  change(kit, { links }) {
    for (const id of links) linkOf(kit, id);
    const left = kit.links!.filter(({ id }) => !links.includes(id));
    if (left.length > 0) kit.links = left;
    else delete kit.links;
  },
});

/** The tables of a link, whether they are still the same ones. */
const sameTables = (before: Kit, after: Kit, link: Link): boolean => {
  const [a, b] = [tablesOf(before, link), tablesOf(after, link)];
  return a.every((binding, i) => binding?.rows === b[i]?.rows);
};

function settled(kit: Kit, link: Link): boolean {
  try {
    return isSettled(kit, link);
  } catch {
    return false;
  }
}

/** What decides how links turn. */
const LOOKED_AT = ['parts', 'bindings', 'links', 'derived'] as const;

/**
 * Links that were right and are not after a change of what carries them, or of where they meet: they are to be worked out anew. One whose
 * own table was changed by hand is left as it was made.
 */
export function unsettledBy(before: Kit, after: Kit): Id[] {
  if (!after.links || LOOKED_AT.every((section) => before[section] === after[section])) return [];
  return after.links
    .filter((link) => {
      const old = before.links?.find(({ id }) => id === link.id);
      return old && sameTables(before, after, link) && !settled(after, link) && settled(before, old);
    })
    .map(({ id }) => id);
}
