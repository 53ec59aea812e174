import {
  newMaterial,
  readArray,
  subtreeOf,
  type Accessor,
  type Axis,
  type Blobs,
  type Id,
  type Kit,
  type Material,
  type TextureSlot,
} from '../document';
import {
  cross,
  decodeImage,
  dot,
  invertMatrix,
  linearToOklab,
  loosePieces,
  meshPlaces,
  posedVertices,
  restWorlds,
  srgbToLinear,
  subtract,
  wholeMesh,
  type Mat4,
} from '../geometry';
import type { TurnedTriangles } from './turned-cover';
import { axisOf, originOf } from './link-frames';

/** What a part shows with all below it, about one of its own axes. */
export interface TurnedPart extends TurnedTriangles {
  /** World placement of what is turned: its pivot, the axis along its own axis of the same letter, no scale. */
  frame: Mat4;
  /** Mean of the materials by area. */
  metallic: number;
  roughness: number;
}

/** glTF sampler constants (2.0, 5.26). */
const CLAMPED = 33071;
const MIRRORED = 33648;

/** Where a texture's coordinate falls, 0 to 1. */
function wrapped(value: number, wrap: number): number {
  if (wrap === CLAMPED) return Math.min(1, Math.max(0, value));
  const whole = Math.floor(value);
  const rest = value - whole;
  return wrap === MIRRORED && whole % 2 !== 0 ? 1 - rest : rest;
}

/** What a texture has at a place: linear red, green, blue, and how much is there. */
type Lookup = (u: number, v: number, out: Float64Array) => void;

/** Nearest pixel. @throws {ImageFormatError} for a picture that is neither PNG nor JPEG */
function lookupOf(kit: Kit, blobs: Blobs, { image: id, wrapS, wrapT, transform }: TextureSlot): Lookup {
  const { blob, mediaType, name } = kit.images[id];
  const { width, height, channels, data } = decodeImage(blobs.get(blob), mediaType, name);
  const full = data instanceof Uint16Array ? 257 : 1;
  const colours = channels < 3 ? 1 : 3;
  const { offset, rotation, scale } = transform ?? { offset: [0, 0], rotation: 0, scale: [1, 1] };
  const [cos, sin] = [Math.cos(rotation), Math.sin(rotation)];
  const linear = Float64Array.from({ length: 256 }, (_, i) => srgbToLinear(i));
  return (u, v, out) => {
    // KHR_texture_transform: T · R · S.
    const [su, sv] = [u * scale[0], v * scale[1]];
    const x = Math.min(width - 1, Math.floor(wrapped(cos * su + sin * sv + offset[0], wrapS) * width));
    const y = Math.min(height - 1, Math.floor(wrapped(cos * sv - sin * su + offset[1], wrapT) * height));
    const at = (y * width + x) * channels;
    for (let i = 0; i < 3; i++) out[i] = linear[Math.round(data[at + (colours === 1 ? 0 : i)] / full)];
    out[3] = channels > colours ? data[at + channels - 1] / full / 255 : 1;
  };
}

/** What a material is like where its triangles are. */
interface Paint extends Pick<Material, 'baseColor' | 'metallic' | 'roughness'> {
  /** Below this share of being there nothing is; 0 for what is never see-through. */
  cutoff: number;
  lookup: Lookup | null;
  uvs: ArrayLike<number> | null;
  colours: Accessor | null;
  colourRows: ArrayLike<number>;
  /** Where its triangles begin among all, and their corners by its own vertices. */
  first: number;
  corners: ArrayLike<number>;
}

/** 1 for each triangle of a mesh whose piece is closed: over each edge as many triangles run one way as the other. */
function closedTriangles(places: Uint32Array): Uint8Array {
  const { pieceOf, pieces } = loosePieces(places);
  const many = places.reduce((most, place) => Math.max(most, place + 1), 1);
  const pieceOfPlace = new Uint32Array(many);
  places.forEach((place, corner) => (pieceOfPlace[place] = pieceOf[Math.floor(corner / 3)]));
  // Both ends of an edge and its direction in one number, sorted: directions of one edge come one after the other.
  const edges = new Float64Array(places.length);
  for (let corner = 0; corner < places.length; corner++) {
    const a = places[corner];
    const b = places[corner % 3 === 2 ? corner - 2 : corner + 1];
    edges[corner] = a === b ? -1 : 2 * (Math.min(a, b) * many + Math.max(a, b)) + (a < b ? 1 : 0);
  }
  edges.sort();
  const open = new Uint8Array(pieces);
  for (let i = 0; i < edges.length;) {
    const edge = Math.floor(edges[i] / 2);
    let balance = 0;
    for (; i < edges.length && Math.floor(edges[i] / 2) === edge; i++) balance += edges[i] % 2 === 0 ? -1 : 1;
    if (edge >= 0 && balance !== 0) open[pieceOfPlace[Math.floor(edge / many)]] = 1;
  }
  return Uint8Array.from(pieceOf, (piece) => 1 - open[piece]);
}

/**
 * The triangles of a part and of all below it that is not hidden, at rest, about one of its own axes; null where it has no size along one
 * of them.
 *
 * @throws {ImageFormatError} for a texture that is neither PNG nor JPEG
 */
export function turnedPart(kit: Kit, blobs: Blobs, part: Id, axis: Axis): TurnedPart | null {
  const worlds = restWorlds(kit);
  const frame = frameOf(worlds.get(part)!, axis);
  const back = invertMatrix(frame);
  if (!back || !back.every(Number.isFinite)) return null;
  const [i, j] = [(axis + 1) % 3, (axis + 2) % 3];
  const shown = shownBelow(kit, part);
  const total = shown.reduce((sum, id) => sum + wholeMesh(kit.meshes[kit.parts[id].mesh!], blobs).indices.length / 3, 0);
  const corners = new Float64Array(9 * total);
  const solid = new Uint8Array(total);
  const paints: Paint[] = [];
  let first = 0;
  for (const id of shown) {
    const mesh = kit.meshes[kit.parts[id].mesh!];
    const whole = wholeMesh(mesh, blobs);
    const points = posedVertices(kit, blobs, kit.parts[id], (other) => worlds.get(other)!);
    whole.indices.forEach((vertex, corner) => {
      const [x, y, z] = [points[3 * vertex], points[3 * vertex + 1], points[3 * vertex + 2]];
      const at = 3 * (3 * first + corner);
      const own = (k: number) => back[k] * x + back[4 + k] * y + back[8 + k] * z + back[12 + k];
      corners.set([own(i), own(j), own(axis)], at);
    });
    solid.set(closedTriangles(meshPlaces(mesh, blobs)), first);
    mesh.primitives.forEach(({ material: of, attributes, indices }, p) => {
      const material = of === null ? newMaterial({ name: '' }) : kit.materials[of];
      const slot = material.baseColorTexture;
      const uvs = slot && attributes[`TEXCOORD_${slot.texCoord}`];
      const start = first + whole.starts[p];
      // What is cut out of a surface or see-through has no inside that anyone could not see.
      if (material.alphaMode !== 'OPAQUE') solid.fill(0, start, first + whole.starts[p + 1]);
      paints.push({
        baseColor: [...material.baseColor],
        metallic: material.metallic,
        roughness: material.roughness,
        cutoff: { OPAQUE: 0, MASK: material.alphaCutoff, BLEND: 0.5 }[material.alphaMode],
        lookup: slot && uvs ? lookupOf(kit, blobs, slot) : null,
        uvs: uvs ? readArray(blobs, uvs) : null,
        colours: attributes.COLOR_0 ?? null,
        colourRows: attributes.COLOR_0 ? readArray(blobs, attributes.COLOR_0) : [],
        first: start,
        corners: readArray(blobs, indices),
      });
    });
    first += whole.indices.length / 3;
  }
  return { corners, solid, frame, colourAt: colourer(paints, total), ...meanFinish(paints, corners) };
}

/** What is shown of a branch. */
function shownBelow(kit: Kit, part: Id): Id[] {
  const hidden = (id: Id): boolean => kit.parts[id].hidden || (id !== part && hidden(kit.parts[id].parent!));
  return [...subtreeOf(kit, part)].filter((id) => kit.parts[id].mesh !== null && !hidden(id));
}

/** The axes of a placement without its scale: the one about which it turns as it is, the two others square to it. */
function frameOf(world: Mat4, axis: Axis): Mat4 {
  const along = axisOf(world, axis);
  const beside = axisOf(world, ((axis + 1) % 3) as Axis);
  const square = beside.map((value, k) => value - dot(beside, along) * along[k]);
  const length = Math.hypot(...square);
  const one = square.map((value) => value / length);
  const other = cross(along, one);
  const frame = new Float64Array(16);
  frame.set(along, 4 * axis);
  frame.set(one, 4 * ((axis + 1) % 3));
  frame.set(other, 4 * ((axis + 2) % 3));
  frame.set([...originOf(world), 1], 12);
  return frame;
}

/** The colour at a place of any triangle: factor × texture × vertex colours, as glTF multiplies them. */
function colourer(paints: readonly Paint[], total: number): TurnedTriangles['colourAt'] {
  const paintOf = new Uint32Array(total);
  paints.forEach(({ first, corners }, p) => paintOf.fill(p, first, first + corners.length / 3));
  const texel = new Float64Array(4);
  return (triangle, b, c, out) => {
    const { baseColor, cutoff, lookup, uvs, colours, colourRows, first, corners } = paints[paintOf[triangle]];
    const at = 3 * (triangle - first);
    const shares = [1 - b - c, b, c];
    texel.fill(1);
    if (lookup) {
      let [u, v] = [0, 0];
      for (let k = 0; k < 3; k++) {
        u += shares[k] * uvs![2 * corners[at + k]];
        v += shares[k] * uvs![2 * corners[at + k] + 1];
      }
      lookup(u, v, texel);
    }
    for (let i = 0; i < 4; i++) texel[i] *= baseColor[i];
    if (colours)
      for (let i = 0; i < colours.size; i++) {
        let value = 0;
        for (let k = 0; k < 3; k++) value += shares[k] * colourRows[colours.size * corners[at + k] + i];
        texel[i] *= value;
      }
    if (texel[3] < cutoff) return false;
    out.set(linearToOklab(texel));
    return true;
  };
}

/** Mean of how metallic and how rough materials are, by area. */
function meanFinish(paints: readonly Paint[], corners: Float64Array): Pick<TurnedPart, 'metallic' | 'roughness'> {
  let [area, metallic, roughness] = [0, 0, 0];
  for (const { first, corners: own, ...finish } of paints) {
    let size = 0;
    for (let t = first; t < first + own.length / 3; t++) {
      const at = (k: number) => corners.subarray(9 * t + 3 * k, 9 * t + 3 * k + 3);
      size += Math.hypot(...cross(subtract(at(1), at(0)), subtract(at(2), at(0))));
    }
    area += size;
    metallic += size * finish.metallic;
    roughness += size * finish.roughness;
  }
  const mean = (sum: number) => (area > 0 ? Number((sum / area).toFixed(3)) : 1);
  return { metallic: mean(metallic), roughness: mean(roughness) };
}
