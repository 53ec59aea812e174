import type { Quat, Vec3 } from '../document';

/** Numbers that look random and are the same for the same seed (mulberry32). */
export class Random {
  constructor(private state: number) {
    this.state = Math.imul(state ^ 0x9e3779b9, 0x85ebca6b) >>> 0;
  }

  /** From 0 up to 1, without it. */
  share(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.share();
  }

  /** Whole, both ends included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.share() * (high - low + 1));
  }

  chance(share: number): boolean {
    return this.share() < share;
  }

  oneOf<T>(choices: readonly T[]): T {
    return choices[this.whole(0, choices.length - 1)];
  }

  vector(most: number): Vec3 {
    return [this.between(-most, most), this.between(-most, most), this.between(-most, most)];
  }

  /** A turn, all alike (Shoemake 1992, "Uniform random rotations"). */
  turn(): Quat {
    const [a, b, c] = [this.share(), 2 * Math.PI * this.share(), 2 * Math.PI * this.share()];
    const [p, q] = [Math.sqrt(1 - a), Math.sqrt(a)];
    return [p * Math.sin(b), p * Math.cos(b), q * Math.sin(c), q * Math.cos(c)];
  }
}
