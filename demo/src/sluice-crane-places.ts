/** Where things stand, metres. */
export const CRANE = {
  axis: [2.4, 0, -1] as const,
  hinge: [2.4, 2.3, -0.2] as const,
  boomLength: 6,
  boomPitchDegrees: 25,
  wheel: [-3.4, 1.7, 3.4] as const,
  gate: [-2.6, 0, -1.2] as const,
  /** What the two tide gates turn about, left and right of the middle of the frame behind which they hang, and where they do. */
  gateHinge: { aside: 1.38, behind: 0.3 },
  /** Middle of the trolley's axle, how far its wheels are from there, and their radius. */
  trolley: [5.4, 0.3, 0] as const,
  wheelAside: 0.45,
  wheelRadius: 0.2,
};

const RAD = Math.PI / 180;
const rise = CRANE.boomLength * Math.sin(CRANE.boomPitchDegrees * RAD);
const run = CRANE.boomLength * Math.cos(CRANE.boomPitchDegrees * RAD);
/** The boom's tip at rest, metres. */
export const BOOM_TIP = [CRANE.hinge[0], CRANE.hinge[1] + rise, CRANE.hinge[2] + run] as const;
/** Length of the hoist rope at rest, from 0.2 m under the tip. */
export const ROPE_LENGTH = 2.2;

/** Two links stay the boom: one from the mast, one from the boom; where these turn, and how long each is. */
const mastPin = [CRANE.axis[0], 4.7, -1.5] as const;
const boomPin = [
  CRANE.axis[0],
  CRANE.hinge[1] + (CRANE.boomLength / 2) * Math.sin(CRANE.boomPitchDegrees * RAD) + 0.4 * Math.cos(CRANE.boomPitchDegrees * RAD),
  CRANE.hinge[2] + (CRANE.boomLength / 2) * Math.cos(CRANE.boomPitchDegrees * RAD) - 0.4 * Math.sin(CRANE.boomPitchDegrees * RAD),
] as const;
const STAY_LENGTH = 2.35;
export const STAYS = { mastPin, boomPin, joint: kneeAbove(mastPin, boomPin, STAY_LENGTH) };

/** Where two links of one length meet, above the line between their pins. */
function kneeAbove([x, ay, az]: readonly number[], [, by, bz]: readonly number[], length: number): readonly [number, number, number] {
  const apart = Math.hypot(by - ay, bz - az);
  const up = Math.sqrt(length ** 2 - (apart / 2) ** 2) / apart;
  return [x, (ay + by) / 2 + up * (bz - az), (az + bz) / 2 - up * (by - ay)];
}
