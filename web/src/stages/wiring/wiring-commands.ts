import { callOf, type Axis, type Binding, type Call } from '@itchkit/core/document';
import { addBetween, cutTable, measureValues, mirrorTable, negateTables, spreadTable, stationsOf } from '@itchkit/core/wiring';
import type { Command } from '../../panels/command';
import { setSlice } from '../../session/context';
import type { CommandContext } from '../stage';
import { boundLevers, inView } from './levers';

/** The binding in view, with the variable that it follows. */
export const bindingInView = ({ session, ui, rulebook }: Pick<CommandContext, 'session' | 'ui' | 'rulebook'>) =>
  inView(boundLevers(session.kit, rulebook), ui.getState().binding);

/** Units of a variable that a measure can be taken in: how many make one metre, or one degree. */
const PER: Record<'offset' | 'turn', Record<string, number>> = {
  offset: { m: 1, cm: 100, mm: 1000 },
  turn: { deg: 1, rad: Math.PI / 180 },
};

/** Ways to take the values of a table from what its rows move by, the sign such that more is more. */
function measures(binding: Binding, unit: string | undefined): { of: 'offset' | 'turn'; axis: Axis; per: number }[] {
  if (unit === undefined) return [];
  return (['offset', 'turn'] as const).flatMap((of) =>
    ([0, 1, 2] as const).flatMap((axis) => {
      const per = PER[of][unit];
      const along = binding.rows.map((row) => row[of][axis]);
      if (per === undefined || new Set(along).size < binding.rows.length) return [];
      const rising = binding.rows.reduce((sum, { value }, i) => sum + (value - binding.rows[0].value) * (along[i] - along[0]), 0);
      return [{ of, axis, per: rising < 0 ? -per : per }];
    }),
  );
}

/** What can be done to the table in view. */
export function tableTools(context: CommandContext): Command[] {
  const found = bindingInView(context);
  if (!found) return [];
  const { binding, lever } = found;
  const { variable } = lever;
  const neutral = binding.rows[0]?.value;
  const tool = (id: string, title: string, blocked: string | null, call: () => Call): Command => ({
    id: `wiring.${id}`,
    keys: [],
    title,
    group: 'Wiring',
    blocked,
    calls: call,
    run: () => void context.run(call()),
  });
  const few = (least: number) => (binding.rows.length < least ? `The table has fewer than ${least} rows` : null);
  const none = (side: 'above' | 'below') =>
    binding.rows.some(({ value }) => (side === 'above' ? value > neutral : value < neutral)) ? null : `No row is ${side} neutral`;
  const id = binding.id;
  return [
    tool('negate', 'Turn its way round', few(2), () => callOf(negateTables, { bindings: [id] })),
    tool('mirror-above', 'Mirror the rows above neutral to below', none('above'), () =>
      callOf(mirrorTable, { binding: id, keep: 'above' }),
    ),
    tool('mirror-below', 'Mirror the rows below neutral to above', none('below'), () =>
      callOf(mirrorTable, { binding: id, keep: 'below' }),
    ),
    tool('between', 'Put a row between each two', few(2), () => callOf(addBetween, { binding: id, each: 1 })),
    tool('spread', 'Spread the values evenly', few(3), () => callOf(spreadTable, { binding: id })),
    ...measures(binding, variable?.unit).map(({ of, axis, per }) =>
      tool(`measure-${of}-${axis}`, `Take the values from its ${of} ${'xyz'[axis]}`, null, () =>
        callOf(measureValues, { binding: id, of, axis, per }),
      ),
    ),
    ...(variable
      ? [tool('cut', 'End the table with its range', null, () => callOf(cutTable, { binding: id, min: variable.min, max: variable.max }))]
      : []),
  ];
}

/** To the station beside the lever, one way or the other. */
function step(context: CommandContext, way: 1 | -1): void {
  const found = bindingInView(context);
  if (!found) return;
  const { key, bindings, variable } = found.lever;
  const { levers } = context.ui.getState().wiring;
  const now = levers[key] ?? variable?.neutral ?? 0;
  const values = stationsOf(bindings).map(({ value }) => value);
  const next = way > 0 ? values.find((value) => value > now) : values.findLast((value) => value < now);
  if (next !== undefined) setSlice(context.ui, 'wiring', { levers: { ...levers, [key]: next } });
}

/** What Wiring does, for keys and the finder. */
export function wiringCommands(context: CommandContext): Command[] {
  const missing = bindingInView(context) ? null : 'Nothing is bound yet';
  return [
    { id: 'wiring.next', title: 'To the next station', group: 'Wiring', keys: ['.'], blocked: missing, run: () => step(context, 1) },
    { id: 'wiring.last', title: 'To the station before', group: 'Wiring', keys: [','], blocked: missing, run: () => step(context, -1) },
    {
      id: 'wiring.rest',
      title: 'All levers to neutral',
      group: 'Wiring',
      keys: ['R'],
      run: () => setSlice(context.ui, 'wiring', { levers: {}, posed: {} }),
    },
    ...tableTools(context),
  ];
}
