import * as THREE from 'three';

/** A stand-in for a platform's particle effects: points thrown out of a mount for a second or so. */
export interface Effect {
  name: string;
  colour: string;
  seconds: number;
  count: number;
  /** Metres a second, and how far they spread, and what pulls them down. */
  speed: number;
  spread: number;
  gravity: number;
}

export const EFFECTS: Effect[] = [
  { name: 'steam', colour: '#c8d2d6', seconds: 1.6, count: 60, speed: 0.6, spread: 0.35, gravity: -0.25 },
  { name: 'spray', colour: '#5fa3b5', seconds: 0.9, count: 80, speed: 1.8, spread: 0.8, gravity: 3 },
  { name: 'sparks', colour: '#e08a3c', seconds: 0.7, count: 50, speed: 2.4, spread: 1, gravity: 5 },
];

/** Where each point of an effect is a time after it began, metres from the mount, along its +z; the same every time. */
export function effectPoints({ count, speed, spread, gravity, seconds }: Effect, age: number): Float32Array {
  const out = new Float32Array(3 * count);
  for (let i = 0; i < count; i++) {
    // Golden angle and a van der Corput row: even, and without chance.
    const angle = i * 2.399963;
    const share = ((i * 0.618034) % 1) ** 0.5;
    const born = (i / count) * seconds * 0.4;
    const t = Math.max(0, age - born);
    const out2 = spread * share * speed * t;
    out[3 * i] = Math.cos(angle) * out2;
    out[3 * i + 1] = Math.sin(angle) * out2 - 0.5 * gravity * t * t;
    out[3 * i + 2] = speed * t * (0.6 + 0.4 * (1 - share));
  }
  return out;
}

/** The points of an effect as something to be drawn. */
export function effectCloud(effect: Effect, age: number, size: number): THREE.Points {
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(effectPoints(effect, age), 3));
  const fading = Math.max(0, 1 - age / effect.seconds);
  const cloud = new THREE.Points(
    geometry,
    new THREE.PointsMaterial({ color: effect.colour, size, transparent: true, opacity: 0.8 * fading, depthWrite: false }),
  );
  cloud.renderOrder = 12;
  return cloud;
}
