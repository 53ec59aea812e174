import { KitError, type Quat, type SignedAxis, type Space, type Vec3 } from '../document';
import { determinantMat3, type Mat3 } from './linear';
import { cross } from './vectors';

/** Metres, +Y up, +Z forward, right-handed: glTF 2.0, section 3.4. */
export const CANONICAL: Space = { metresPerUnit: 1, up: '+y', forward: '+z', handedness: 'right' };

/** Up and forward lie on the same axis. */
export class SpaceError extends KitError {
  constructor(space: Space) {
    super('space', `Up (${space.up}) and forward (${space.forward}) lie on the same axis. Choose two different axes.`);
  }
}

/** The unit vector of an axis with its sign. */
export function axisVector(axis: SignedAxis): Vec3 {
  const v: Vec3 = [0, 0, 0];
  v['xyz'.indexOf(axis[1])] = axis[0] === '+' ? 1 : -1;
  return v;
}

/** Without −0, so that axes are equal number by number. */
const across = (a: Vec3, b: Vec3) => cross(a, b).map((value) => value + 0) as Vec3;

/** The left, up and forward directions of a space, in its own numbers. */
function directions(space: Space): [Vec3, Vec3, Vec3] {
  const up = axisVector(space.up);
  const forward = axisVector(space.forward);
  const left = across(up, forward);
  if (left.every((value) => value === 0)) throw new SpaceError(space);
  return [space.handedness === 'right' ? left : (left.map((value) => -value + 0) as Vec3), up, forward];
}

export interface Change {
  /** Signed permutation, column-major: new = scale · basis · old. */
  basis: Mat3;
  scale: number;
}

/**
 * The change of numbers from one space to another: each of left, up and forward goes to its namesake.
 *
 * @throws {SpaceError} where up and forward of either lie on one axis
 */
export function changeOfSpace(from: Space, to: Space): Change {
  const a = directions(from);
  const b = directions(to);
  const basis: Mat3 = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (let d = 0; d < 3; d++)
    for (let row = 0; row < 3; row++) for (let column = 0; column < 3; column++) basis[3 * column + row] += b[d][row] * a[d][column];
  return { basis, scale: from.metresPerUnit / to.metresPerUnit };
}

/** Whether a change of space changes nothing, exactly. */
export function isIdentityChange(change: Change): boolean {
  return change.scale === 1 && change.basis.every((value, index) => value === (index % 4 === 0 ? 1 : 0));
}

/** Where each old axis goes: index of the new axis, and sign. */
export function axisMap(basis: Mat3): { to: [number, number, number]; sign: [number, number, number] } {
  const to: number[] = [];
  const sign: number[] = [];
  for (let column = 0; column < 3; column++) {
    const row = [0, 1, 2].find((r) => basis[3 * column + r] !== 0)!;
    to.push(row);
    sign.push(basis[3 * column + row]);
  }
  return { to: to as [number, number, number], sign: sign as [number, number, number] };
}

/** C · R · Cᵀ as a quaternion: the axis goes along, and turns the other way where C mirrors. */
export function conformQuat(q: ArrayLike<number>, basis: Mat3): Quat {
  const { to, sign } = axisMap(basis);
  const det = Math.sign(determinantMat3(basis));
  const out: Quat = [0, 0, 0, q[3]];
  for (let axis = 0; axis < 3; axis++) out[to[axis]] = det * sign[axis] * q[axis] + 0;
  return out;
}
