import ELK, { type ELK as Elk, type ElkNode } from 'elkjs/lib/elk-api';
import type { Layer } from '@itchkit/core/document';
import { graphOf, placedMap, type MapWords, type PlacedMap } from './map-graph';

let elk: Elk | null = null;

/** Lays layers out in a thread beside the page. */
export async function layOut(layers: readonly Layer[], words: MapWords): Promise<PlacedMap> {
  elk ??= new ELK({ workerFactory: () => new Worker(new URL('elkjs/lib/elk-worker.min.js', import.meta.url)) });
  const placed: ElkNode[] = [];
  for (const layer of layers) placed.push(await elk.layout(graphOf(layer, words)));
  return placedMap(layers, placed);
}
