export { buildSluiceCraneGlb } from './sluice-crane-glb';
export { BOOM_TIP, CRANE, STAYS } from './sluice-crane-places';
export { sluiceCrane, sluiceCraneFinished, sluiceCraneMiswired } from './sluice-crane-kits';
export { buildNextSluiceCraneGlb, type NextVersion } from './sluice-crane-next';
export { buildFoghornCabinetGlb, LID_HINGE } from './foghorn-cabinet-glb';
export { buildHillTramHaltGlb, HALT } from './hill-tram-halt-glb';
export { foghornCabinet, hillTramHalt } from './raw-kits';
export { buildHillTramHaltOnTilesGlb, hillTramHaltFinished, hillTramHaltOnTiles, shapeHalt, tideCarouselFinished } from './grounds-kits';
export { buildTideCarouselGlb } from './tide-carousel-glb';
export { ironPng, planksPng } from './textures';
export { buildNightWatchKeeperGlb } from './night-watch-keeper-glb';
export { buildLanternRayGlb } from './lantern-ray-glb';
export {
  brassDiver,
  hillTramHaltMoving,
  lanternRayMoving,
  nightWatchKeeperFinished,
  nightWatchKeeperTangled,
  nightWatchKeeperMoving,
  periscopeDiver,
} from './moving-kits';
export { buildBrassDiverGlb, JIG } from './brass-diver-glb';
export { buildPeriscopeDiverGlb } from './periscope-diver-glb';
export { lanternRay, nightWatchKeeper, nightWatchKeeperModelled } from './rigged-kits';
export { buildTideLockGlb, LOCK } from './tide-lock-glb';
export { tideLock, tideLockFinished } from './tide-lock-kits';
