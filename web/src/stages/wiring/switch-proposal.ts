import { callOf, newId, type Axis, type Call, type Id, type Kit, type Span } from '@itchkit/core/document';
import type { Rulebook, Variable } from '@itchkit/core/rulebook';
import { makeBlur, setSwitch } from '@itchkit/core/wiring';

/** Even spans over a range, one a part: the first begins below it, the last goes on above. */
export function evenSpans({ min, max }: Pick<Variable, 'min' | 'max'>, parts: number): Span[] {
  const edge = (i: number) => Number((min + ((max - min) * i) / parts).toPrecision(6));
  return Array.from({ length: parts }, (_, i) => ({ from: i === 0 ? null : edge(i), to: i === parts - 1 ? null : edge(i + 1) }));
}

/**
 * What switches parts by a variable: one is shown in the upper half of its range; several stand for one another, each in its share of it,
 * in the order in which they were chosen.
 */
export function proposedSwitches(kit: Kit, parts: readonly Id[], variable: Variable, index: number | null): Call[] {
  const spans = parts.length === 1 ? [evenSpans(variable, 2)[1]] : evenSpans(variable, parts.length);
  const among = parts.length === 1 ? '' : kit.parts[parts[0]].name;
  return parts.map((part, i) => callOf(setSwitch, { id: newId(), part, variable: variable.name, index, spans: [spans[i]], among }));
}

/** What a blurred stand-in of a part is made by. */
export interface Blur {
  axis: Axis;
  variable: string;
  index: number;
  from: number;
}

/** Units of how fast something goes round. */
const SPEEDS = ['rpm', 'Hz', 'deg/s', 'rad/s'];

/** Letters that two names begin with. */
const common = (a: string, b: string) => [...a].findIndex((letter, i) => letter !== b[i]);

/**
 * What a blurred stand-in of a part begins with: about the axis about which its binding turns it, by the speed whose name is the most like
 * that binding’s variable, from the middle of that speed’s range on.
 */
export function proposedBlur(kit: Kit, part: Id, { variables }: Rulebook): Blur {
  const bindings = Object.values(kit.bindings).filter((one) => one.part === part);
  const turns = [0, 1, 2].map((axis) => Math.max(0, ...bindings.flatMap(({ rows }) => rows.map(({ turn }) => Math.abs(turn[axis])))));
  const speeds = variables.filter(({ unit }) => SPEEDS.includes(unit));
  const [driver] = bindings;
  const alike = ({ name }: Variable) => (driver ? common(name, driver.variable) : 0);
  const variable = [...(speeds.length > 0 ? speeds : variables)].sort((a, b) => alike(b) - alike(a))[0];
  return {
    axis: Math.max(0, turns.indexOf(Math.max(...turns))) as Axis,
    variable: variable.name,
    index: driver?.index ?? 0,
    from: Number((Math.max(0, variable.min) / 2 + variable.max / 2).toPrecision(3)),
  };
}

/** The call for it: materials are blended where the target draws such, and cut out in a fine pattern where it does not. */
export function blurCall(
  kit: Kit,
  part: Id,
  { axis, variable: name, index, from }: Blur,
  { variables, materials, naming }: Rulebook,
): Call {
  const { min, indices } = variables.find((one) => one.name === name)!;
  // A part by itself: nothing drives it, whatever its name says of the one it stands for.
  const prefix = naming.patterns.find((one) => one.prefix !== '' && kit.parts[part].name.startsWith(one.prefix))?.prefix ?? '';
  return callOf(makeBlur, {
    part,
    name: `${kit.parts[part].name.slice(prefix.length)}_blurred`,
    axis,
    variable: name,
    index: indices > 0 ? Math.min(index, indices - 1) : null,
    from,
    bothWays: min < 0 && from > 0,
    cut: materials?.alphaModes !== undefined && !materials.alphaModes.includes('BLEND'),
  });
}
