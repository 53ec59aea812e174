import { partsInOrder, readArray, type Blobs, type Clip, type Id, type Kit, type Part } from '../document';
import { emptyBounds, flattenParts, isEmptyBounds, joinBounds, Poser, posedVertices, type Bounds } from '../geometry';
import { compileClip, sampleClip } from '../motion';

/** A time of a clip; null at rest. */
export type Moment = { clip: Id; seconds: number } | null;

/** Where a part goes: its bounds over everything that is played, and when it comes to each of their six sides. */
export interface SweptPart {
  bounds: Bounds;
  /** Sides x, y and z at their lowest, then at their highest. */
  when: Moment[];
}

/** What is posed at each frame: all parts that show a mesh. */
interface Sweeping {
  part: Part;
  at: number;
  /** Places of a part that is rigid, one array a primitive; null where it is deformed. */
  rigid: Float32Array[] | null;
  /** The world matrix for which it was measured last: a part that stands still is measured once. */
  last: Float64Array;
  /** Where its vertices were at the last look, to be written over. */
  posed?: Float64Array;
  swept: SweptPart;
}

/**
 * Where every part that shows a mesh goes, over each frame of the clips and at rest: exact over its vertices, skins and morph targets
 * included. Metres, seconds.
 *
 * @param clips As the platform plays them.
 */
export function sweptParts(kit: Kit, blobs: Blobs, clips: Iterable<Clip>): Map<Id, SweptPart> {
  const poser = new Poser(flattenParts(kit));
  const all = partsInOrder(kit)
    .filter((part) => part.mesh !== null)
    .map((part): Sweeping => {
      const { primitives, strokes = [], targets } = kit.meshes[part.mesh!];
      const deformed = part.skin !== null || (targets?.length ?? 0) > 0;
      return {
        part,
        at: 16 * poser.flat.indexOf.get(part.id)!,
        rigid: deformed ? null : [...primitives, ...strokes].map(({ attributes }) => readArray<Float32Array>(blobs, attributes.POSITION)),
        last: new Float64Array(16).fill(NaN),
        swept: { bounds: emptyBounds(), when: Array.from({ length: 6 }, () => null) },
      };
    });
  const grow = (moment: Moment) => {
    for (const one of all) growSwept(one, poser, kit, blobs, moment);
  };
  grow(null);
  for (const clip of clips) {
    const compiled = compileClip(clip, poser.flat, blobs);
    const frames = framesOf(clip);
    for (let frame = 0; frame <= frames; frame++) {
      const seconds = (clip.lengthSeconds * frame) / frames;
      poser.reset();
      sampleClip(compiled, seconds, poser.pose);
      poser.update();
      grow({ clip: clip.id, seconds });
    }
  }
  return new Map(all.filter(({ swept }) => !isEmptyBounds(swept.bounds)).map(({ part, swept }) => [part.id, swept]));
}

/** How many frames a clip is looked at in: 0 to this. */
export const framesOf = ({ lengthSeconds, rate }: Pick<Clip, 'lengthSeconds' | 'rate'>): number =>
  Math.max(1, Math.round(lengthSeconds * rate));

function growSwept(one: Sweeping, poser: Poser, kit: Kit, blobs: Blobs, moment: Moment): void {
  const { part, at, rigid, last, swept } = one;
  if (rigid === null) {
    one.posed = posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id), one.posed);
    takeIn(swept, one.posed, moment);
    return;
  }
  const m = poser.world;
  let still = true;
  for (let i = 0; i < 16; i++)
    if (last[i] !== m[at + i]) {
      last[i] = m[at + i];
      still = false;
    }
  if (still) return;
  for (const places of rigid) takeInMoved(swept, places, last, moment);
}

const sides = new Float64Array(6);

/** Takes in points as a matrix puts them: the six extremes are found without writing a point down. */
function takeInMoved(swept: SweptPart, places: Float32Array, m: Float64Array, moment: Moment): void {
  const [a, b, c, , e, f, g, , i, j, k, , x0, y0, z0] = m;
  let lx = Infinity;
  let ly = Infinity;
  let lz = Infinity;
  let hx = -Infinity;
  let hy = -Infinity;
  let hz = -Infinity;
  for (let v = 0; v < places.length; v += 3) {
    const px = places[v];
    const py = places[v + 1];
    const pz = places[v + 2];
    const x = a * px + e * py + i * pz;
    const y = b * px + f * py + j * pz;
    const z = c * px + g * py + k * pz;
    if (x < lx) lx = x;
    if (x > hx) hx = x;
    if (y < ly) ly = y;
    if (y > hy) hy = y;
    if (z < lz) lz = z;
    if (z > hz) hz = z;
  }
  sides.set([lx + x0, ly + y0, lz + z0, hx + x0, hy + y0, hz + z0]);
  takeInSides(swept, moment);
}

function takeIn(swept: SweptPart, points: ArrayLike<number>, moment: Moment): void {
  sides.fill(Infinity, 0, 3).fill(-Infinity, 3);
  for (let v = 0; v < points.length; v++) {
    const axis = v % 3;
    if (points[v] < sides[axis]) sides[axis] = points[v];
    if (points[v] > sides[3 + axis]) sides[3 + axis] = points[v];
  }
  takeInSides(swept, moment);
}

function takeInSides({ bounds: { min, max }, when }: SweptPart, moment: Moment): void {
  for (let axis = 0; axis < 3; axis++) {
    if (sides[axis] < min[axis]) {
      min[axis] = sides[axis];
      when[axis] = moment;
    }
    if (sides[3 + axis] > max[axis]) {
      max[axis] = sides[3 + axis];
      when[3 + axis] = moment;
    }
  }
}

/** Bounds of everything that was swept. */
export const sweptTogether = (swept: ReadonlyMap<Id, SweptPart>): Bounds => joinBounds([...swept.values()].map(({ bounds }) => bounds));
