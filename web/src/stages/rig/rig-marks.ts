import * as THREE from 'three';
import type { Coupling, Kit, Vec3 } from '@itchkit/core/document';
import { couplingInWorld, restWorlds } from '@itchkit/core/geometry';
import type { Pin } from '@itchkit/core/rig';
import { roundDot } from '../../bench/round-dot';
import type { Tokens } from '../../theme/tokens';

const over = { depthTest: false, transparent: true };

function dots(points: Vec3[], colour: string, size: number): THREE.Points {
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(Float32Array.from(points.flat()), 3));
  const made = new THREE.Points(
    geometry,
    new THREE.PointsMaterial({ color: colour, size, map: roundDot(), sizeAttenuation: false, ...over }),
  );
  made.renderOrder = 18;
  return made;
}

function lines(ends: [Vec3, Vec3][], colour: string, dash = 0): THREE.LineSegments {
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(Float32Array.from(ends.flat(2)), 3));
  const made = new THREE.LineSegments(
    geometry,
    dash > 0
      ? new THREE.LineDashedMaterial({ color: colour, dashSize: dash, gapSize: dash * 0.7, ...over })
      : new THREE.LineBasicMaterial({ color: colour, ...over }),
  );
  made.computeLineDistances();
  made.renderOrder = 17;
  return made;
}

/** Triangles that run through one another, outlined through whatever hides them. @param edges 6 numbers an edge, world, metres */
export function crossedMarks(edges: Float32Array, tokens: Tokens): THREE.LineSegments {
  const made = new THREE.LineSegments(
    new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(edges, 3)),
    new THREE.LineBasicMaterial({ color: tokens.stop, ...over }),
  );
  made.renderOrder = 17;
  return made;
}

/** Proposed joints as pins with a bead at the head; those that ended outside of the body in the colour of a stop. */
export function pinMarks(pins: readonly Pin[], tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const byKey = new Map(pins.map((pin) => [pin.key, pin]));
  const ends = pins.flatMap((pin): [Vec3, Vec3][] => [
    ...(pin.parent !== null ? [[byKey.get(pin.parent)!.at, pin.at] as [Vec3, Vec3]] : []),
    ...(pin.tail ? [[pin.at, pin.tail] as [Vec3, Vec3]] : []),
  ]);
  group.add(lines(ends, tokens.sea));
  const inside = pins.filter((pin) => pin.inside);
  const outside = pins.filter((pin) => !pin.inside);
  if (inside.length > 0)
    group.add(
      dots(
        inside.map(({ at }) => at),
        tokens.signal,
        10,
      ),
    );
  if (outside.length > 0)
    group.add(
      dots(
        outside.map(({ at }) => at),
        tokens.stop,
        12,
      ),
    );
  return group;
}

/** Couplings at rest: a hinge as a dashed line through two eyelets, a slide as a line with ends, a ball as a bead. */
export function couplingMarks(kit: Kit, chosen: string | null, reach: number, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const worlds = restWorlds(kit);
  for (const coupling of kit.couplings ?? [])
    group.add(...marksOf(kit, coupling, worlds, coupling.id === chosen ? tokens.signal : tokens.sea, reach));
  return group;
}

function marksOf(kit: Kit, coupling: Coupling, worlds: ReadonlyMap<string, Float64Array>, colour: string, reach: number): THREE.Object3D[] {
  const { at, axis } = couplingInWorld(kit, coupling, worlds);
  const along = (by: number) => at.map((value, i) => value + by * axis[i]) as Vec3;
  if (coupling.kind === 'ball') return [dots([at], colour, 13)];
  if (coupling.kind === 'slider') {
    const [low, high] = [along(coupling.min ?? -reach), along(coupling.max ?? reach)];
    return [lines([[low, high]], colour), dots([low, high], colour, 5), dots([at], colour, 8)];
  }
  return [lines([[along(-reach), along(reach)]], colour, reach / 14), dots([along(-reach), along(reach)], colour, 8)];
}

/** The rim of the brush where it lies on the surface. */
export function brushRing(at: Vec3, normal: Vec3, radius: number, tokens: Tokens): THREE.Line {
  const n = new THREE.Vector3(...normal).normalize();
  const u = new THREE.Vector3(Math.abs(n.x) < 0.9 ? 1 : 0, Math.abs(n.x) < 0.9 ? 0 : 1, 0).cross(n).normalize();
  const v = n.clone().cross(u);
  const points = Array.from({ length: 49 }, (_, i) => {
    const turn = (i / 24) * Math.PI;
    return new THREE.Vector3(...at).addScaledVector(u, radius * Math.cos(turn)).addScaledVector(v, radius * Math.sin(turn));
  });
  const made = new THREE.Line(
    new THREE.BufferGeometry().setFromPoints(points),
    new THREE.LineBasicMaterial({ color: tokens.signal, ...over }),
  );
  made.renderOrder = 19;
  return made;
}
