export { buildSluiceCraneGlb, BOOM_TIP, CRANE } from './sluice-crane-glb';
export { sluiceCrane, sluiceCraneFinished } from './sluice-crane-kits';
export { buildNextSluiceCraneGlb, type NextVersion } from './sluice-crane-next';
