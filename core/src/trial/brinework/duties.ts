import type { DutyLine } from '../../document';
import { DUTY_FORMAT, type Duty } from '../duties';

const line = (variable: string, index: number | null, ...points: [time: number, value: number][]): DutyLine => ({
  variable,
  index,
  points: points.map(([time, value]) => ({ time, value })),
});

/** Runs that Brinework tries machines by. */
export const DUTIES: readonly Duty[] = [
  {
    format: DUTY_FORMAT,
    name: 'A morning tide',
    about: 'The water rises and falls; the gate opens on the way up and closes before the ebb, the pump runs through it.',
    seconds: 40,
    lines: [
      line('tide_height', null, [0, -3], [20, 3], [40, -3]),
      line('gate_lift', 0, [0, 0], [6, 0], [12, 2.4], [24, 2.4], [30, 0]),
      line('gate_latch_set', 0, [0, 1], [5, 1], [6, 0], [30, 0], [31, 1]),
      line('pump_wheel_phase', 0, [0, 0], [39.99, 360]),
      line('lock_gate_swing', 0, [0, 0], [14, 0], [20, 78], [28, 78], [34, 0]),
    ],
  },
  {
    format: DUTY_FORMAT,
    name: 'A heavy lift',
    about: 'The jib comes down over the quay, the hook is let down, lifted, slewed over the barge and let down again.',
    seconds: 30,
    lines: [
      line('crane_luff_angle', 0, [0, 0], [4, -18], [10, -18], [14, 40], [30, 40]),
      line('crane_hoist_drop', 0, [0, 0], [4, 0], [8, 10], [9, 10], [13, 1], [22, 1], [26, 8], [30, 0]),
      line('crane_slew_angle', 0, [0, 0], [14, 0], [22, 140], [30, 140]),
      line('crane_hook_load', 0, [0, 0], [8, 0], [9, 12], [26, 12], [27, 0]),
      line('crane_drum_turn', 0, [0, 0], [4, 0], [8, 300], [9, 300], [13, 30], [22, 30], [26, 240], [30, 0]),
    ],
  },
  {
    format: DUTY_FORMAT,
    name: 'A gate test',
    about: 'Every gate is opened and closed three times, the last time by halves.',
    seconds: 24,
    lines: [
      line('gate_lift', 0, [0, 0], [3, 2.4], [6, 0], [9, 2.4], [12, 0], [15, 1.2], [17, 1.2], [20, 2.4], [24, 0]),
      line('gate_paddle_open', 0, [0, 0], [2, 1], [6, 1], [8, 0], [12, 0], [14, 1], [22, 1], [24, 0]),
      line('lock_gate_swing', 0, [0, 0], [6, 78], [12, 0], [18, 39], [24, 0]),
      line('bridge_leaf_lift', 0, [0, 0], [8, 82], [16, 82], [24, 0]),
    ],
  },
  {
    format: DUTY_FORMAT,
    name: 'A rolling trolley',
    about: 'The trolley goes to both ends of its rails and stops short in the middle, with the hook let down and lifted on the way.',
    seconds: 20,
    lines: [
      line('trolley_way', 0, [0, 0], [5, 3], [7, 3], [14, -3], [16, -3], [18.5, 0], [20, 0]),
      line('crane_hoist_drop', 0, [0, 0], [5, 0], [6, 2], [7, 0], [14, 0], [15, 2], [16, 0]),
    ],
  },
  {
    format: DUTY_FORMAT,
    name: 'By orders alone',
    about:
      'The gates of a lock are asked to open and to close, a crane to turn and to lift: each stands where its own speed has brought it.',
    seconds: 40,
    lines: [
      line('lock_gate_order', 0, [0, 0], [1, 0], [1.1, 1], [20, 1], [20.1, 0]),
      line('lock_gate_order', 1, [0, 0], [3, 0], [3.1, 1], [22, 1], [22.1, 0]),
      line('crane_slew_order', 0, [0, 0], [2, 0.5], [12, 0.5], [13, 0], [20, 0], [21, -1], [26, -1], [27, 0]),
      line('crane_hoist_order', 0, [0, 0], [2, 1], [6, 1], [7, 0], [28, 0], [29, -1], [34, -1], [35, 0]),
      line('pump_speed', 0, [0, 0], [8, 60], [30, 60], [38, 0]),
    ],
  },
];
