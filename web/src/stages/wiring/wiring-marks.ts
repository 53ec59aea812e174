import * as THREE from 'three';
import type { Vec3 } from '@itchkit/core/document';
import type { ProbedPart } from '@itchkit/core/wiring';
import { roundDot } from '../../bench/round-dot';
import type { Tokens } from '../../theme/tokens';

const over = { depthTest: false, transparent: true };

/** A line with a head of four lines, so that it is seen from every side. */
function arrow(from: THREE.Vector3, way: THREE.Vector3, length: number, colour: string, dash: number): THREE.LineSegments {
  const to = from.clone().addScaledVector(way, length);
  const aside = new THREE.Vector3(Math.abs(way.y) < 0.9 ? 0 : 1, Math.abs(way.y) < 0.9 ? 1 : 0, 0).cross(way).normalize();
  const other = way.clone().cross(aside);
  const barbs = [aside, aside.clone().negate(), other, other.clone().negate()].flatMap((side) => [
    to,
    to
      .clone()
      .addScaledVector(way, -0.22 * length)
      .addScaledVector(side, 0.1 * length),
  ]);
  const geometry = new THREE.BufferGeometry().setFromPoints([from, to, ...barbs]);
  const made = new THREE.LineSegments(
    geometry,
    dash > 0
      ? new THREE.LineDashedMaterial({ color: colour, dashSize: dash, gapSize: dash * 0.6, ...over })
      : new THREE.LineBasicMaterial({ color: colour, ...over }),
  );
  made.computeLineDistances();
  made.renderOrder = 18;
  return made;
}

/**
 * The way a part goes where its variable rises, as a whole arrow from the point that is looked at; the way it should go, as a dashed one
 * beside it where it is another.
 *
 * @param length Of an arrow, metres.
 */
export function wayMarks({ at, goes, should, verdict }: ProbedPart, length: number, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const from = new THREE.Vector3(...at);
  const dot = new THREE.Points(
    new THREE.BufferGeometry().setFromPoints([from]),
    new THREE.PointsMaterial({ color: tokens.signal, size: 9, map: roundDot(), sizeAttenuation: false, ...over }),
  );
  dot.renderOrder = 18;
  group.add(dot);
  const unit = (way: Vec3) => new THREE.Vector3(...way).normalize();
  const wrong = verdict === 'wrong' || verdict === 'astray';
  if (Math.hypot(...goes) > 1e-9) group.add(arrow(from, unit(goes), length, wrong ? tokens.stop : tokens.good, 0));
  if (should && wrong) group.add(arrow(from, unit(should), length, tokens.sea, length / 9));
  return group;
}
