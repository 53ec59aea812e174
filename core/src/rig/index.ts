export { assemblyTree, bodyMotions, dragBody, poseAssembly, withinLimits, type AssemblyTree, type CouplingValues } from './assembly';
export {
  anchorBody,
  couple,
  CouplingLimitsError,
  dropBodies,
  gatherBodies,
  holdNearest,
  makeBody,
  NoBodyError,
  NoLineError,
  renameBody,
  snapCouplings,
  touching,
  uncouple,
  type CouplingFields,
} from './assembly-operations';
export {
  compareSkeletons,
  JOINT_STATES,
  jointsLike,
  meaningOf,
  referenceOf,
  type JointRow,
  type JointState,
  type ReferenceJoint,
} from './compare-skeletons';
export { crossings, StandingTriangles } from './crossings';
export { hingeLimits, hingeReach, type HingeLimits, type HingeReach } from './hinge-reach';
export { enclosedVolume } from './pose-figures';
export { bendOf, bendPoses, PoseMeter, strikePose, wholePoses, type PoseFigures, type TestPose } from './test-poses';
export { headOf, jointLines, jointsInOrder, placingJoints, tailOf } from './rig-tree';
export { middleAlong } from './body-lines';
export { fitSkeleton, jointsFromPins, pinsMoved, type Fit, type FitOptions, type Pin, type Side } from './fit-skeleton';
export * from './joint-operations';
export { nameJoints, namesIn } from './name-joints';
export { jointsOutside, pullInside } from './joints-inside';
export * from './rig-errors';
export * from './templates';
export { BRUSH_MODES, WeightBrush, type BrushMode, type BrushSettings } from './weight-brush';
export {
  copyWeights,
  fillWeights,
  holdRigid,
  letGoOfSkin,
  mirrorColumns,
  mirrorWeights,
  pruneWeights,
  setVertexWeights,
  smoothWeights,
  twinHead,
} from './weight-tools';
export { placeNormals, skinField, surfaceOf, weightSets, writeField, type SkinField, type Span, type Surface } from './skin-field';
export { runSkinTask, setWeights, skinTask, solveSkin, weightsArgs, type SkinTask } from './solve-skin';
export {
  SOLVE_DEFAULTS,
  keepStrongest,
  solveWeights,
  strongestOfRow,
  type JointLines,
  type SolvedWeights,
  type SolveOptions,
} from './solve-weights';
export * from './weights-operations';
export { voxelSolid, type VoxelSolid } from './voxel-solid';
