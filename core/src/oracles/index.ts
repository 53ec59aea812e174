export { furthestOf, type Oracle } from './oracle';
export { ORACLES } from './oracles';
export { plainPose, plainVertices } from './plain-poser';
export { ThreePlayer } from './three-player';
