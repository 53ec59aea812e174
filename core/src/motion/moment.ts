/**
 * A time within a clip, seconds, and the share of its offsets that is added, 0 to 1; nothing else goes by it. Two numbers of an array:
 * given at a call, the engine would keep each on the heap.
 */
export type Moment = Float64Array;
