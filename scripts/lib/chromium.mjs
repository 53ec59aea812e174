/** How Debian's Chromium is started for tests and benchmarks: with its software renderer, and no calls home. */
export const CHROMIUM = {
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    // The 3D alone is drawn by the software renderer: pages are put together without it, which halves what drawing costs.
    '--disable-gpu-rasterization',
    '--disable-gpu-compositing',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
  ],
};
