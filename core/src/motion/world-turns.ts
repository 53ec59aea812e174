import type { Id, Quat } from '../document';
import { multiplyQuats, normalizeQuat, type Poser } from '../geometry';

const own = ({ rotation }: Poser, p: number): Quat => [rotation[4 * p], rotation[4 * p + 1], rotation[4 * p + 2], rotation[4 * p + 3]];

/** World turns of every part, without scale, in a pose that is up to date. */
export function worldTurns(poser: Poser): Quat[] {
  const { flat } = poser;
  const out: Quat[] = [];
  for (let p = 0; p < flat.ids.length; p++)
    out.push(normalizeQuat(flat.parent[p] < 0 ? own(poser, p) : multiplyQuats(out[flat.parent[p]], own(poser, p))));
  return out;
}

/** A part's turn in the world, without scale. */
export function worldTurn(poser: Poser, part: Id | null): Quat {
  let turn: Quat = [0, 0, 0, 1];
  const { flat } = poser;
  for (let p = part === null ? -1 : flat.indexOf.get(part)!; p >= 0; p = flat.parent[p]) turn = multiplyQuats(own(poser, p), turn);
  return turn;
}
