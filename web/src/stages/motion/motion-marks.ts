import * as THREE from 'three';
import { subtreeOf, type Blobs, type Clip, type Id, type Kit, type Vec3 } from '@itchkit/core/document';
import { posedVertices, wholeMesh, type Poser } from '@itchkit/core/geometry';
import { clipTime, effectsAt, poseOfClip } from '@itchkit/core/motion';
import { effectCloud, EFFECTS } from './cue-effects';
import { roundDot } from '../../bench/round-dot';
import type { Tokens } from '../../theme/tokens';

const over = { depthTest: false, transparent: true };
/** Places of a way, at most. */
const MOST_PLACES = 600;
/** Triangles of one ghost, at most. */
const MOST_TRIANGLES = 60_000;

function polyline(points: Vec3[], colour: string, width = 1): THREE.Line {
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(Float32Array.from(points.flat()), 3));
  const made = new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: colour, linewidth: width, ...over }));
  made.renderOrder = 16;
  return made;
}

function beads(points: Vec3[], colour: string, size: number): THREE.Points {
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(Float32Array.from(points.flat()), 3));
  const made = new THREE.Points(
    geometry,
    new THREE.PointsMaterial({ color: colour, size, map: roundDot(), sizeAttenuation: false, ...over }),
  );
  made.renderOrder = 17;
  return made;
}

/** The way of some parts' pivots through a clip, a bead a frame; larger where the part has a key. */
export function trailMarks(kit: Kit, clip: Clip, blobs: Blobs, parts: readonly Id[], tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const at = poseOfClip(kit, clip, blobs);
  const frames = Math.min(MOST_PLACES, Math.max(1, Math.round(clip.lengthSeconds * clip.rate)));
  const place = (time: number, id: Id): Vec3 => {
    const world = at(time).worldOf(id);
    return [world[12], world[13], world[14]];
  };
  for (const id of parts) {
    const way = Array.from({ length: frames + 1 }, (_, i) => place((clip.lengthSeconds * i) / frames, id));
    if (way.every((point) => Math.hypot(...point.map((value, axis) => value - way[0][axis])) < 1e-6)) continue;
    const keys = [
      ...new Set(clip.tracks.flatMap((track) => (track.kind === 'keys' && track.part === id ? track.keys.map(({ time }) => time) : []))),
    ].slice(0, MOST_PLACES);
    group.add(polyline(way, tokens.signal), beads(way, tokens.signal, 3));
    if (keys.length > 0)
      group.add(
        beads(
          keys.map((time) => place(time, id)),
          tokens.signal,
          8,
        ),
      );
  }
  return group;
}

/** The chosen parts as they stand in neighbouring frames, thin: earlier ones and later ones in two colours. */
export function ghostMarks(kit: Kit, clip: Clip, blobs: Blobs, parts: readonly Id[], time: number, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const at = poseOfClip(kit, clip, blobs);
  const step = Math.max(1, Math.round(clip.rate / 10)) / clip.rate;
  const shown = [...new Set(parts.flatMap((id) => [...subtreeOf(kit, id)]))].filter(
    (id) => kit.parts[id].mesh !== null && !kit.parts[id].hidden,
  );
  for (const k of [-2, -1, 1, 2]) {
    const moment = time + k * step;
    if (moment < 0 || moment > clip.lengthSeconds) continue;
    const poser = at(moment);
    for (const id of shown) {
      const whole = wholeMesh(kit.meshes[kit.parts[id].mesh!], blobs);
      if (whole.indices.length > 3 * MOST_TRIANGLES) continue;
      const positions = Float32Array.from(posedVertices(kit, blobs, kit.parts[id], (part) => poser.worldOf(part)));
      const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(positions, 3));
      geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(whole.indices), 1));
      const ghost = new THREE.Mesh(
        geometry,
        new THREE.MeshBasicMaterial({
          color: k < 0 ? tokens.note : tokens.sea,
          transparent: true,
          opacity: Math.abs(k) === 1 ? 0.2 : 0.1,
          depthWrite: false,
        }),
      );
      ghost.renderOrder = 11;
      group.add(ghost);
    }
  }
  return group;
}

/** Points of a path that is being placed. */
export function pathMarks(points: readonly Vec3[], tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  if (points.length === 0) return group;
  group.add(beads([...points], tokens.signal, 10));
  if (points.length > 1) group.add(polyline([...points], tokens.signal));
  return group;
}

/** Effects of a clip's cues as they are at a running time; null where there are none. */
export function effectMarks(clip: Clip, time: number, poser: Poser, size: number): THREE.Group | null {
  const at = clipTime(clip.loop, clip.lengthSeconds, time);
  if (at === null) return null;
  const shown = effectsAt(clip, at, (name) => EFFECTS.find((one) => one.name === name)?.seconds ?? 0);
  if (shown.length === 0) return null;
  const group = new THREE.Group();
  for (const { cue, age } of shown) {
    const effect = EFFECTS.find((one) => one.name === cue.name)!;
    const cloud = effectCloud(effect, age, size);
    const world = cue.part === null || poser.flat.indexOf.get(cue.part) === undefined ? null : poser.worldOf(cue.part);
    if (world) cloud.applyMatrix4(new THREE.Matrix4().fromArray(world));
    group.add(cloud);
  }
  return group;
}
