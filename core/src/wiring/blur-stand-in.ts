import { encode as encodePng } from 'fast-png';
import Joi from 'joi';
import {
  countSchema,
  defineOperation,
  freeName,
  idSchema,
  KitError,
  nameSchema,
  newId,
  newMaterial,
  newPart,
  nextOrder,
  partOf,
  putArray,
  type Axis,
  type Blobs,
  type Id,
  type Kit,
  type Material,
  type Span,
} from '../document';
import { decomposeMatrix, invertMatrix, linearToSrgb, multiplyMatrices, oklabToLinear, restWorlds, ShearError } from '../geometry';
import { setSwitch } from './switches';
import { coverOf, cutAround, gridOver, HALF_PLANES, type HalfGrid } from './turned-cover';
import { outlinesOf, type HalfPoint } from './turned-outline';
import { turnedPart, type TurnedPart } from './turned-triangles';

/** A part of which no blurred stand-in can be made, and why. */
export class BlurError extends KitError {
  constructor(message: string, where: string | null = null) {
    super('blur', message, where);
  }
}

/** Texels along the outline, at the least; a power of two. */
const TEXELS = 128;
/** Texels of a stretch of it, at the least: how it begins and how it ends. */
const LEAST = 2;
/** Rows of a texture that is cut out: as many steps of coverage. */
const STEPS = 64;
/** How often the rows of a texture that is cut out go round: a fine pattern, not patches. */
const ROUNDS = 8;
/** Corners about the axis: a rim is off by less than half a hundredth of its radius. */
const ROUND = 32;

/** A stretch of an outline that is straight, and which texels are its own. */
interface Band {
  from: HalfPoint;
  to: HalfPoint;
  start: number;
  texels: number;
}

/** Straight stretches of all outlines one after the other, as much of the texture each as they are long; none on the axis itself. */
function bandsOf(outlines: readonly (readonly HalfPoint[])[]): { bands: Band[]; width: number } {
  const pairs = outlines.flatMap((line) => line.slice(1).map((to, i) => [line[i], to] as const)).filter(([a, b]) => a[0] > 0 || b[0] > 0);
  const lengths = pairs.map(([a, b]) => Math.hypot(b[0] - a[0], b[1] - a[1]));
  const total = lengths.reduce((sum, length) => sum + length, 0);
  const width = 2 ** Math.ceil(Math.log2(Math.max(TEXELS, 2 * LEAST * pairs.length)));
  let done = 0;
  let start = 0;
  const bands = pairs.map(([from, to], i) => {
    done += lengths[i];
    const end = LEAST * (i + 1) + Math.round(((width - LEAST * pairs.length) * done) / total);
    const band = { from, to, start, texels: end - start };
    start = end;
    return band;
  });
  return { bands, width };
}

/** What is seen at each texel of the outline: OKLab, and the share of a turn in which something is there. */
interface Seen {
  colours: Float64Array;
  alpha: Float64Array;
}

/**
 * Looks from each texel of the outline straight in, in every half-plane: the first thing that is met is what is seen there in that moment.
 * The share of the turn in which there is anything is how much covers it; colours are the mean of what is met.
 */
function lookIn(part: TurnedPart, grid: HalfGrid, bands: readonly Band[]): Seen {
  const rays = bands.flatMap((band) => Array.from({ length: band.texels }, (_, i) => cellsAlong(band, (i + 0.5) / band.texels, grid)));
  const colours = new Float64Array(3 * rays.length);
  const coloured = new Float64Array(rays.length);
  const alpha = new Float64Array(rays.length);
  cutAround(part, grid, ({ cells, colours: met }) => {
    rays.forEach((ray, texel) => {
      const hit = ray.findIndex((cell) => cells[cell] > 0);
      if (hit < 0) return;
      alpha[texel]++;
      const surface = ray.slice(hit).find((cell) => cells[cell] === 2);
      if (surface === undefined) return;
      coloured[texel]++;
      for (let i = 0; i < 3; i++) colours[3 * texel + i] += met[3 * surface + i];
    });
  });
  for (let texel = 0; texel < rays.length; texel++) {
    alpha[texel] /= HALF_PLANES;
    // Where nothing is met the colour is that beside it, so that no other one bleeds in.
    const [from, by] = coloured[texel] > 0 ? [texel, coloured[texel]] : [Math.max(0, texel - 1), 1];
    for (let i = 0; i < 3; i++) colours[3 * texel + i] = colours[3 * from + i] / by;
  }
  return { colours, alpha };
}

/** Cells that are met from a place of the outline straight in; from a little before it, since simplifying may have moved it. */
function cellsAlong(band: Band, share: number, { columns, rows, width, height, from }: HalfGrid): number[] {
  const [dr, dh] = [band.to[0] - band.from[0], band.to[1] - band.from[1]];
  const length = Math.hypot(dr, dh);
  const inward = [-dh / length, dr / length];
  const step = Math.min(width, height) / 2;
  const out: number[] = [];
  const most = 2 * (columns + rows) * (Math.max(width, height) / step);
  for (let i = -3; i < most; i++) {
    const column = Math.floor((band.from[0] + share * dr + i * step * inward[0]) / width);
    const row = Math.floor((band.from[1] + share * dh - from + i * step * inward[1]) / height);
    if (column < 0 || column >= columns || row < 0 || row >= rows) {
      if (i > 3) break;
      continue;
    }
    const cell = row * columns + column;
    if (out.at(-1) !== cell) out.push(cell);
  }
  return out;
}

/** What a bit-reversed counter gives: numbers below 64, each once, far from their neighbours. */
const spread = (n: number) => Array.from({ length: 6 }, (_, bit) => ((n >> bit) & 1) << (5 - bit)).reduce((sum, bit) => sum + bit, 0);

/**
 * The texture: along the outline, and about the axis. Where materials can't be blended, what covers a share of the turn is there at that
 * share of the rows, spread evenly.
 */
function textureOf({ colours, alpha }: Seen, cut: boolean): { bytes: Uint8Array; width: number; height: number } {
  const height = cut ? STEPS : 4;
  const width = alpha.length;
  const data = new Uint8Array(4 * width * height);
  for (let x = 0; x < width; x++) {
    const linear = oklabToLinear(colours.subarray(3 * x, 3 * x + 3));
    const shift = Math.round(x * STEPS * 0.618034);
    for (let y = 0; y < height; y++) {
      const shown = alpha[x] > (spread((y + shift) % STEPS) + 0.5) / STEPS ? 255 : 0;
      data.set([...linear.map(linearToSrgb), cut ? shown : Math.round(255 * alpha[x])], 4 * (y * width + x));
    }
  }
  return { bytes: encodePng({ width, height, channels: 4, depth: 8, data }), width, height };
}

/** Bands turned about an axis: each with normals of its own, round about, sharp against the next. */
function lathe(
  bands: readonly Band[],
  width: number,
  rounds: number,
  axis: Axis,
): { positions: Float32Array; normals: Float32Array; uvs: Float32Array; indices: Uint32Array } {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  const put = (list: number[], round: number, angle: number, along: number) => {
    const at = list.length;
    list.push(0, 0, 0);
    list[at + axis] = along;
    list[at + ((axis + 1) % 3)] = round * Math.cos(angle);
    list[at + ((axis + 2) % 3)] = round * Math.sin(angle);
  };
  for (const { from, to, start: first, texels } of bands) {
    const [dr, dh] = [to[0] - from[0], to[1] - from[1]];
    const length = Math.hypot(dr, dh);
    const start = positions.length / 3;
    for (let s = 0; s <= ROUND; s++) {
      const angle = (2 * Math.PI * (s % ROUND)) / ROUND;
      [from, to].forEach(([radius, along], end) => {
        put(positions, radius, angle, along);
        put(normals, dh / length, angle, -dr / length);
        uvs.push((first + (end === 0 ? 0.5 : texels - 0.5)) / width, (rounds * s) / ROUND);
      });
    }
    for (let s = 0; s < ROUND; s++) {
      const [a, b, c, d] = [0, 1, 2, 3].map((k) => start + 2 * s + k);
      if (from[0] > 0) indices.push(a, c, b);
      if (to[0] > 0) indices.push(b, c, d);
    }
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  };
}

/** glTF sampler constants: ends of the outline do not meet, the way round does. */
const CLAMP = 33071;
const REPEAT = 10497;

/** Puts the shape, its texture and its material into the kit. Writes to the draft. @returns Id of the new part */
function putStandIn(kit: Kit, blobs: Blobs, part: Id, axis: Axis, name: string, cut: boolean): Id {
  const { parent, name: of } = kit.parts[part];
  const turned = turnedPart(kit, blobs, part, axis);
  if (!turned) throw new BlurError(`“${of}” has no size along one of its own axes. Give it one first.`, of);
  const grid = gridOver(turned.corners);
  if (!grid)
    throw new BlurError(
      `“${of}” shows nothing off its own ${'xyz'[axis]} axis that could blur. Choose a part with a mesh on it, or below it.`,
      of,
    );
  const { bands, width: texels } = bandsOf(outlinesOf(coverOf(turned, grid), grid));
  if (bands.length === 0)
    throw new BlurError(
      `“${of}” covers less than a fiftieth of a turn about its own ${'xyz'[axis]} axis: nothing of it would be seen. Try another axis.`,
      of,
    );
  const seen = lookIn(turned, grid, bands);
  const above = parent === null ? null : restWorlds(kit).get(parent)!;
  const back = above && invertMatrix(above);
  const { translation, rotation, scale, shear } = decomposeMatrix(back ? multiplyMatrices(back, turned.frame) : turned.frame);
  if (shear > 1e-6 || (above && !back)) throw new ShearError([of], 'A stand-in there');
  const through = cut ? 'MASK' : 'BLEND';
  const opaque = seen.alpha.every((value) => value > 1 - 1 / HALF_PLANES);
  const { positions, normals, uvs, indices } = lathe(bands, texels, cut && !opaque ? ROUNDS : 1, axis);
  positions.forEach((value, i) => (positions[i] = value * scale[i % 3]));
  const { bytes, width, height } = textureOf(seen, cut && !opaque);
  const image = { id: newId(), name, mediaType: 'image/png', blob: blobs.put(bytes), bytes: bytes.length, width, height };
  const material: Material = newMaterial({
    name,
    metallic: turned.metallic,
    roughness: turned.roughness,
    baseColorTexture: { image: image.id, texCoord: 0, wrapS: CLAMP, wrapT: REPEAT },
    alphaMode: opaque ? 'OPAQUE' : through,
  });
  const mesh = newId();
  const made = newPart({ name, parent, order: nextOrder(kit, parent), translation, rotation, mesh });
  kit.images[image.id] = image;
  kit.materials[material.id] = material;
  kit.meshes[mesh] = {
    id: mesh,
    name,
    primitives: [
      {
        material: material.id,
        attributes: { POSITION: putArray(blobs, positions, 3), NORMAL: putArray(blobs, normals, 3), TEXCOORD_0: putArray(blobs, uvs, 2) },
        indices: putArray(blobs, indices, 1),
      },
    ],
  };
  kit.parts[made.id] = made;
  return made.id;
}

/**
 * Makes what a part looks like when it spins fast about one of its own axes, with all below it: the outline of what it covers, turned about
 * the axis, with what is seen of it averaged round the axis in a small texture. Of the two one is shown at a time: the part itself
 * below a value of a variable, the stand-in from there on.
 *
 * In cylinder coordinates about the axis, by half-planes (`turned-cover.ts`).
 *
 * @param cut Materials can't be blended by the target: the share that is covered is cut out in a fine pattern.
 * @param bothWays The stand-in is shown below minus the value, too.
 * @throws {BlurError} for a part without a mesh, one that is switched already, or one that covers next to nothing
 * @throws {ShearError} where what carries the part is skewed
 */
export const makeBlur = defineOperation<{
  part: Id;
  axis: Axis;
  variable: string;
  index: number | null;
  from: number;
  bothWays: boolean;
  cut: boolean;
  name?: string;
}>({
  id: 'wiring.make-blur',
  title: (kit, { part }) => `Make a blurred stand-in of “${kit.parts[part]?.name}”`,
  args: Joi.object({
    part: idSchema.required(),
    axis: Joi.valid(0, 1, 2).required(),
    variable: Joi.string().min(1).max(120).required(),
    index: countSchema.allow(null).required(),
    from: Joi.number().required(),
    bothWays: Joi.boolean().required(),
    cut: Joi.boolean().required(),
    name: nameSchema,
  }),
  change(kit, { part, axis, variable, index, from, bothWays, cut, name: wanted }, blobs) {
    const { name } = partOf(kit, part);
    if (kit.switches?.some((one) => one.part === part))
      throw new BlurError(`“${name}” is shown and hidden by something already. Show it always first.`, name);
    if (bothWays && !(from > 0))
      throw new BlurError('From nothing on both ways there is nothing left in between. Let it begin above 0.', name);
    const taken = new Set(Object.values(kit.parts).map((one) => one.name));
    const made = putStandIn(kit, blobs, part, axis, freeName(wanted ?? `${name}_blurred`, taken), cut);
    const still: Span[] = [{ from: bothWays ? -from : null, to: from }];
    const fast: Span[] = bothWays
      ? [
          { from: null, to: -from },
          { from, to: null },
        ]
      : [{ from, to: null }];
    const among = kit.parts[made].name.slice(0, 120);
    setSwitch.change(kit, { part, variable, index, spans: still, among }, blobs);
    setSwitch.change(kit, { part: made, variable, index, spans: fast, among }, blobs);
    return { parts: [part, made] };
  },
});
