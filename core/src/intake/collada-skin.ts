import { multiplyMatrices, type Mat4 } from '../geometry';
import type { ColladaMesh } from './collada-geometry';
import { ColladaLibrary } from './collada-library';
import { transposed } from './collada-transform';
import { normaliseWeights } from './gltf-primitive';
import { invalid } from './intake-error';
import type { Repairs } from './repairs';
import { child, numbersOf, type XmlElement } from './xml-tree';

/** What a kit keeps of the influences of a vertex: two sets of four. */
const MOST = 8;

export interface ColladaSkin {
  /** Sids or ids of nodes. */
  joints: string[];
  /** Inverse bind matrix times bind shape, column-major. */
  binds: Mat4[];
  /** Strongest first, of every point of the geometry. */
  influences: { joint: number; weight: number }[][];
}

/** A `skin` (COLLADA 1.4.1, chapter 4, “skinning”): v' = Σ w · J · IBM · BSM · v, with IBM · BSM as glTF's inverse bind matrix. */
export function readColladaSkin(library: ColladaLibrary, skin: XmlElement): ColladaSkin {
  const { fileName } = library;
  const where = `skin of “${skin.attributes.source ?? ''}”`;
  const jointsElement = child(skin, 'joints');
  const joints = library.words(ColladaLibrary.input(jointsElement, 'JOINT'));
  const matrices = library.numbers(ColladaLibrary.input(jointsElement, 'INV_BIND_MATRIX')).values;
  if (joints.length === 0 || matrices.length < 16 * joints.length)
    throw invalid(fileName, where, `it has ${Math.floor(matrices.length / 16)} inverse bind matrices for ${joints.length} joints`);
  const shape = numbersOf(child(skin, 'bind_shape_matrix'));
  const bindShape = shape.length === 16 ? transposed(shape) : null;
  const binds = joints.map((_, i) => {
    const inverse = transposed(matrices.subarray(16 * i, 16 * i + 16));
    return bindShape ? multiplyMatrices(inverse, bindShape) : inverse;
  });
  if (binds.some((matrix) => !matrix.every(Number.isFinite))) throw invalid(fileName, where, 'an inverse bind matrix is no number');
  return { joints, binds, influences: readInfluences(library, child(skin, 'vertex_weights'), joints.length, where) };
}

function readInfluences(
  library: ColladaLibrary,
  element: XmlElement | undefined,
  joints: number,
  where: string,
): ColladaSkin['influences'] {
  const inputs = element?.children.filter((one) => one.name === 'input') ?? [];
  const offset = (semantic: string) => Number(inputs.find((input) => input.attributes.semantic === semantic)?.attributes.offset ?? 0);
  const width = 1 + Math.max(0, ...inputs.map((input) => Number(input.attributes.offset ?? 0)));
  const weights = library.numbers(ColladaLibrary.input(element, 'WEIGHT')).values;
  const [atJoint, atWeight] = [offset('JOINT'), offset('WEIGHT')];
  const v = numbersOf(child(element, 'v'));
  let at = 0;
  return Array.from(numbersOf(child(element, 'vcount')), (count) => {
    if (!(count >= 0) || at + count * width > v.length) throw invalid(library.fileName, where, 'it announces more weights than there are');
    const list: { joint: number; weight: number }[] = [];
    for (let k = 0; k < count; k++, at += width) {
      const joint = v[at + atJoint];
      const weight = weights[v[at + atWeight]];
      // −1 is the skin's own placement, that a kit has no joint for.
      if (joint === -1) continue;
      if (!Number.isInteger(joint) || joint < 0 || joint >= joints || weight === undefined)
        throw invalid(library.fileName, where, `it names joint ${joint} or a weight that is not there`);
      list.push({ joint, weight });
    }
    return list.sort((a, b) => b.weight - a.weight);
  });
}

/** Gives the vertices of a mesh the influences of the points that they were made from. */
export function weighMesh({ mesh, pointOf }: ColladaMesh, skin: ColladaSkin, name: string, repairs: Repairs): void {
  const sets = pointOf.some((point) => (skin.influences[point]?.length ?? 0) > 4) ? 2 : 1;
  const made = Array.from({ length: sets }, () => ({
    joints: new Uint16Array(4 * pointOf.length),
    weights: new Float32Array(4 * pointOf.length),
  }));
  let cut = 0;
  pointOf.forEach((point, vertex) => {
    const list = skin.influences[point] ?? [];
    if (list.length > MOST) cut++;
    list.slice(0, MOST).forEach(({ joint, weight }, k) => {
      const set = made[k >> 2];
      set.joints[4 * vertex + (k & 3)] = joint;
      set.weights[4 * vertex + (k & 3)] = weight;
    });
  });
  if (cut > 0) repairs.leftOut('influences', `all but the ${MOST} strongest joints of ${cut} vertices of “${name}”`, 'warn', name);
  repairs.count('weights-normalised', name, normaliseWeights(made.map((set) => set.weights)));
  mesh.influences = made;
}
