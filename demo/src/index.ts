export { buildSluiceCraneGlb, BOOM_TIP, CRANE } from './sluice-crane-glb';
export { sluiceCrane, sluiceCraneFinished } from './sluice-crane-kits';
