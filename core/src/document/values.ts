/** Words that several sections of the document share. */

export type Id = string;
export type Vec3 = [number, number, number];
/** Unit quaternion x, y, z, w. */
export type Quat = [number, number, number, number];
export type Rgba = [number, number, number, number];
export type Axis = 0 | 1 | 2;
/** Records by their ids. */
export type Table<T> = Record<Id, T>;

/** The order in which turns about the own axes are multiplied: `xyz` is rest · Rx · Ry · Rz. */
export const TURN_ORDERS = ['xyz', 'xzy', 'yxz', 'yzx', 'zxy', 'zyx'] as const;
export type TurnOrder = (typeof TURN_ORDERS)[number];

/** The six directions of a file's space. */
export const SIGNED_AXES = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;
export type SignedAxis = (typeof SIGNED_AXES)[number];

/** How a platform or a file measures space. */
export interface Space {
  metresPerUnit: number;
  up: SignedAxis;
  forward: SignedAxis;
  handedness: 'right' | 'left';
}
