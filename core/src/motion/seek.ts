import type { Moment } from './moment';

/** Index of the last time ≤ `time`, from a cached place or by binary search; 0 before the first. */
export function seek(times: ArrayLike<number>, cursor: number, time: number): number {
  ONCE[0] = time;
  return seekMoment(times, cursor, ONCE);
}

const ONCE: Moment = new Float64Array(2);

/** The same of a moment's time. Allocates nothing. */
export function seekMoment(times: ArrayLike<number>, cursor: number, moment: Moment): number {
  const time = moment[0];
  const last = times.length - 1;
  if (times[cursor] <= time) {
    if (cursor === last || time < times[cursor + 1]) return cursor;
    if (cursor + 1 === last || time < times[cursor + 2]) return cursor + 1;
  }
  let low = 0;
  let high = last;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (times[middle] <= time) low = middle;
    else high = middle - 1;
  }
  return low;
}
