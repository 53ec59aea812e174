import * as THREE from 'three';
import type { Blobs, Kit, Vec3 } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { chainKit } from '../../../core/src/tests/helpers';
import { BenchPointer, type Aim, type PointerEvents } from './bench-pointer';
import type { ToolPoint } from './bench-tool';
import { KitScene } from './kit-scene';
import type { SurfaceHit } from './snap-point';

const [WIDTH, HEIGHT] = [300, 200];

/** What the bench gives the pointer: a canvas that stands 10 right and 20 down, and two wedges before the eye. */
function bench(busy = () => false) {
  const { kit, blobs } = chainKit([{ id: 'low' }, { id: 'high', translation: [0, 2, 0] }]);
  const canvas = Object.assign(new EventTarget(), {
    getBoundingClientRect: () => ({ left: 10, top: 20, width: WIDTH, height: HEIGHT }),
    setPointerCapture: jest.fn(),
  });
  const camera = new THREE.PerspectiveCamera(40, WIDTH / HEIGHT, 0.1, 100);
  camera.position.set(0.5, 1.5, -9);
  camera.lookAt(0.5, 1.5, 0);
  camera.updateMatrixWorld();
  const scene = new KitScene();
  scene.update(kit, blobs);
  const poser = new Poser(flattenParts(kit));
  poser.update();
  scene.place(poser);
  const said: [string, ...unknown[]][] = [];
  const say =
    (what: string) =>
    (...rest: unknown[]) =>
      void said.push([what, ...rest]);
  const events = { pick: say('pick'), point: say('point'), face: say('face'), swung: say('swung') } as unknown as PointerEvents;
  const shown: { kit: Kit; blobs: Blobs } = { kit, blobs };
  const pointer = new BenchPointer(
    { canvas: canvas as unknown as HTMLCanvasElement, camera, scene, busy, holdView: say('hold'), kit: () => shown },
    events,
  );
  /** Where a point of the world is on the page, pixels. */
  const pixelOf = (point: Vec3) => {
    const { x, y } = new THREE.Vector3(...point).project(camera);
    return { x: 10 + ((x + 1) / 2) * WIDTH, y: 20 + ((1 - y) / 2) * HEIGHT };
  };
  const send = (type: string, at: { x: number; y: number }, fields: Partial<PointerEvent> = {}) =>
    canvas.dispatchEvent(
      Object.assign(new Event(type), {
        button: 0,
        buttons: 1,
        pointerId: 7,
        altKey: false,
        shiftKey: false,
        ctrlKey: false,
        metaKey: false,
        clientX: at.x,
        clientY: at.y,
        ...fields,
      }),
    );
  const click = (at: { x: number; y: number }, fields: Partial<PointerEvent> = {}, slip = 0) => {
    send('pointerdown', at, fields);
    send('pointermove', { x: at.x + slip, y: at.y }, fields);
    send('pointerup', { x: at.x + slip, y: at.y }, { ...fields, buttons: 0 });
  };
  return { pointer, said, pixelOf, send, click, canvas };
}

/** A point on the face of the lower wedge that looks at the eye, and one of the upper wedge. */
const ON_LOW: Vec3 = [0.4, 0.3, 0];
const ON_HIGH: Vec3 = [0.4, 2.3, 0];
const BESIDE: Vec3 = [-2, 1, 0];

test('a click picks the part under it, one beside the kit picks none', () => {
  const { said, pixelOf, click } = bench();
  click(pixelOf(ON_LOW));
  click(pixelOf(ON_HIGH));
  click(pixelOf(BESIDE));
  expect(said).toEqual([
    ['pick', 'low', false],
    ['pick', 'high', false],
    ['pick', null, false],
  ]);
});

test.each(['shiftKey', 'ctrlKey', 'metaKey'] as const)('with %s a part is picked besides', (key) => {
  const { said, pixelOf, click } = bench();
  click(pixelOf(ON_LOW), { [key]: true });
  expect(said).toEqual([['pick', 'low', true]]);
});

test('a click may slip by 4 pixels; a drag turns the view and picks nothing', () => {
  const { said, pixelOf, click } = bench();
  click(pixelOf(ON_LOW), {}, 3);
  click(pixelOf(ON_LOW), {}, 9);
  expect(said).toEqual([['pick', 'low', false]]);
});

test('other buttons, and handles at work, pick nothing', () => {
  const free = bench();
  free.click(free.pixelOf(ON_LOW), { button: 2 });
  expect(free.said).toEqual([]);
  const busy = bench(() => true);
  busy.click(busy.pixelOf(ON_LOW));
  expect(busy.said).toEqual([]);
});

test('a stroke that begins on a face brushes and holds the view; one beside the kit leaves the view to turn', () => {
  const { pointer, said, pixelOf, send } = bench();
  pointer.mode = 'faces';
  send('pointerdown', pixelOf(BESIDE));
  send('pointermove', pixelOf(ON_LOW));
  send('pointerup', pixelOf(ON_LOW));
  expect(said).toEqual([]);
  send('pointerdown', pixelOf(ON_LOW), { altKey: true });
  send('pointermove', pixelOf(ON_HIGH), { altKey: true });
  send('pointermove', pixelOf(BESIDE), { altKey: true });
  send('pointerup', pixelOf(BESIDE));
  expect(said.map(([what]) => what)).toEqual(['hold', 'face', 'face', 'face', 'hold']);
  const faces = said.filter(([what]) => what === 'face') as [string, SurfaceHit | null, { start: boolean; take: boolean }][];
  expect(faces.map(([, hit, how]) => [hit?.part ?? null, how.start, how.take])).toEqual([
    ['low', true, true],
    ['high', false, true],
    [null, false, true],
  ]);
  expect([said[0][1], said[4][1]]).toEqual([true, false]);
});

test('the face under the pointer is the one that looks at the eye', () => {
  const { pointer, pixelOf } = bench();
  const at = ({ x, y }: { x: number; y: number }) => pointer.hitAt({ clientX: x, clientY: y });
  // The first triangle of a wedge is its bottom, at z = 0.
  expect(at(pixelOf(ON_LOW))).toEqual({ part: 'low', face: 0 });
  expect(at(pixelOf(BESIDE))).toBeNull();
});

test('a corner that is just missed is found around the click, with its way in pixels', () => {
  const { pointer, said, pixelOf, click } = bench();
  pointer.mode = 'points';
  const corner = pixelOf([0, 1, 0]);
  click({ x: corner.x + 1.8, y: corner.y - 2.4 });
  expect(said).toHaveLength(1);
  const [, hits, distanceTo] = said[0] as [string, SurfaceHit[], (point: Vec3) => number];
  expect(hits.map(({ part }) => part)).toContain('low');
  expect(new Set(hits.map(({ part, face }) => `${part} ${face}`)).size).toBe(hits.length);
  expect(distanceTo([0, 1, 0])).toBeCloseTo(3, 6);
});

test('a hinge that is tried follows a drag on its part or on what that carries, and is let go', () => {
  const { pointer, said, pixelOf, send } = bench();
  pointer.swing = { part: 'low', axis: 1 };
  send('pointerdown', pixelOf(ON_HIGH));
  send('pointermove', pixelOf(ON_HIGH));
  send('pointermove', pixelOf([0.8, 2.3, 0]));
  send('pointerup', pixelOf([0.8, 2.3, 0]));
  const swung = said.filter(([what]) => what === 'swung').map(([, degrees]) => degrees as number | null);
  expect(swung[0]).toBeCloseTo(0, 3);
  expect(Math.abs(swung[1]!)).toBeGreaterThan(1);
  expect(swung[2]).toBeNull();
  expect(said.filter(([what]) => what === 'hold').map(([, on]) => on)).toEqual([true, false]);
});

test('a drag on a part above the hinge picks and turns nothing', () => {
  const { pointer, said, pixelOf, send } = bench();
  pointer.swing = { part: 'high', axis: 1 };
  send('pointerdown', pixelOf(ON_LOW));
  send('pointermove', pixelOf(ON_HIGH));
  send('pointerup', pixelOf(ON_HIGH));
  expect(said).toEqual([]);
});

test('a tool is asked first: what it takes is its own until the button is up, what it leaves is a click', () => {
  const { pointer, said, pixelOf, send, click, canvas } = bench();
  const told: [string, ToolPoint?][] = [];
  let takes = true;
  pointer.tool = {
    down: (at) => (told.push(['down', at]), takes),
    move: (at) => void told.push(['move', at]),
    up: () => void told.push(['up']),
    hover: (at) => void told.push(['hover', at]),
  };
  send('pointerdown', pixelOf(ON_LOW), { shiftKey: true });
  send('pointermove', pixelOf(ON_HIGH));
  send('pointerup', pixelOf(ON_HIGH));
  expect(told.map(([what]) => what)).toEqual(['down', 'move', 'up']);
  expect(canvas.setPointerCapture).toHaveBeenCalledWith(7);
  expect(said).toEqual([
    ['hold', true],
    ['hold', false],
  ]);
  const { hit, shift, alt, pixelsTo } = told[0][1]!;
  expect([hit!.part, shift, alt]).toEqual(['low', true, false]);
  hit!.point.forEach((value, axis) => expect(value).toBeCloseTo(ON_LOW[axis], 4));
  expect(hit!.normal[2]).toBeCloseTo(-1, 6);
  expect(pixelsTo(ON_LOW)).toBeCloseTo(0, 4);
  send('pointermove', pixelOf(BESIDE), { buttons: 0 });
  expect(told.at(-1)![0]).toBe('hover');
  expect(told.at(-1)![1]!.hit).toBeNull();
  takes = false;
  click(pixelOf(ON_LOW));
  expect(said.at(-1)).toEqual(['pick', 'low', false]);
});

test('the keyboard’s sight picks, brushes and swings as a pointer does, and captures none', () => {
  const { pointer, said, pixelOf, canvas } = bench();
  const aim = (at: { x: number; y: number }, fields: Partial<Aim> = {}): Aim => ({
    clientX: at.x,
    clientY: at.y,
    button: 0,
    buttons: 1,
    altKey: false,
    shiftKey: false,
    ctrlKey: false,
    metaKey: false,
    pointerId: null,
    ...fields,
  });
  const on = aim(pixelOf(ON_LOW));
  pointer.press(on);
  pointer.release(on);
  pointer.press({ ...aim(pixelOf(ON_HIGH)), shiftKey: true });
  pointer.release({ ...aim(pixelOf(ON_HIGH)), shiftKey: true });
  pointer.mode = 'faces';
  pointer.press(on);
  pointer.move(aim(pixelOf(ON_HIGH)));
  pointer.release(aim(pixelOf(ON_HIGH)));
  expect(said.filter(([what]) => what !== 'hold')).toEqual([
    ['pick', 'low', false],
    ['pick', 'high', true],
    ['face', { part: 'low', face: expect.any(Number) as number }, { start: true, take: false }],
    ['face', { part: 'high', face: expect.any(Number) as number }, { start: false, take: false }],
  ]);
  expect(canvas.setPointerCapture).not.toHaveBeenCalled();
});
