export { buildSluiceCraneGlb, BOOM_TIP, CRANE } from './sluice-crane-glb';
export { sluiceCrane, sluiceCraneFinished } from './sluice-crane-kits';
export { buildNextSluiceCraneGlb, type NextVersion } from './sluice-crane-next';
export { buildFoghornCabinetGlb, LID_HINGE } from './foghorn-cabinet-glb';
export { buildHillTramHaltGlb, HALT } from './hill-tram-halt-glb';
export { foghornCabinet, hillTramHalt } from './raw-kits';
export { ironPng, planksPng } from './textures';
