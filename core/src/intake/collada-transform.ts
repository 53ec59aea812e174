import type { Vec3 } from '../document';
import { composeMatrix, multiplyMatrices, quatFromTurn, type Mat4 } from '../geometry';
import { numbersOf, type XmlElement } from './xml-tree';

/** The elements that place a node (COLLADA 1.4.1, 5-17). */
export const TRANSFORMS = ['matrix', 'translate', 'rotate', 'scale', 'lookat', 'skew'];

/** One step of a node's placement, as numbers that an animation may change. */
export interface TransformStep {
  kind: string;
  sid: string;
  values: Float64Array;
}

/** The steps that place a node, in their order, each with its `sid`. */
export function stepsOf(node: XmlElement): TransformStep[] {
  return node.children
    .filter((one) => TRANSFORMS.includes(one.name))
    .map((one) => ({ kind: one.name, sid: one.attributes.sid ?? '', values: numbersOf(one) }));
}

const LENGTHS: Record<string, number> = { matrix: 16, translate: 3, rotate: 4, scale: 3 };

/** Whether a step has as many numbers as its kind asks for, all finite. */
export function isWhole(step: TransformStep): boolean {
  return step.values.length === LENGTHS[step.kind] && step.values.every(Number.isFinite);
}

/** The matrix of a node, column-major: its steps multiplied in their order (COLLADA 1.4.1, “node”). */
export function matrixOf(steps: readonly TransformStep[]): Mat4 {
  let result: Mat4 = composeMatrix([0, 0, 0], [0, 0, 0, 1], [1, 1, 1]);
  for (const step of steps) result = multiplyMatrices(result, stepMatrix(step));
  return result;
}

function stepMatrix({ kind, values: v }: TransformStep): Mat4 {
  switch (kind) {
    // Written row by row.
    case 'matrix':
      return transposed(v);
    case 'translate':
      return composeMatrix([v[0], v[1], v[2]], [0, 0, 0, 1], [1, 1, 1]);
    case 'scale':
      return composeMatrix([0, 0, 0], [0, 0, 0, 1], [v[0], v[1], v[2]]);
    default:
      return composeMatrix([0, 0, 0], aboutAxis([v[0], v[1], v[2]], v[3]), [1, 1, 1]);
  }
}

/** Sixteen numbers by rows as a matrix by columns. */
export function transposed(v: ArrayLike<number>): Mat4 {
  const out = new Float64Array(16);
  for (let row = 0; row < 4; row++) for (let column = 0; column < 4; column++) out[4 * column + row] = v[4 * row + column];
  return out;
}

function aboutAxis(axis: Vec3, degrees: number): [number, number, number, number] {
  const length = Math.hypot(...axis);
  if (!(length > 0)) return quatFromTurn([0, 0, 0], 'xyz');
  const half = (degrees * Math.PI) / 360;
  const sine = Math.sin(half) / length;
  return [axis[0] * sine, axis[1] * sine, axis[2] * sine, Math.cos(half)];
}
