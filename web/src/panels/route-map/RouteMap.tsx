'use client';
import Box from '@mui/material/Box';
import { Position, ReactFlow, ReactFlowProvider, useReactFlow, type Edge, type Node } from '@xyflow/react';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { Id, Layer } from '@itchkit/core/document';
import { DistrictNode, HaltNode, type DistrictData, type HaltData } from './HaltNode';
import { haltId, intoRoom, TITLE_HEIGHT, viewOf, type Lit, type MapWords, type PlacedMap } from './map-graph';
import { MapLayout } from './map-layout';
import { RibbonEdge, type RibbonData } from './RibbonEdge';

interface RouteMapProps {
  layers: readonly Layer[];
  words: MapWords;
  /** The layer that is brought into view; the first where none is. */
  layer?: Id;
  /** The state that each layer is in. */
  now: Readonly<Record<Id, Id>>;
  lit: ReadonlyMap<Id, Lit>;
  chosen?: Id | null;
  onState?: (layer: Id, state: Id) => void;
  onPassage?: (layer: Id, passage: Id) => void;
  /** A line was drawn from halt to halt. @param from Null from anywhere */
  onLine?: (layer: Id, from: Id | null, to: Id) => void;
}

const NODES = { halt: HaltNode, district: DistrictNode };
const EDGES = { ribbon: RibbonEdge };
const NO_KEYS = {
  deleteKeyCode: null,
  selectionKeyCode: null,
  multiSelectionKeyCode: null,
  panActivationKeyCode: null,
  zoomActivationKeyCode: null,
} as const;

const nodeId = (layer: Id, state: Id | null): string => `${layer} ${haltId(state)}`;

/** What the places depend on, as text: they stay while only what is lit changes. */
function shapeOf(layers: readonly Layer[], words: MapWords): string {
  return JSON.stringify(
    layers.map((layer) => [
      layer.id,
      layer.first,
      layer.states.map(({ id, name }) => [id, name, words.plays(layer.id, id)]),
      layer.passages.map(({ id, from, to }) => [id, from, to, words.asks(layer.id, id)]),
    ]),
  );
}

type Placing = { map: PlacedMap | null; state: 'being laid out' | 'there' | 'failed' };

/** Where everything stands; the last one that was worked out until that of now is. */
function usePlaced(layers: readonly Layer[], words: MapWords): Placing {
  const [placing, setPlacing] = useState<Placing>({ map: null, state: 'being laid out' });
  const layout = useRef<MapLayout>(null);
  const shape = shapeOf(layers, words);
  const lay = useEffectEvent(() => (layout.current ??= new MapLayout()).layOut(layers, words));
  useEffect(() => {
    let over = false;
    lay().then(
      (map) => !over && setPlacing({ map, state: 'there' }),
      () => !over && setPlacing({ map: null, state: 'failed' }),
    );
    return () => {
      over = true;
    };
  }, [shape]);
  useEffect(() => () => layout.current?.end(), []);
  return placing;
}

function nodesOf(placed: PlacedMap, { layers, words, now, onState, onLine }: RouteMapProps): Node[] {
  const byId = new Map(layers.map((layer) => [layer.id, layer]));
  const districts = placed.districts.flatMap(({ layer, x, y, width }): Node<DistrictData>[] =>
    byId.has(layer)
      ? [
          {
            id: layer,
            type: 'district',
            position: { x, y },
            width: Math.max(width, 120),
            height: TITLE_HEIGHT,
            data: { title: byId.get(layer)!.name },
          },
        ]
      : [],
  );
  const halts = placed.halts.flatMap(({ layer: id, state: stateId, x, y, width, height }): Node<HaltData>[] => {
    const layer = byId.get(id);
    const state = layer?.states.find((one) => one.id === stateId);
    if (!layer || (stateId !== null && !state)) return [];
    return [
      {
        id: nodeId(id, stateId),
        type: 'halt',
        position: { x, y },
        width,
        height,
        // Known beforehand: while a body lives the map is drawn anew in each frame, and lines would wait for halts to be measured.
        measured: { width, height },
        handles: [
          { type: 'target', position: Position.Left, x: 0, y: height / 2, width: 1, height: 1 },
          { type: 'source', position: Position.Right, x: width, y: height / 2, width: 1, height: 1 },
        ],
        data: {
          name: state?.name ?? 'from anywhere',
          plays: state ? words.plays(id, state.id) : '',
          first: state?.id === layer.first,
          here: state !== undefined && now[id] === state.id,
          onChoose: state && onState ? () => onState(id, state.id) : undefined,
          draws: onLine !== undefined,
        },
      },
    ];
  });
  return [...districts, ...halts];
}

function edgesOf(placed: PlacedMap, { layers, words, lit, chosen, onPassage }: RouteMapProps): Edge<RibbonData>[] {
  const byId = new Map(layers.map((layer) => [layer.id, layer]));
  return placed.ribbons.flatMap(({ layer: id, passage: passageId, points, flag }) => {
    const layer = byId.get(id);
    const passage = layer?.passages.find((one) => one.id === passageId);
    if (!layer || !passage) return [];
    const named = (state: Id | null) => (state === null ? 'anywhere' : layer.states.find((one) => one.id === state)?.name);
    const data: RibbonData = {
      points,
      flag,
      asks: words.asks(id, passageId),
      said: `From ${named(passage.from)} to ${named(passage.to)}`,
      lit: lit.get(passageId),
      chosen: chosen === passageId,
      onChoose: onPassage && (() => onPassage(id, passageId)),
    };
    return [{ id: passageId, type: 'ribbon', source: nodeId(id, passage.from), target: nodeId(id, passage.to), data }];
  });
}

/** States as halts and passages as lines between them, laid out so that they cross little. */
export function RouteMap(props: RouteMapProps) {
  return (
    <ReactFlowProvider>
      <PannedMap {...props} />
    </ReactFlowProvider>
  );
}

function PannedMap(props: RouteMapProps) {
  const { layers, words, now, layer = layers[0]?.id, onLine } = props;
  const { map: placed, state } = usePlaced(layers, words);
  const holder = useRef<HTMLDivElement>(null);
  /** Whether somebody has moved the map: it stays where it is then. */
  const moved = useRef(false);
  const { getViewport, setViewport } = useReactFlow();
  /** What has the keyboard is in view. */
  const bring = (element: Element) => {
    const room = holder.current!.getBoundingClientRect();
    const box = element.getBoundingClientRect();
    const x = intoRoom(box.left - room.left, box.right - room.left, room.width);
    const y = intoRoom(box.top - room.top, box.bottom - room.top, room.height);
    const at = getViewport();
    if (x !== 0 || y !== 0) void setViewport({ ...at, x: at.x + x, y: at.y + y });
  };
  const fit = useEffectEvent(() => {
    const district = placed?.districts.find((one) => one.layer === layer);
    if (moved.current || !placed || !district || !holder.current) return;
    const here = placed.halts.find((halt) => halt.layer === layer && halt.state === now[layer]);
    void setViewport(viewOf(district, here, { width: holder.current.clientWidth, height: holder.current.clientHeight }));
  });
  useEffect(() => {
    moved.current = false;
  }, [layer]);
  const here = now[layer];
  useEffect(() => {
    // It tells of the size that there is at first, too.
    const observer = new ResizeObserver(() => fit());
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, [placed, layer, here]);

  return (
    <Box
      ref={holder}
      role="group"
      aria-label="Route map"
      data-placed={placed !== null}
      onFocus={(event) => event.target.matches(':focus-visible') && bring(event.target)}
      sx={{ height: '100%', minHeight: 0, '& .react-flow__edges': { overflow: 'visible' } }}
    >
      {!placed && (
        <Box role="status" sx={{ p: 2, fontSize: 12.5, color: 'text.secondary' }}>
          {state === 'failed' ? 'The map can’t be laid out. All that it shows stands in the table.' : 'The map is being laid out …'}
        </Box>
      )}
      {placed && (
        <ReactFlow
          nodes={nodesOf(placed, props)}
          edges={edgesOf(placed, props)}
          nodeTypes={NODES}
          edgeTypes={EDGES}
          onMoveStart={(event) => event && (moved.current = true)}
          onConnect={({ source, target }) => {
            const ends = [source, target].map((id) => placed.halts.find((halt) => nodeId(halt.layer, halt.state) === id));
            if (onLine && ends[0] && ends[1]?.state) onLine(ends[0].layer, ends[0].state, ends[1].state);
          }}
          isValidConnection={({ source, target }) =>
            source !== target && source.split(' ')[0] === target.split(' ')[0] && !target.endsWith(haltId(null))
          }
          nodesDraggable={false}
          nodesConnectable={onLine !== undefined}
          nodesFocusable={false}
          edgesFocusable={false}
          elementsSelectable={false}
          zoomOnDoubleClick={false}
          disableKeyboardA11y
          minZoom={0.1}
          maxZoom={2}
          proOptions={{ hideAttribution: true }}
          {...NO_KEYS}
        />
      )}
    </Box>
  );
}
