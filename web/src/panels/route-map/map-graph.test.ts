/** @jest-environment node */
import ELK from 'elkjs/lib/elk.bundled.js';
import fc from 'fast-check';
import type { Layer } from '@itchkit/core/document';
import {
  arrowPath,
  graphOf,
  intoRoom,
  litBefore,
  placedMap,
  ribbonPath,
  shortened,
  viewOf,
  type Halt,
  type MapPoint,
  type PlacedMap,
} from './map-graph';

const WORDS = { plays: (_: string, state: string) => `clip of ${state}`, asks: (_: string, passage: string) => `asks ${passage}` };

const layerOf = (states: number, ways: readonly (readonly [from: number | null, to: number])[], id = 'body'): Layer => ({
  id,
  name: id,
  parts: [],
  how: 'replaces',
  first: `${id}0`,
  states: Array.from({ length: states }, (_, i) => ({ id: `${id}${i}`, name: `state ${i}`, clip: null, speed: 1, loop: true })),
  passages: ways
    .filter(([from, to]) => from !== to)
    .map(([from, to], i) => ({
      id: `${id}p${i}`,
      from: from === null ? null : `${id}${from}`,
      except: [],
      to: `${id}${to}`,
      when: [],
      after: 'any' as const,
      over: 0.2,
    })),
});

async function mapOf(layers: Layer[]): Promise<PlacedMap> {
  const elk = new ELK();
  return placedMap(layers, await Promise.all(layers.map((layer) => elk.layout(graphOf(layer, WORDS)))));
}

const anyLayer = (id: string) =>
  fc
    .integer({ min: 1, max: 9 })
    .chain((states) =>
      fc
        .array(fc.tuple(fc.option(fc.integer({ min: 0, max: states - 1 })), fc.integer({ min: 0, max: states - 1 })), { maxLength: 16 })
        .map((ways) => layerOf(states, ways, id)),
    );

const haltOf = ({ halts }: PlacedMap, layer: string, state: string | null) =>
  halts.find((one) => one.layer === layer && one.state === state)!;
const onEdge = ({ x, y, width, height }: Halt, point: MapPoint) =>
  point.x >= x - 0.5 && point.x <= x + width + 0.5 && point.y >= y - 0.5 && point.y <= y + height + 0.5;

/** Whether a stretch of a line goes through the inside of a box: both are along the axes. */
const crosses = ({ x, y, width, height }: Halt, a: MapPoint, b: MapPoint) =>
  Math.max(a.x, b.x) > x + 1 && Math.min(a.x, b.x) < x + width - 1 && Math.max(a.y, b.y) > y + 1 && Math.min(a.y, b.y) < y + height - 1;

test('every state is a halt, every passage a line from its halt to its halt, and no line goes through another halt', async () => {
  await fc.assert(
    fc.asyncProperty(anyLayer('body'), anyLayer('arm'), async (body, arm) => {
      const layers = [body, arm];
      const map = await mapOf(layers);
      for (const layer of layers) {
        for (const { id } of layer.states) expect(haltOf(map, layer.id, id)).toBeDefined();
        for (const { id, from, to } of layer.passages) {
          const { points } = map.ribbons.find(({ passage }) => passage === id)!;
          const [start, end] = [haltOf(map, layer.id, from), haltOf(map, layer.id, to)];
          expect(onEdge(start, points[0])).toBe(true);
          expect(onEdge(end, points[points.length - 1])).toBe(true);
          for (const halt of map.halts) for (let i = 1; i < points.length; i++) expect(crosses(halt, points[i - 1], points[i])).toBe(false);
        }
      }
    }),
    { numRuns: 25, endOnFailure: true },
  );
});

test('nothing is drawn over anything: halts, flags and layers are apart', async () => {
  await fc.assert(
    fc.asyncProperty(anyLayer('body'), anyLayer('arm'), async (body, arm) => {
      const { halts, ribbons, districts } = await mapOf([body, arm]);
      const boxes = [...halts, ...ribbons.map(({ flag }) => flag)];
      for (const [i, a] of boxes.entries())
        for (const b of boxes.slice(0, i))
          expect(
            a.x + a.width <= b.x + 0.5 || b.x + b.width <= a.x + 0.5 || a.y + a.height <= b.y + 0.5 || b.y + b.height <= a.y + 0.5,
          ).toBe(true);
      expect(districts[1].y).toBeGreaterThan(districts[0].y + districts[0].height);
    }),
    { numRuns: 25, endOnFailure: true },
  );
});

test('only what is left from anywhere has a halt for that', async () => {
  expect((await mapOf([layerOf(2, [[0, 1]])])).halts.map(({ state }) => state)).toEqual(['body0', 'body1']);
  expect((await mapOf([layerOf(2, [[null, 1]])])).halts.map(({ state }) => state)).toEqual(['body0', 'body1', null]);
});

test('a layer is in view whole where it can be read, else from its left end on, or about where it is now', () => {
  const district = { layer: 'body', x: 0, y: 100, width: 400, height: 150 };
  const at = (x: number): Halt => ({ layer: 'body', state: 's', x, y: 150, width: 80, height: 40 });
  expect(viewOf(district, at(0), { width: 500, height: 200 })).toEqual({ x: 50, y: -75, zoom: 1 });
  expect(viewOf(district, at(0), { width: 388, height: 300 })).toMatchObject({ x: 14, zoom: 0.9 });
  const narrow = { width: 200, height: 200 };
  expect(viewOf(district, at(0), narrow)).toMatchObject({ x: 14, zoom: 0.8 });
  expect(viewOf(district, at(320), narrow)).toMatchObject({ x: 200 - 320 - 14, zoom: 0.8 });
  // 200 of the map is its middle: there is as much to the left of it as to the right.
  expect(viewOf(district, at(160), narrow)).toMatchObject({ x: 100 - 160, zoom: 0.8 });
});

test('of what was taken the last is lit the most strongly, one that was taken twice as it was the last time', () => {
  expect([...litBefore(['off', 'halt', 'off', 'fall'])]).toEqual([
    ['off', { ago: 0.25 }],
    ['halt', { ago: 0.5 }],
    ['fall', { ago: 0 }],
  ]);
});

test('corners are cut aslant, no further than half of a stretch', () => {
  const corner = (y: number) => [
    { x: 0, y: 0 },
    { x: 40, y: 0 },
    { x: 40, y },
  ];
  expect(ribbonPath(corner(40))).toBe('M0,0L31,0L40,9L40,40');
  expect(ribbonPath(corner(4))).toBe('M0,0L38,0L40,2L40,4');
  expect(ribbonPath([])).toBe('');
});

test('what is chosen by keyboard comes into the room, by the least way; what is too long begins at its start', () => {
  expect(intoRoom(-50, 20, 400)).toBe(64);
  expect(intoRoom(100, 200, 400)).toBe(0);
  expect(intoRoom(380, 460, 400)).toBe(-74);
  expect(intoRoom(100, 900, 400)).toBe(-86);
});

test('a ribbon points where it arrives, from any side', () => {
  const to = { x: 50, y: 50 };
  expect(arrowPath([{ x: 0, y: 50 }, to])).toBe('M50,50L41,56L41,44Z');
  expect(arrowPath([{ x: 90, y: 50 }, to])).toBe('M50,50L59,44L59,56Z');
  expect(arrowPath([{ x: 50, y: 0 }, to])).toBe('M50,50L44,41L56,41Z');
});

test('words that have no room are cut where a word ends', () => {
  expect(shortened('walks')).toBe('walks');
  expect(shortened('walks over the long bridge', 12)).toBe('walks over…');
});
