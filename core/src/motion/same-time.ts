/** Keys closer than this are at the same time, seconds. */
export const SAME_TIME = 1e-6;

/** Times without the noise of adding them up. */
export const tidyTime = (seconds: number) => Math.max(0, Number(seconds.toFixed(9)));
