import type { Piece } from './pieces';
import { CRANE } from './sluice-crane-places';
import { bar, box, join, move, ring, turn, type Solid } from './solid';

const at = (solid: Solid, ...place: number[]) => move(solid, place as [number, number, number]);

/** One of the two gates that swing behind the frame: 1 is the left, −1 the right. */
export function tideGate(x: 1 | -1): Piece {
  const { aside, behind } = CRANE.gateHinge;
  const [gx, , gz] = CRANE.gate;
  return {
    name: `Tide Gate ${x > 0 ? 'L' : 'R'}`,
    paint: 'planks',
    solid: join(
      at(box(aside - 0.02, 2.5, 0.1), gx + (x * (aside + 0.02)) / 2, 1.3, gz - behind),
      ...[0.5, 1.3, 2.1].map((y) => at(box(aside - 0.1, 0.12, 0.06), gx + (x * aside) / 2, y, gz - behind - 0.07)),
    ),
  };
}

/** A wheel of the trolley about its axle, which lies across. @param few Segments of its rim. */
function trolleyWheel(x: 1 | -1, few: number): Piece {
  const { wheelRadius, wheelAside, trolley } = CRANE;
  const spokes = [0, 1, 2, 3, 4].map((i) => turn(at(box(0.04, 0.04, wheelRadius - 0.07), 0, 0, wheelRadius / 2), 1, 72 * i));
  const rim = at(ring(wheelRadius - 0.05, wheelRadius, 0.08, few), 0, -0.04, 0);
  const hub = at(ring(0.02, 0.06, 0.12, few), 0, -0.06, 0);
  return {
    name: `Trolley Wheel ${x > 0 ? 'L' : 'R'}`,
    paint: 'brass',
    solid: at(turn(join(rim, hub, ...spokes), 2, 90), trolley[0] + x * wheelAside, trolley[1], trolley[2]),
  };
}

/** Rails beside the quay, and the trolley of two wheels that runs on them. @param few Segments of its round parts. */
export function trolleyOnRails(few: number): Piece[] {
  const { wheelAside } = CRANE;
  const [rx, ry, rz] = CRANE.trolley;
  const rails: Piece = {
    name: 'Rails',
    paint: 'iron',
    solid: join(
      ...[-1, 1].map((x) => at(box(0.1, 0.1, 8), rx + x * wheelAside, 0.05, rz)),
      ...[-3, -1, 1, 3].map((z) => at(box(1.4, 0.04, 0.3), rx, 0.02, rz + z)),
    ),
  };
  const trolley: Piece = {
    name: 'Trolley',
    paint: 'planks',
    solid: join(
      at(box(0.66, 0.16, 1.3), rx, ry + 0.2, rz),
      at(box(0.66, 0.3, 0.06), rx, ry + 0.42, rz - 0.62),
      bar([rx - wheelAside, ry, rz], [rx + wheelAside, ry, rz], 0.03, few),
    ),
    children: [trolleyWheel(1, few), trolleyWheel(-1, few)],
  };
  return [rails, trolley];
}
