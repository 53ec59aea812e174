import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { checkRulebook } from '../rulebook';
import { DUTY_FORMAT, lineAt, type Duty } from './duties';
import { followed, followOrders, orderOf, setByHand, withOrdersFollowed } from './orders';
import { linesOfRecord, type LeverSet } from './record-duty';

const { variables } = checkRulebook(brinework);
const order = (name: string, index: number | null = 0) => orderOf(variables, name, index)!;

const dutyOf = (variable: string, seconds: number, ...points: [number, number][]): Duty => ({
  format: DUTY_FORMAT,
  name: 'Test',
  about: '',
  seconds,
  lines: [{ variable, index: 0, points: points.map(([time, value]) => ({ time, value })) }],
});

test('an order moves what it says, of the same index; what is no order moves nothing', () => {
  expect(order('lock_gate_order', 3)).toMatchObject({ key: 'lock_gate_order[3]', position: { key: 'lock_gate_swing[3]', index: 3 } });
  expect(orderOf(variables, 'gate_lift', 0)).toBeNull();
  expect(orderOf(variables, 'no_such_thing', 0)).toBeNull();
});

test('to a place: ends stand for ends, at most as fast as the platform lets it, and it stays where it was asked to', () => {
  const gate = order('lock_gate_order');
  // Half open is 39 of 78 degrees; 6 degrees a second.
  expect(followed(gate, 0, 0.5, 1)).toBe(6);
  expect(followed(gate, 38, 0.5, 1)).toBe(39);
  expect(followed(gate, 78, 0, 2)).toBe(66);
  expect(followed(gate, 39, 0.5, 10)).toBe(39);
});

test('at a speed: so much for each 1 that is asked for, up to the end of the range', () => {
  const slew = order('crane_slew_order');
  expect(followed(slew, 10, -0.5, 2)).toBe(-2);
  expect(followed(slew, 165, 1, 60)).toBe(170);
});

test('round: it begins again, both ways', () => {
  const wheel = order('pump_speed');
  // 10 rpm are 60 degrees a second.
  expect(followed(wheel, 350, 10, 1)).toBeCloseTo(50, 9);
  expect(followed(wheel, 10, -10, 1)).toBeCloseTo(310, 9);
});

test('levers that no order moves on are the same object', () => {
  const levers = { 'crane_slew_angle[0]': 20, 'crane_slew_order[0]': 0 };
  expect(followOrders(levers, [order('crane_slew_order')], 1)).toBe(levers);
  expect(followOrders({ ...levers, 'crane_slew_order[0]': 1 }, [order('crane_slew_order')], 0.5)['crane_slew_angle[0]']).toBe(26);
});

test('what is set by hand is not moved on: the order is let go', () => {
  const orders = [order('lock_gate_order'), order('crane_slew_order')];
  const levers = { 'lock_gate_order[0]': 1, 'lock_gate_swing[0]': 20, 'crane_slew_order[0]': 1 };
  const set = setByHand(levers, { 'lock_gate_swing[0]': 30 }, orders);
  expect(set).toEqual({ 'lock_gate_swing[0]': 30, 'crane_slew_order[0]': 1 });
  expect(followOrders(set, orders, 1)['lock_gate_swing[0]']).toBe(30);
  // An order that is given at the same time stays.
  expect(setByHand(levers, { 'lock_gate_swing[0]': 30, 'lock_gate_order[0]': 0.5 }, orders)['lock_gate_order[0]']).toBe(0.5);
});

test('a duty by an order stands where the integral of the order says', () => {
  const speed = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(fc.array(speed, { minLength: 2, maxLength: 5 }), fc.double({ min: 0, max: 1, noNaN: true }), (speeds, share) => {
      const seconds = speeds.length - 1;
      const duty = dutyOf('crane_slew_order', seconds, ...speeds.map((value, i) => [i, value] as [number, number]));
      const [, angle] = withOrdersFollowed(duty, variables).lines;
      // Trapezoids: exact for what is straight between points, as long as no end is reached (12 degrees a second, 4 seconds).
      const time = share * seconds;
      const area = Array.from({ length: 4000 }, (_, i) => lineAt(duty.lines[0], ((i + 0.5) / 4000) * time)).reduce((a, b) => a + b, 0);
      expect(lineAt(angle, time)).toBeCloseTo((12 * area * time) / 4000, 2);
    }),
    { numRuns: 40 },
  );
});

test('a wheel that goes round is never seen to go back: its phase jumps within a blink', () => {
  const [, phase] = withOrdersFollowed(dutyOf('pump_speed', 10, [0, 0], [2, 90], [8, 90], [10, 0]), variables).lines;
  for (const [i, { time, value }] of phase.points.entries()) {
    expect(value).toBeGreaterThanOrEqual(0);
    expect(value).toBeLessThanOrEqual(360);
    if (i === 0) continue;
    const before = phase.points[i - 1];
    expect(time).toBeGreaterThan(before.time);
    if (value < before.value - 1e-9) {
      expect([before.value, value]).toEqual([360, 0]);
      expect(time - before.time).toBeLessThan(1e-5);
    }
  }
  // 90 rpm are 540 degrees a second: 6 seconds of that and four at half of it.
  const rounds = phase.points.filter(({ value }, i) => i > 0 && value < phase.points[i - 1].value).length;
  expect(360 * rounds + phase.points.at(-1)!.value).toBeCloseTo(8 * 540, 1);
});

test('what has a line of its own keeps it', () => {
  const duty = dutyOf('gate_lift_order', 4, [0, 2.4]);
  const own: Duty = { ...duty, lines: [...duty.lines, { variable: 'gate_lift', index: 0, points: [{ time: 0, value: 1 }] }] };
  expect(withOrdersFollowed(own, variables)).toBe(own);
  expect(withOrdersFollowed(duty, variables).lines.map(({ variable }) => variable)).toEqual(['gate_lift_order', 'gate_lift']);
});

test('of two orders that move one thing the first counts', () => {
  const duty = dutyOf('pump_speed', 4, [0, 10]);
  const both: Duty = { ...duty, lines: [...duty.lines, { variable: 'pump_speed_order', index: 0, points: [{ time: 0, value: 90 }] }] };
  const [, , phase, ...more] = withOrdersFollowed(both, variables).lines;
  expect(more).toEqual([]);
  expect(lineAt(phase, 3)).toBeCloseTo(180, 6);
});

test('what was done with levers is played back as it was done: straight while it was moved, still while it was not', () => {
  const set = (time: number, value: number): LeverSet => ({ key: 'gate_lift[0]', variable: 'gate_lift', index: 0, time, value });
  const dragged = Array.from({ length: 21 }, (_, i) => set(1 + 0.05 * i, 0.1 * i));
  const [line, ...others] = linesOfRecord([...dragged, set(5, 0)], { 'gate_lift[0]': 0 });
  expect(others).toEqual([]);
  // From where it stood, still until it was moved, twenty settings as one straight line, still again, and back at once.
  expect(line.points).toHaveLength(5);
  expect([0, 0.9, 1.5, 2, 4.9, 5, 9].map((time) => Number(lineAt(line, time).toFixed(2)))).toEqual([0, 0, 1, 2, 2, 0, 0]);
});

test('two settings at one moment leave one point, and each lever its own line', () => {
  const lines = linesOfRecord(
    [
      { key: 'a[0]', variable: 'a', index: 0, time: 1, value: 1 },
      { key: 'a[0]', variable: 'a', index: 0, time: 1, value: 2 },
      { key: 'b', variable: 'b', index: null, time: 1, value: 5 },
    ],
    {},
  );
  expect(lines.map(({ variable, index, points }) => [variable, index, points.at(-1)])).toEqual([
    ['a', 0, { time: 1, value: 2 }],
    ['b', null, { time: 1, value: 5 }],
  ]);
  for (const { points } of lines) points.slice(1).forEach(({ time }, i) => expect(time).toBeGreaterThan(points[i].time));
});
