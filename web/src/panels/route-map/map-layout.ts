import ELK, { type ELK as Elk, type ElkNode } from 'elkjs/lib/elk-api';
import type { Layer } from '@itchkit/core/document';
import { graphOf, placedMap, type MapWords, type PlacedMap } from './map-graph';

/** Lays maps out in a thread beside the page, one at a time: what is no longer wanted is ended with its thread. */
export class MapLayout {
  private elk: Elk | null = null;
  private busy = false;

  /** @throws {Error} where it can't be laid out; one that was ended never comes back */
  async layOut(layers: readonly Layer[], words: MapWords): Promise<PlacedMap> {
    if (this.busy) this.end();
    const elk = (this.elk ??= new ELK({
      workerFactory: () => new Worker(new URL('elkjs/lib/elk-worker.min.js', import.meta.url)),
    }));
    this.busy = true;
    try {
      const placed: ElkNode[] = [];
      for (const layer of layers) placed.push(await elk.layout(graphOf(layer, words)));
      return placedMap(layers, placed);
    } finally {
      if (this.elk === elk) this.busy = false;
    }
  }

  /** Ends what it does. */
  end(): void {
    this.elk?.terminateWorker();
    this.elk = null;
    this.busy = false;
  }
}
