import type { FieldChange, PathStep } from './field-changes';
import type { Kit } from './kit';
import { SECTIONS } from './sections';
import { figure } from './wording';

const WORDS: Readonly<Record<string, string>> = {
  translation: 'position',
  lengthSeconds: 'length (seconds)',
  motionRoles: 'what joints are for',
  asides: 'what was set aside',
  callouts: 'measures',
};
const COMPONENTS = ['x', 'y', 'z', 'w'];

/** `slopeIn` → `slope in`. */
const spaced = (name: string): string => WORDS[name] ?? name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** A record's kind from the name of its table: `meshes` → `mesh`, `bodies` → `body`. */
function oneOf(table: string): string {
  if (table.endsWith('ies')) return `${spaced(table.slice(0, -3))}y`;
  return spaced(table).replace(/(sh|x)es$|s$/, '$1');
}

function nameIn(list: unknown, id: string): string | null {
  const one = Array.isArray(list)
    ? (list as { id?: string; name?: string }[]).find((record) => record.id === id)
    : (list as Record<string, { name?: string }> | undefined)?.[id];
  return one?.name ? `“${one.name}”` : null;
}

/** A field for people: `part “jib”, position x`. Names are those of the first of the kits that has them. */
export function fieldWords({ path }: FieldChange, ...kits: readonly Kit[]): string {
  const [section, id, ...rest] = path;
  const table = SECTIONS[section as keyof typeof SECTIONS] as { kind: string } | undefined;
  const key = typeof id === 'object' && 'id' in id ? id.id : id;
  if (key === undefined || (table?.kind !== 'table' && typeof key !== 'string')) return spaced(String(section));
  if (table?.kind !== 'table' && typeof id === 'string') return [spaced(String(section)), ...path.slice(1).map(stepWords)].join(', ');
  const name = kits.map((kit) => nameIn(kit[section as keyof Kit], String(key))).find((found) => found !== null);
  return [[oneOf(String(section)), name].filter(Boolean).join(' '), ...rest.map(stepWords)].join(', ').replace(/, ([xyzw])$/, ' $1');
}

function stepWords(step: PathStep): string {
  if (typeof step === 'number') return COMPONENTS[step] ?? String(step + 1);
  if (typeof step === 'string') return spaced(step);
  if ('time' in step) return `at ${figure(step.time)} s`;
  return 'value' in step ? `at ${figure(step.value)}` : 'one of them';
}

/** A field's value for people, in at most about 60 characters; `gone` where it is not there. */
export function valueWords(value: unknown): string {
  if (value === undefined) return 'gone';
  if (value === null) return 'none';
  if (typeof value === 'number') return figure(value, 6);
  if (typeof value === 'string') return value === '' ? '(empty)' : `“${value.length > 50 ? `${value.slice(0, 50)}…` : value}”`;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value))
    return value.every((one) => typeof one === 'number') && value.length <= 4
      ? value.map((one) => figure(one)).join(', ')
      : `${value.length} entries`;
  const { name } = value as { name?: unknown };
  return typeof name === 'string' && name !== '' ? `“${name}”` : 'changed';
}
