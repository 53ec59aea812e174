const STEPS = [1, 2, 5];

/** The smallest of 1, 2, 5 × 10ⁿ with at most `most` steps in `length`. */
export function niceStep(length: number, most: number): number {
  for (let power = Math.floor(Math.log10(Math.max(length, 1e-6) / most)); ; power++) {
    for (const step of STEPS) if (length / (step * 10 ** power) <= most) return step * 10 ** power;
  }
}
