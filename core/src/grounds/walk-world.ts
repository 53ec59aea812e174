import {
  partsInOrder,
  readArray,
  type Blobs,
  type Clip,
  type ColliderShape,
  type Footprint,
  type Id,
  type Kit,
  type Part,
} from '../document';
import { flattenParts, Poser, posedVertices, transformPoint } from '../geometry';
import { compileClip, sampleClip, type CompiledClip } from '../motion';
import { surfaceOf } from './collider-shapes';
import { fitShape, ownPoints } from './fit-collider';
import type { WalkRules } from './rules';
import { reachableHeights, floorsOf } from './walk-floors';
import { framesOf } from './swept';
import { WalkSpans, type Cause, type WalkWorld } from './walk-spans';

/** Columns of the ground are a third of a visitor's half width wide. */
const CELLS_IN_RADIUS = 3;
/** No more columns than this to a side: of a plot so large that there would be, they are wider. */
const MOST_CELLS = 256;
/** A part of more triangles than these that moves is its hull. */
const MOST_TRIANGLES = 4000;
/** How deep the ground itself is filled, metres. */
const GROUND_DEPTH = 1;

/** Parts that some clip moves, all that hangs on them, and what their joints deform. */
export function movingParts(kit: Kit, clips: readonly Clip[]): Set<Id> {
  const moved = new Set<Id>(clips.flatMap((clip) => clip.tracks.map(({ part }) => part)));
  for (const part of partsInOrder(kit)) if (part.parent !== null && moved.has(part.parent)) moved.add(part.id);
  for (const { id, skin } of Object.values(kit.parts))
    if (skin !== null && kit.skins[skin].joints.some((joint) => moved.has(joint))) moved.add(id);
  return moved;
}

/** Corners of all triangles of a mesh by vertex number, over all its primitives. */
export function triangleCorners(kit: Kit, blobs: Blobs, part: Part): Uint32Array {
  const { primitives } = kit.meshes[part.mesh!];
  const corners: number[] = [];
  let first = 0;
  for (const { attributes, indices } of primitives) {
    for (const corner of readArray<Uint32Array>(blobs, indices)) corners.push(first + corner);
    first += attributes.POSITION.count;
  }
  return Uint32Array.from(corners);
}

/**
 * Fills the columns over a footprint with the ground, all that stands still, and at every place they come to in the clips what moves. What
 * is hidden on the bench is in the package, so it is in the way.
 *
 * @param clips As the platform plays them. @param footprint Metres, in the kit's space at rest.
 */
export function buildWalkWorld(kit: Kit, blobs: Blobs, clips: readonly Clip[], footprint: Footprint, rules: WalkRules): WalkWorld {
  const [width, depth] = [footprint.high[0] - footprint.low[0], footprint.high[2] - footprint.low[2]];
  const cell = Math.max(rules.radius / CELLS_IN_RADIUS, Math.max(width, depth) / MOST_CELLS);
  const spans = new WalkSpans([footprint.low[0], footprint.low[2]], cell, Math.ceil(width / cell - 1e-6), Math.ceil(depth / cell - 1e-6));
  const causes: Cause[] = [{ part: null, kind: 'ground' }];
  for (let column = 0; column < spans.columns.length; column++) spans.fill(column, -GROUND_DEPTH, 0, true, 0);
  const moving = movingParts(kit, clips);
  const poser = new Poser(flattenParts(kit));
  const parts = partsInOrder(kit).filter(({ mesh }) => mesh !== null);
  const flat = Math.cos((rules.slope * Math.PI) / 180);
  const solids = parts.map((part) => ({ part, corners: triangleCorners(kit, blobs, part), last: null as Float64Array | null }));
  for (const { part, corners } of solids) {
    if (moving.has(part.id)) continue;
    causes.push({ part: part.id, kind: 'part' });
    fillMesh(
      spans,
      posedVertices(kit, blobs, part, (id) => poser.worldOf(id)),
      corners,
      flat,
      causes.length - 1,
    );
  }
  // What moves far above all heads, or below all feet, is in nobody's way.
  const [lowest, highest] = reachableHeights(floorsOf({ spans, causes, rules }));
  const within: [number, number] = [lowest, highest + rules.height];
  const carried = solids.filter(({ part, corners }) => moving.has(part.id) && !isFine(part, corners));
  const block = (part: Id, shape: ColliderShape) => ({ part, surface: surfaceOf(shape), last: null as Float64Array | null });
  // What is very finely made and moves stands in the way as its hull: filled triangle by triangle at each frame it would take minutes.
  const hulls = solids.flatMap(({ part, corners }) => {
    const shape = moving.has(part.id) && isFine(part, corners) ? fitShape(ownPoints(kit, blobs, part.id), 'hull') : null;
    return shape ? [block(part.id, shape)] : [];
  });
  const blocks = [...(kit.colliders ?? []).map((collider) => block(collider.part, collider)), ...hulls];
  const causeOf = new Map<object, number>();
  for (const one of [...carried, ...blocks]) {
    if ('surface' in one) causes.push({ part: one.part, kind: hulls.includes(one) ? 'moving' : 'collider' });
    else causes.push({ part: one.part.id, kind: 'moving' });
    causeOf.set(one, causes.length - 1);
  }
  const fillMoving = () => {
    for (const one of carried) {
      const vertices = posedVertices(kit, blobs, one.part, (id) => poser.worldOf(id), poser.weightsOf(one.part.id));
      if (!hasMoved(one.last, vertices, cell)) continue;
      one.last = vertices;
      fillMesh(spans, vertices, one.corners, Infinity, causeOf.get(one)!, within);
    }
    for (const one of blocks) {
      const world = poser.worldOf(one.part);
      const vertices = new Float64Array(one.surface.length);
      for (let i = 0; i < vertices.length; i += 3) vertices.set(transformPoint(world, one.surface.subarray(i, i + 3)), i);
      if (!hasMoved(one.last, vertices, cell)) continue;
      one.last = vertices;
      fillMesh(spans, vertices, null, Infinity, causeOf.get(one)!, within);
    }
  };
  fillMoving();
  for (const clip of clips) playThrough(poser, clip, blobs, fillMoving);
  return { spans, causes, rules };
}

/** Whether a part has more triangles than are filled at each place that it comes to; what joints deform has no hull of its own. */
const isFine = (part: Part, corners: Uint32Array): boolean => corners.length > 3 * MOST_TRIANGLES && part.skin === null;

function playThrough(poser: Poser, clip: Clip, blobs: Blobs, each: () => void): void {
  const compiled: CompiledClip = compileClip(clip, poser.flat, blobs);
  const frames = framesOf(clip);
  for (let frame = 0; frame <= frames; frame++) {
    poser.reset();
    sampleClip(compiled, (clip.lengthSeconds * frame) / frames, poser.pose);
    poser.update();
    each();
  }
}

/** Whether any vertex has gone further than this since it was looked at last. */
function hasMoved(before: Float64Array | null, now: Float64Array, least: number): boolean {
  if (before === null) return true;
  for (let i = 0; i < now.length; i += 3)
    if (Math.hypot(now[i] - before[i], now[i + 1] - before[i + 1], now[i + 2] - before[i + 2]) > least) return true;
  return false;
}

/**
 * Fills the columns under triangles.
 *
 * @param flat Cosine of the steepest slope; Infinity where nothing of it can be stood on. @param within Heights that count, metres.
 */
function fillMesh(
  spans: WalkSpans,
  vertices: Float64Array,
  corners: Uint32Array | null,
  flat: number,
  cause: number,
  within: readonly [number, number] = [-GROUND_DEPTH, Infinity],
): void {
  const triangle = new Float64Array(9);
  const length = corners?.length ?? vertices.length / 3;
  for (let t = 0; t + 2 < length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const at = 3 * (corners ? corners[t + k] : t + k);
      triangle[3 * k] = vertices[at];
      triangle[3 * k + 1] = vertices[at + 1];
      triangle[3 * k + 2] = vertices[at + 2];
    }
    if (Math.max(triangle[1], triangle[4], triangle[7]) < within[0] || Math.min(triangle[1], triangle[4], triangle[7]) > within[1])
      continue;
    spans.fillTriangle(triangle, isFlat(triangle, flat), cause);
  }
}

/** Whether a triangle is no steeper than asked, whichever side of it is its front. */
function isFlat([ax, ay, az, bx, by, bz, cx, cy, cz]: Float64Array, flat: number): boolean {
  const nx = (by - ay) * (cz - az) - (bz - az) * (cy - ay);
  const ny = (bz - az) * (cx - ax) - (bx - ax) * (cz - az);
  const nz = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
  return Math.abs(ny) >= flat * Math.hypot(nx, ny, nz) - 1e-9;
}
