import { blockFigureGlb, type Block } from './block-figure';
import { hidePng } from './textures';

/** A sixteenth of a metre: what Cubbin counts in. */
const N = 0.0625;
const at = (x: number, y: number, z: number): [number, number, number] => [x * N, y * N, z * N];

/** The left of two, and the right one across the middle. */
function pair(
  name: string,
  parent: string,
  pivot: [number, number, number],
  from: [number, number, number],
  to: [number, number, number],
  paint: string,
): Block[] {
  return [
    { name: `l_${name}`, parent, pivot: at(...pivot), from: at(...from), to: at(...to), paint },
    {
      name: `r_${name}`,
      parent,
      pivot: at(-pivot[0], pivot[1], pivot[2]),
      from: at(-to[0], from[1], from[2]),
      to: at(-from[0], to[1], to[2]),
      paint,
    },
  ];
}

/** The periscope diver's GLB: a block figure whose neck is a periscope in three lengths. */
export function buildPeriscopeDiverGlb(): Promise<Uint8Array> {
  const blocks: Block[] = [
    { name: 'origin', parent: null, pivot: [0, 0, 0] },
    { name: 'trunk', parent: 'origin', pivot: at(0, 9, 0), from: at(-4, 8, -2), to: at(4, 18, 3), paint: 'diver' },
    { name: 'scope_1', parent: 'trunk', pivot: at(0, 18, 0), from: at(-1, 18, -1), to: at(1, 21, 1), paint: 'diver' },
    { name: 'scope_2', parent: 'scope_1', pivot: at(0, 21, 0), from: at(-1, 21, -1), to: at(1, 24, 1), paint: 'diver' },
    { name: 'head', parent: 'trunk', pivot: at(0, 24, 0), from: at(-3, 24, -3), to: at(3, 29, 3), paint: 'diver' },
    ...pair('eye', 'head', [1.5, 26.5, 3], [0.5, 25.5, 3], [2.5, 27.5, 3.5], 'diver'),
    ...pair('arm', 'trunk', [4, 17, 0.5], [4, 10, -1], [7, 18, 2], 'diver'),
    ...pair('leg', 'trunk', [2, 8, 0.5], [0.5, 0, -1], [3.5, 8, 2], 'diver'),
  ];
  return blockFigureGlb('Periscope diver', blocks, { diver: { colour: [1, 1, 1], picture: hidePng(64) } });
}
