/** The power of two nearest to a side by ratio, pixels. */
export const powerOfTwo = (side: number) => 2 ** Math.round(Math.log2(side));
