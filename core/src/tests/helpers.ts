import { addClip, setKeys, clipTime, compileClip, sampleClip } from '../motion';
import {
  callOf,
  emptyKit,
  MemoryBlobs,
  newPart,
  putArray,
  type Axis,
  type Blobs,
  type Call,
  type Easing,
  type Id,
  type Kit,
  type KeyProperty,
  type Part,
} from '../document';
import { runCall } from '../operations';
import { flattenParts, Poser, posedVertices } from '../geometry';

/** Helpers for tests: small kits, and where their vertices are. */

/** A wedge: no two of its corners are alike, so that no turn or mirror goes unseen. */
export function putWedge(kit: Kit, blobs: Blobs, id: Id, size = 1): Id {
  const positions = Float32Array.from([0, 0, 0, 2, 0, 0, 0, 1, 0, 0.3, 0.2, 1.5].map((value) => value * size));
  const normals = Float32Array.from([0, 0, -1, 1, 0, 0, 0, 1, 0, 0, 0, 1]);
  const attributes = { POSITION: putArray(blobs, positions, 3), NORMAL: putArray(blobs, normals, 3) };
  kit.meshes[id] = {
    id,
    name: id,
    primitives: [{ material: null, attributes, indices: putArray(blobs, Uint32Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]), 1) }],
  };
  return id;
}

/** A chain of parts, each below the one before, each with a wedge. Ids are their names. */
export function chainKit(parts: (Partial<Part> & { id: Id })[], blobs = new MemoryBlobs()): { kit: Kit; blobs: MemoryBlobs } {
  const kit = emptyKit('Test');
  parts.forEach((fields, i) => {
    const mesh = putWedge(kit, blobs, `mesh_${fields.id}`);
    const part = newPart({ name: fields.id, parent: i === 0 ? null : parts[i - 1].id, mesh, ...fields });
    kit.parts[part.id] = part;
  });
  return { kit, blobs };
}

export function run(kit: Kit, blobs: Blobs, ...calls: Call[]): Kit {
  return calls.reduce((current, call) => runCall(current, call, blobs).kit, kit);
}

/** Adds a clip named `clip` of 2 s with one key track. */
export function withMotion(
  kit: Kit,
  blobs: Blobs,
  part: Id,
  property: KeyProperty,
  axis: Axis,
  values: number[],
  easing: Easing = 'curve',
): Kit {
  let next = kit.clips.clip
    ? kit
    : run(kit, blobs, callOf(addClip, { id: 'clip', name: 'clip', lengthSeconds: 2, rate: 30, loop: 'loop' }));
  values.forEach((value, i) => {
    next = run(
      next,
      blobs,
      callOf(setKeys, { clip: 'clip', time: (2 * i) / Math.max(1, values.length - 1), easing, values: [{ part, property, axis, value }] }),
    );
  });
  return next;
}

/** World positions of every vertex, part after part by name, at a time of a clip (at rest where none is named). */
export function worldVertices(kit: Kit, blobs: Blobs, clip?: Id, time = 0): number[] {
  const poser = new Poser(flattenParts(kit));
  poser.reset();
  const at = clip === undefined ? null : clipTime(kit.clips[clip].loop, kit.clips[clip].lengthSeconds, time);
  if (clip !== undefined && at !== null) sampleClip(compileClip(kit.clips[clip], poser.flat, blobs), at, poser.pose);
  poser.update();
  return Object.values(kit.parts)
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .flatMap((part) => [...posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id))]);
}

/** The greatest difference between two lists of numbers; infinite where their lengths differ. */
export function greatestDifference(a: readonly number[], b: readonly number[]): number {
  if (a.length !== b.length) return Infinity;
  return a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);
}

/** Distance from the origin to the furthest number, at least 1: what a tolerance is a share of. */
export function extentOf(values: readonly number[]): number {
  return values.reduce((most, value) => Math.max(most, Math.abs(value)), 1);
}

export const TIMES = [0, 0.21, 0.5, 0.83, 1.17, 1.6, 1.99];

/** A ball of radius 1 with shared corners, normals and UVs, `segments` around and two less up; each pole is a fan. */
export function putSphere(kit: Kit, blobs: Blobs, id: Id, segments: number, rings = segments): Id {
  const positions: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  for (let r = 0; r <= rings; r++) {
    for (let s = 0; s <= segments; s++) {
      const up = (Math.PI * r) / rings;
      // The seam and the poles stand at the very same places.
      const round = (2 * Math.PI * (s % segments)) / segments;
      const wide = r === 0 || r === rings ? 0 : Math.sin(up);
      positions.push(wide * Math.cos(round), Math.cos(up), -wide * Math.sin(round));
      uvs.push(s / segments, r / rings);
      if (r === rings || s === segments) continue;
      const at = r * (segments + 1) + s;
      const below = at + segments + 1;
      if (r > 0) indices.push(at, below, at + 1);
      if (r < rings - 1) indices.push(at + 1, below, below + 1);
    }
  }
  const floats = (values: number[], size: number) => putArray(blobs, Float32Array.from(values), size);
  const attributes = { POSITION: floats(positions, 3), NORMAL: floats(positions, 3), TEXCOORD_0: floats(uvs, 2) };
  kit.meshes[id] = { id, name: id, primitives: [{ material: null, attributes, indices: putArray(blobs, Uint32Array.from(indices), 1) }] };
  return id;
}
