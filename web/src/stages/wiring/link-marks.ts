import * as THREE from 'three';
import type { Id, Kit, Link, Vec3 } from '@itchkit/core/document';
import { flattenParts, Poser, transformPoint } from '@itchkit/core/geometry';
import { LINK_METRES, pointsOfLink } from '@itchkit/core/wiring';
import { roundDot } from '../../bench/round-dot';
import type { Tokens } from '../../theme/tokens';

const over = { depthTest: false, transparent: true };

/** A link as it stands: from the pivot of each part to where it should be with the other one. */
interface LinkLines {
  lines: [from: Vec3, to: Vec3][];
  /** Whether the ends that are to meet do. */
  met: boolean;
}

/** Lines of a link in the world. @param pose Poses the parts as the bench has them */
export function linkLines(kit: Kit, link: Link, pose: (poser: Poser) => void): LinkLines | null {
  const points = pointsOfLink(kit, link);
  if (!points) return null;
  const poser = new Poser(flattenParts(kit));
  pose(poser);
  const world = (id: Id) => poser.worldOf(id);
  const lines = link.parts.map((id, i): [Vec3, Vec3] => [
    [world(id)[12], world(id)[13], world(id)[14]],
    transformPoint(world(id), points[i]),
  ]);
  const apart = link.kind === 'meet' ? Math.hypot(...lines[0][1].map((value, axis) => value - lines[1][1][axis])) : 0;
  return { lines, met: apart <= 2 * LINK_METRES };
}

/** A link drawn over the kit: pivots and ends as dots, what joins them as lines; in the colour of stops where the ends do not meet. */
export function linkMarks({ lines, met }: LinkLines, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const colour = met ? tokens.sea : tokens.stop;
  const at = (v: Vec3) => new THREE.Vector3(...v);
  const segments = new THREE.LineSegments(
    new THREE.BufferGeometry().setFromPoints(lines.flatMap(([from, to]) => [at(from), at(to)])),
    new THREE.LineBasicMaterial({ color: colour, ...over }),
  );
  const dots = new THREE.Points(
    new THREE.BufferGeometry().setFromPoints(lines.flatMap(([from, to]) => [at(from), at(to)])),
    new THREE.PointsMaterial({ color: colour, size: 9, map: roundDot(), sizeAttenuation: false, ...over }),
  );
  for (const one of [segments, dots]) one.renderOrder = 18;
  group.add(segments, dots);
  return group;
}
