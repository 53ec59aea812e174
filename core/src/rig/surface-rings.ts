/** Which places lie beside which along edges: where those of each begin, one more entry than places, and their numbers. */
export interface Rings {
  at: Uint32Array;
  neighbours: Uint32Array;
}

/** @param places The place of each corner, 3 a triangle @param count How many places there are. */
export function surfaceRings(places: ArrayLike<number>, count: number): Rings {
  const fill = new Uint32Array(count + 1);
  const pairs = new Uint32Array(2 * places.length);
  let used = 0;
  for (let t = 0; t + 2 < places.length; t += 3) {
    for (let side = 0; side < 3; side++) {
      const a = places[t + side];
      const b = places[t + ((side + 1) % 3)];
      if (a === b) continue;
      pairs[used++] = a;
      pairs[used++] = b;
      fill[a + 1]++;
      fill[b + 1]++;
    }
  }
  for (let i = 0; i < count; i++) fill[i + 1] += fill[i];
  const all = new Uint32Array(used);
  const next = fill.slice();
  for (let i = 0; i < used; i += 2) {
    all[next[pairs[i]]++] = pairs[i + 1];
    all[next[pairs[i + 1]]++] = pairs[i];
  }
  // Each neighbour once: an edge has a triangle on either side.
  const at = new Uint32Array(count + 1);
  const neighbours = new Uint32Array(used);
  let out = 0;
  for (let i = 0; i < count; i++) {
    at[i] = out;
    const own = all.subarray(fill[i], fill[i + 1]).sort();
    for (let k = 0; k < own.length; k++) if (k === 0 || own[k] !== own[k - 1]) neighbours[out++] = own[k];
  }
  at[count] = out;
  return { at, neighbours: neighbours.slice(0, out) };
}
