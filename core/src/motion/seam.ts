import type { Blobs, Clip, Id, Kit } from '../document';
import { MeasuredVertices, type Poser } from '../geometry';
import { poseOfClip, type PoseAt } from './pose-difference';

export interface SeamFigure {
  /** How far apart the vertex is that is furthest, millimetres, and by how much the speed of any jumps, millimetres a second. */
  millimetres: number;
  speed: number;
  part: Id | null;
}

/**
 * Measures how two moments of a clip meet, at every measured vertex: deformed ones, those moved by morph targets, and pivots.
 *
 * @param root Whose way over the ground, and heading, is taken off; null takes nothing off.
 */
export class SeamMeasure {
  private readonly poseAt: PoseAt;
  private readonly rootAt: number;

  constructor(
    kit: Kit,
    clip: Clip,
    blobs: Blobs,
    root: Id | null,
    private readonly vertices = new MeasuredVertices(kit, blobs),
  ) {
    this.poseAt = poseOfClip(kit, clip, blobs);
    this.rootAt = root === null ? -1 : 16 * this.poseAt(0).flat.indexOf.get(root)!;
  }

  /**
   * The seam between a moment and the one that it goes on to, seconds.
   *
   * @param step Seconds over which speeds are taken: before the end, and after the start.
   */
  between(end: number, start: number, step: number): SeamFigure {
    const out: SeamFigure = { millimetres: 0, speed: 0, part: null };
    const [last, first] = [this.places(end), this.places(start)];
    this.vertices.eachDifference(last, first, (part, _, metres) => {
      if (1000 * metres > out.millimetres) [out.millimetres, out.part] = [1000 * metres, part];
    });
    const before = speeds(this.places(end - step), last, step);
    const after = speeds(first, this.places(start + step), step);
    this.vertices.eachDifference(before, after, (_, __, metres) => (out.speed = Math.max(out.speed, 1000 * metres)));
    return out;
  }

  private places(time: number): Float64Array {
    const poser = this.poseAt(time);
    const out = new Float64Array(3 * this.vertices.count);
    this.vertices.place(poser, out);
    if (this.rootAt >= 0) takeOffPlacement(out, poser, this.rootAt);
    return out;
  }
}

function speeds(from: Float64Array, to: Float64Array, step: number): Float64Array {
  return from.map((value, i) => (to[i] - value) / step);
}

/** Heading and place over the ground of a part whose matrix begins there: cosine, sine, x and z in metres. */
export function placementOf({ world }: Pick<Poser, 'world'>, at: number): [cos: number, sin: number, x: number, z: number] {
  const heading = Math.atan2(world[at + 8], world[at + 10]);
  return [Math.cos(heading), Math.sin(heading), world[at + 12], world[at + 14]];
}

function takeOffPlacement(places: Float64Array, poser: Poser, at: number): void {
  const [cos, sin, x0, z0] = placementOf(poser, at);
  for (let i = 0; i < places.length; i += 3) {
    const [x, z] = [places[i] - x0, places[i + 2] - z0];
    places[i] = cos * x - sin * z;
    places[i + 2] = sin * x + cos * z;
  }
}
