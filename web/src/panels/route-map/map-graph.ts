import type { ElkExtendedEdge, ElkLabel, ElkNode } from 'elkjs/lib/elk-api';
import type { Id, Layer } from '@itchkit/core/document';

/** A point of the map, pixels to the right and down. */
export interface MapPoint {
  x: number;
  y: number;
}

/** A state where it stands: its upper left corner and its size. What can be left from anywhere has a halt of its own, of state null. */
export interface Halt extends MapPoint {
  layer: Id;
  state: Id | null;
  width: number;
  height: number;
}

/** A passage as a line from halt to halt, and where its flag stands. */
export interface Ribbon {
  layer: Id;
  passage: Id;
  points: MapPoint[];
  flag: MapPoint & { width: number; height: number };
}

/** What a layer is called, and where its halts lie. */
export interface District extends MapPoint {
  layer: Id;
  width: number;
  height: number;
}

/** The whole map. */
export interface PlacedMap {
  districts: District[];
  halts: Halt[];
  ribbons: Ribbon[];
}

/** How a passage is lit: taken now, waiting for the end of its clip, or taken before (0 the last one, toward 1 the longer ago). */
export type Lit = 'taken' | 'waits' | { ago: number };

/** How passages are lit that were taken one after another: the last one the most strongly. */
export const litBefore = (taken: readonly Id[]): Map<Id, Lit> =>
  new Map(taken.map((passage, i) => [passage, { ago: (taken.length - 1 - i) / taken.length }]));

/** What is written on a halt and on a flag: their widths follow from it. */
export interface MapWords {
  /** What a state plays. */
  plays(layer: Id, state: Id): string;
  /** What a passage asks, shortly. */
  asks(layer: Id, passage: Id): string;
}

const HALT_HEIGHT = 42;
const FLAG_HEIGHT = 20;
/** Of letters of 12 pixels, and of what stands around them. */
const LETTER = 6.6;
const AROUND = 38;
const FLAG_AROUND = 16;
/** Of words on the map. */
export const MOST_LETTERS = 22;
/** Between districts, and what their titles take. */
const BETWEEN = 26;
export const TITLE_HEIGHT = 22;

/** Words as they are written where there is little room. */
export const shortened = (words: string, most = MOST_LETTERS): string =>
  words.length > most ? `${words.slice(0, most - 1).trimEnd()}…` : words;

const widthOf = (...words: string[]): number => AROUND + LETTER * Math.max(...words.map((each) => shortened(each).length));

export const haltId = (state: Id | null): string => (state === null ? 'anywhere' : `halt ${state}`);

/**
 * A layer as a graph for ELK's layered method (Sugiyama, Tagawa and Toda 1981): states from left to right as passages lead on, flags in the
 * lines themselves, so that nothing is written over anything.
 */
export function graphOf(layer: Layer, words: MapWords): ElkNode {
  const anywhere = layer.passages.some(({ from }) => from === null);
  const children: ElkNode[] = layer.states.map(({ id, name }) => ({
    id: haltId(id),
    width: widthOf(name, words.plays(layer.id, id)),
    height: HALT_HEIGHT,
    ...(id === layer.first && { layoutOptions: { 'elk.layered.layering.layerConstraint': 'FIRST' } }),
  }));
  if (anywhere) children.push({ id: haltId(null), width: widthOf('from anywhere'), height: HALT_HEIGHT });
  return {
    id: layer.id,
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
      'elk.layered.feedbackEdges': 'true',
      'elk.layered.spacing.nodeNodeBetweenLayers': '24',
      'elk.layered.spacing.edgeNodeBetweenLayers': '14',
      'elk.layered.spacing.edgeEdgeBetweenLayers': '12',
      'elk.spacing.nodeNode': '22',
      'elk.spacing.edgeNode': '16',
      'elk.spacing.edgeEdge': '12',
      'elk.spacing.edgeLabel': '4',
      'elk.padding': '[top=0,left=0,bottom=0,right=0]',
    },
    children,
    edges: layer.passages.map(({ id, from, to }) => ({
      id,
      sources: [haltId(from)],
      targets: [haltId(to)],
      labels: [flagOf(id, shortened(words.asks(layer.id, id)))],
    })),
  };
}

/** ELK leaves out what has no words. */
const flagOf = (passage: Id, words: string): ElkLabel => ({
  id: `flag ${passage}`,
  text: words || ' ',
  width: FLAG_AROUND + LETTER * words.length,
  height: FLAG_HEIGHT,
  layoutOptions: { 'elk.edgeLabels.inline': 'true' },
});

/** Laid out layers below one another. @param placed What ELK made of `graphOf` of each, in the order of the layers */
export function placedMap(layers: readonly Layer[], placed: readonly ElkNode[]): PlacedMap {
  const map: PlacedMap = { districts: [], halts: [], ribbons: [] };
  let top = 0;
  layers.forEach((layer, i) => {
    const { children = [], edges = [], width = 0, height = 0 } = placed[i];
    map.districts.push({ layer: layer.id, x: 0, y: top, width, height: height + TITLE_HEIGHT });
    top += TITLE_HEIGHT;
    const states: (Id | null)[] = layer.states.map(({ id }) => id);
    for (const state of [...states, null]) {
      const one = children.find(({ id }) => id === haltId(state));
      if (one) map.halts.push({ layer: layer.id, state, x: one.x!, y: one.y! + top, width: one.width!, height: one.height! });
    }
    for (const edge of edges as ElkExtendedEdge[]) {
      const points = (edge.sections ?? []).flatMap(({ startPoint, bendPoints = [], endPoint }) => [startPoint, ...bendPoints, endPoint]);
      const [flag] = edge.labels ?? [];
      map.ribbons.push({
        layer: layer.id,
        passage: edge.id,
        points: points.map(({ x, y }) => ({ x, y: y + top })),
        flag: { x: flag?.x ?? 0, y: (flag?.y ?? 0) + top, width: flag?.width ?? 0, height: flag?.height ?? 0 },
      });
    }
    top += height + BETWEEN;
  });
  return map;
}

/** Smaller than this nothing could be read. */
const LEAST_ZOOM = 0.8;
/** Around what is brought into view, pixels. */
const MARGIN = 14;

/**
 * How far the map is moved and how large it is drawn so that a layer is in view: all of it where that can be read; else from its left end
 * on, or about where it is now.
 *
 * @param here Where the layer is now
 * @param room Width and height that there are, pixels
 */
export function viewOf(district: District, here: Halt | undefined, room: { width: number; height: number }) {
  const fits = Math.min((room.width - 2 * MARGIN) / district.width, (room.height - 2 * MARGIN) / district.height);
  const zoom = Math.min(1, Math.max(LEAST_ZOOM, fits));
  const along = (from: number, size: number, at: number, most: number): number => {
    const free = most - size * zoom;
    if (free >= 2 * MARGIN) return free / 2 - from * zoom;
    // Not further than to either end.
    return Math.max(free - MARGIN, Math.min(MARGIN, most / 2 - (at - from) * zoom)) - from * zoom;
  };
  const middle = here ? { x: here.x + here.width / 2, y: here.y + here.height / 2 } : district;
  return {
    x: along(district.x, district.width, middle.x, room.width),
    y: along(district.y, district.height, middle.y, room.height),
    zoom,
  };
}

/** What is between what stands from `a` to `b` and a room from 0 to `most`: how far it has to go to be in it. */
export const intoRoom = (a: number, b: number, most: number): number =>
  a < MARGIN ? MARGIN - a : Math.min(0, Math.max(most - MARGIN - b, MARGIN - a));

/** The point of a ribbon where it arrives: a triangle as an SVG path, which points as its last stretch does. */
export function arrowPath(points: readonly MapPoint[]): string {
  const [from, to] = points.slice(-2);
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length];
  const corner = (side: number) => `${to.x - 9 * ux - 6 * side * uy},${to.y - 9 * uy + 6 * side * ux}`;
  return `M${to.x},${to.y}L${corner(1)}L${corner(-1)}Z`;
}

/** How far before a corner a ribbon leaves its line, pixels. */
const CORNER = 9;

/** A line as an SVG path whose corners are cut aslant, as far as its stretches are long enough. */
export function ribbonPath(points: readonly MapPoint[]): string {
  const toward = (from: MapPoint, to: MapPoint, by: number): string => {
    const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
    return `${from.x + ((to.x - from.x) * by) / length},${from.y + ((to.y - from.y) * by) / length}`;
  };
  return points
    .map((point, i) => {
      if (i === 0) return `M${point.x},${point.y}`;
      const [before, after] = [points[i - 1], points[i + 1]];
      if (!after) return `L${point.x},${point.y}`;
      const half = (other: MapPoint) => Math.hypot(other.x - point.x, other.y - point.y) / 2;
      const by = Math.min(CORNER, half(before), half(after));
      return `L${toward(point, before, by)}L${toward(point, after, by)}`;
    })
    .join('');
}
