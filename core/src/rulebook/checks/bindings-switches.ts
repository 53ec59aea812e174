import type { Kit, Span, Switch } from '../../document';
import { leverKey } from '../../formula';
import { closeCover, coverFaults, isShown, switchGroups, type CoverFault } from '../../wiring';
import type { Check, Mend, Said, Variable } from '../types';
import { count, figure, nameList } from '../wording';

/** A span in words: values from one on, below another. */
function spanInWords({ from, to }: Span, unit: string): string {
  if (from === null && to === null) return 'always';
  if (from === null) return `below ${figure(to!)} ${unit}`;
  return to === null ? `from ${figure(from)} ${unit} on` : `from ${figure(from)} to below ${figure(to)} ${unit}`;
}

const spansInWords = (spans: readonly Span[], unit: string) =>
  spans.length === 0 ? 'never' : spans.map((span) => spanInWords(span, unit)).join(', ');

function stretchInWords({ from, to }: CoverFault, unit: string): string {
  return from === to ? `${figure(from)} ${unit}` : `${figure(from)} to ${figure(to)} ${unit}`;
}

function coverSaid(kit: Kit, group: readonly Switch[], variable: Variable): Said[] {
  const faults = coverFaults(group, variable.min, variable.max);
  if (faults.length === 0) return [];
  const key = leverKey(variable.name, group[0].index);
  const name = ({ part }: Switch) => kit.parts[part].name;
  const [gap, over] = [faults.filter(({ shown }) => shown.length === 0), faults.filter(({ shown }) => shown.length > 1)];
  const closed = closeCover(group, variable.min, variable.max);
  const mend: Mend = {
    title: 'Close the gaps',
    safe: false,
    call: { operation: 'wiring.set-spans', args: { switches: Object.fromEntries(group.map(({ id }, i) => [id, closed[i]])) } },
    changes: group.flatMap((one, i) => {
      const [before, after] = [spansInWords(one.spans, variable.unit), spansInWords(closed[i], variable.unit)];
      return before === after ? [] : [`${name(one)}: ${before} → ${after}`];
    }),
  };
  const said = [
    ...(gap.length > 0 ? [`At ${gap.map((one) => stretchInWords(one, variable.unit)).join(', ')} none of them is shown.`] : []),
    ...over.map(
      (one) => `At ${stretchInWords(one, variable.unit)} ${nameList(one.shown.map((i) => name(group[i])))} are shown over one another.`,
    ),
  ];
  return [
    {
      key: `cover ${group[0].id}`,
      title: 'Switched parts leave gaps or overlap',
      message: `${nameList(group.map(name))} stand for one another over ${key}, which goes from ${figure(variable.min)} to ${figure(variable.max)} ${variable.unit}. ${said.join(' ')}`,
      measured: [...(gap.length > 0 ? [count(gap.length, 'gap')] : []), ...(over.length > 0 ? [count(over.length, 'overlap')] : [])].join(
        ', ',
      ),
      limit: 'each value once',
      parts: group.map(({ part }) => part),
      mend,
    },
  ];
}

/** Why a switch by itself shows its part never, always, or at values that are never passed in. */
function oneSaid(kit: Kit, one: Switch, variable: Variable | undefined): Said[] {
  const part = kit.parts[one.part];
  const remove: Mend = {
    title: `Show “${part.name}” always`,
    safe: false,
    call: { operation: 'wiring.remove-switches', args: { switches: [one.id] } },
    changes: [`${part.name} is shown at every value`],
  };
  const said = (title: string, message: string, measured: string, limit: string): Said[] => [
    { key: one.id, title, message, measured, limit, parts: [one.part], mend: remove },
  ];
  const key = leverKey(one.variable, one.index);
  if (!variable)
    return said(
      'Switched by nothing',
      `“${part.name}” is switched by ${key}, which this platform does not pass in.`,
      key,
      'a variable of the catalogue',
    );
  const fits = variable.indices === 0 ? one.index === null : one.index !== null && one.index < variable.indices;
  if (!fits)
    return said(
      'Switched by an index that is not there',
      `“${part.name}” is switched by ${key}.`,
      key,
      variable.indices === 0 ? 'no index' : `0 to ${variable.indices - 1}`,
    );
  const pieces = coverFaults([one, { spans: [] }], variable.min, variable.max);
  const hidden = pieces.length === 1 && pieces[0].from === variable.min && pieces[0].to === variable.max && !isShown(one, variable.min);
  return hidden
    ? said(
        'Never shown',
        `“${part.name}” is shown at no value that ${key} ever has.`,
        spansInWords(one.spans, variable.unit),
        `within ${figure(variable.min)} to ${figure(variable.max)} ${variable.unit}`,
      )
    : [];
}

/** Parts that stand for one another are shown once at every value of their variable, and each switch is one that the platform can work. */
export const bindingsSwitches: Check = {
  id: 'bindings.switches',
  family: 'variables',
  stage: 'wiring',
  about: 'Parts that stand for one another are shown once at each value of their variable, and no switched part is never shown',
  run({ kit, rulebook }) {
    const variableOf = ({ variable }: Switch) => rulebook.variables.find(({ name }) => name === variable);
    return [
      ...switchGroups(kit).flatMap((group): Said[] => {
        const variable = variableOf(group[0]);
        return variable ? coverSaid(kit, group, variable) : [];
      }),
      ...(kit.switches ?? []).flatMap((one) => oneSaid(kit, one, variableOf(one))),
    ];
  },
};
