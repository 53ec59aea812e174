import * as THREE from 'three';
import type { Footprint, Id, Vec3, Walkway } from '@itchkit/core/document';
import type { ToolPoint } from '../../../bench/bench-tool';
import type { GroundsUi } from './grounds-state';
import { onLevel, walkwayTool, type WayWork } from './walkway-tool';

const camera = new THREE.PerspectiveCamera(40, 1, 0.1, 100);
camera.position.set(0, 10, 10);
camera.lookAt(0, 0, 0);
camera.updateMatrixWorld();

const SIZE = 1000;
const projected = (at: Vec3) => new THREE.Vector3(...at).project(camera);

/** The pointer over a place of the world, with nothing but the ground under it unless said. */
function over(at: Vec3, more: Partial<ToolPoint> = {}): ToolPoint {
  const { x, y } = projected(at);
  const place = new THREE.Vector2(x, y);
  return {
    place,
    camera,
    hit: null,
    pixelsTo: (point) => {
      const there = projected(point);
      return (SIZE / 2) * Math.hypot(there.x - place.x, there.y - place.y);
    },
    alt: false,
    shift: false,
    ...more,
  };
}

const WALKWAY: Walkway = {
  knots: (
    [
      ['a', [0, 0, 0]],
      ['b', [1, 0.5, 1]],
    ] as const
  ).map(([id, at]) => ({ id, name: '', at: [...at], edge: false, boards: [], leaves: [] })),
  ropes: [],
};
const FOOTPRINT: Footprint = { low: [-3, 0, -2], high: [3, 0, 2], holes: [] };

function working(ui: Partial<GroundsUi> = {}) {
  const done: unknown[][] = [];
  const state: GroundsUi = {
    knots: [],
    putting: false,
    dragged: null,
    tiles: null,
    night: false,
    paints: {},
    shell: false,
    heights: false,
    ...ui,
  };
  const work: WayWork = {
    walkway: WALKWAY,
    footprint: FOOTPRINT,
    ui: state,
    set: (change) => Object.assign(state, change),
    put: (at: Vec3, joined: Id | null) => done.push(['put', at.map((value) => Number(value.toFixed(6)) + 0), joined]),
    move: (knot, at) => done.push(['move', knot, at.map((value) => Number(value.toFixed(6)) + 0)]),
    tiles: ({ low, high }) =>
      done.push(['tiles', low.map((value) => Number(value.toFixed(6)) + 0), high.map((value) => Number(value.toFixed(6)) + 0)]),
  };
  return { tool: walkwayTool(() => work), state, done };
}

test('the line of sight meets a level where it does, and nothing above the eye', () => {
  expect(onLevel(over([2, 0, -1]), 0)!.map((value) => Math.round(1e6 * value) / 1e6 + 0)).toEqual([2, 0, -1]);
  expect(onLevel(over([2, 0, -1]), 20)).toBeNull();
});

test('a click chooses a knot, with Shift several; nothing is moved by it', () => {
  const { tool, state, done } = working();
  expect(tool.down(over([0, 0, 0]))).toBe(true);
  tool.up();
  expect(state.knots).toEqual(['a']);
  tool.down(over([1, 0.5, 1], { shift: true }));
  tool.up();
  expect(state.knots).toEqual(['a', 'b']);
  expect(done).toEqual([]);
  expect(tool.down(over([2.2, 0, -1]))).toBe(false);
});

test('a drag moves a knot at its own height over nothing, onto what is level under it, and not onto a wall', () => {
  const { tool, state, done } = working();
  tool.down(over([1, 0.5, 1]));
  tool.move(over([2, 0.5, 0]));
  expect(state.dragged!.knot).toBe('b');
  tool.up();
  expect(state.dragged).toBeNull();
  tool.down(over([0, 0, 0]));
  tool.move(over([1, 0, 0], { hit: { point: [1, 0.6, 0.2], normal: [0, 1, 0], part: 'deck' } }));
  tool.up();
  tool.down(over([0, 0, 0]));
  tool.move(over([1, 0, 0], { hit: { point: [1, 0.3, 0.2], normal: [0, 0, 1], part: 'wall' } }));
  tool.up();
  expect(done).toEqual([
    ['move', 'b', [2, 0.5, 0]],
    ['move', 'a', [1, 0.6, 0.2]],
    ['move', 'a', [1, 0, 0]],
  ]);
});

test('where knots are put a click puts one, joined to the one that is chosen last', () => {
  const { tool, done } = working({ putting: true, knots: ['b'] });
  expect(tool.down(over([-2, 0, 1]))).toBe(true);
  tool.up();
  expect(done).toEqual([['put', [-2, 0, 1], 'b']]);
});

test('a side of the tiles is drawn by its middle, never beyond the other side', () => {
  const { tool, state, done } = working();
  expect(tool.down(over([3, 0, 0]))).toBe(true);
  tool.move(over([4.4, 0, 0.3]));
  expect(state.tiles!.high[0]).toBeCloseTo(4.4, 6);
  tool.up();
  tool.down(over([0, 0, -2]));
  tool.move(over([0, 0, 4]));
  tool.up();
  expect(done).toEqual([
    ['tiles', [-3, 0, -2], [4.4, 0, 2]],
    ['tiles', [-3, 0, 1.999], [3, 0, 2]],
  ]);
});
