import * as THREE from 'three';
import type { Blobs, Callout, Kit, Vec3 } from '@itchkit/core/document';
import { circleThrough, restWorlds, wholeMesh } from '@itchkit/core/geometry';
import { calloutPoints, measure } from '@itchkit/core/shape';
import type { PickedPoint } from '../session/ui-store';
import type { Tokens } from '../theme/tokens';
import { makeLabel } from './label';
import { inWorld } from './snap-point';

const over = { depthTest: false, transparent: true };

function line(points: THREE.Vector3[], colour: string, dashed = false): THREE.Line {
  const geometry = new THREE.BufferGeometry().setFromPoints(points);
  const length = points[0].distanceTo(points[points.length - 1]);
  const made = new THREE.Line(
    geometry,
    dashed
      ? new THREE.LineDashedMaterial({ color: colour, dashSize: length / 50, gapSize: length / 80, ...over })
      : new THREE.LineBasicMaterial({ color: colour, ...over }),
  );
  made.computeLineDistances();
  made.renderOrder = 16;
  return made;
}

function eyelets(points: THREE.Vector3[], colour: string): THREE.Points {
  const made = new THREE.Points(
    new THREE.BufferGeometry().setFromPoints(points),
    new THREE.PointsMaterial({ color: colour, size: 8, sizeAttenuation: false, ...over }),
  );
  made.renderOrder = 17;
  return made;
}

/** Picked points as numbered eyelets, their lines dashed. @param reach How far a line is drawn to either side, metres. */
export function pickedMarks(kit: Kit, picked: readonly PickedPoint[], reach: number, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const worlds = restWorlds(kit);
  picked.forEach((point, i) => {
    const world = worlds.get(point.part);
    if (!world) return;
    const { at, along } = inWorld(world, point);
    const place = new THREE.Vector3(...at);
    group.add(eyelets([place], tokens.signal));
    const label = makeLabel(String(i + 1), tokens.card, tokens.signal, 15);
    label.position.copy(place);
    label.center.set(-0.6, -0.2);
    group.add(label);
    if (!along) return;
    const way = new THREE.Vector3(...along).normalize().multiplyScalar(reach);
    group.add(line([place.clone().sub(way), place.clone().add(way)], tokens.signal, true));
  });
  return group;
}

export const measureText = (kind: Callout['kind'], value: number) =>
  kind === 'angle' ? `${value.toFixed(2)}°` : `${kind === 'radius' ? 'r ' : ''}${value.toFixed(4)} m`;

/** Kept measures as drafting callouts. */
export function calloutMarks(kit: Kit, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  for (const callout of kit.callouts ?? []) {
    const points = calloutPoints(kit, callout);
    const value = measure(callout.kind, points);
    if (value === null) continue;
    const places = points.map((point) => new THREE.Vector3(...point));
    group.add(eyelets(places, tokens.sea));
    group.add(line(callout.kind === 'radius' ? arc(points) : places, tokens.sea));
    const label = makeLabel(measureText(callout.kind, value), tokens.sea, tokens.card, 16);
    label.position.copy(callout.kind === 'angle' ? places[1] : places[0].clone().lerp(places[places.length - 1], 0.5));
    label.center.set(0.5, -0.3);
    group.add(label);
  }
  return group;
}

/** The circle through three points. */
function arc([a, b, c]: Vec3[]): THREE.Vector3[] {
  const { centre, normal, radius } = circleThrough(a, b, c)!;
  const n = new THREE.Vector3(...normal);
  const u = new THREE.Vector3(...a).sub(new THREE.Vector3(...centre)).normalize();
  const v = n.clone().cross(u);
  return Array.from({ length: 65 }, (_, i) => {
    const turn = (i / 32) * Math.PI;
    return new THREE.Vector3(...centre).addScaledVector(u, radius * Math.cos(turn)).addScaledVector(v, radius * Math.sin(turn));
  });
}

/** Chosen faces of a part as a signal-coloured skin, to hang below the part's group. */
export function faceSkin(kit: Kit, blobs: Blobs, part: string, chosen: ReadonlySet<number>, tokens: Tokens): THREE.Mesh | null {
  const mesh = kit.parts[part]?.mesh;
  if (!mesh || chosen.size === 0) return null;
  const { positions, indices } = wholeMesh(kit.meshes[mesh], blobs);
  const own = new Float32Array(9 * chosen.size);
  let at = 0;
  for (const face of chosen)
    for (let k = 0; k < 3; k++, at += 3) own.set(positions.subarray(3 * indices[3 * face + k], 3 * indices[3 * face + k] + 3), at);
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(own, 3));
  const material = new THREE.MeshBasicMaterial({
    color: tokens.signal,
    transparent: true,
    opacity: 0.72,
    side: THREE.DoubleSide,
    depthWrite: false,
    polygonOffset: true,
    polygonOffsetFactor: -2,
    polygonOffsetUnits: -2,
  });
  const skin = new THREE.Mesh(geometry, material);
  skin.renderOrder = 9;
  return skin;
}
