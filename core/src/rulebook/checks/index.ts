import type { Check } from '../types';
import { behaviourAsked } from './behaviour-asked';
import { behaviourBoth } from './behaviour-both';
import { behaviourClips } from './behaviour-clips';
import { behaviourEndless } from './behaviour-endless';
import { behaviourKnown } from './behaviour-known';
import { behaviourLayers } from './behaviour-layers';
import { behaviourReached } from './behaviour-reached';
import { behaviourSpeeds } from './behaviour-speeds';
import { behaviourTaken } from './behaviour-taken';
import { behaviourWaysOut } from './behaviour-ways-out';
import { bindingsDerived } from './bindings-derived';
import { bindingsDirection } from './bindings-direction';
import { bindingsLinks } from './bindings-links';
import { bindingsNeutral } from './bindings-neutral';
import { bindingsHalfTurns } from './bindings-half-turns';
import { bindingsOnePerDriven } from './bindings-one-per-driven';
import { bindingsPosition } from './bindings-position';
import { bindingsRange } from './bindings-range';
import { bindingsSwitches } from './bindings-switches';
import { bindingsTable } from './bindings-table';
import { bindingsUnsettled } from './bindings-unsettled';
import { bindingsVariable } from './bindings-variable';
import { budgetsClips } from './budgets-clips';
import { budgetsJoints } from './budgets-joints';
import { budgetsKeys } from './budgets-keys';
import { budgetsMaterials } from './budgets-materials';
import { budgetsPackageBytes } from './budgets-package-bytes';
import { budgetsPartTriangles, budgetsPartVertices } from './budgets-part';
import { budgetsSeconds } from './budgets-seconds';
import { budgetsTextureBytes } from './budgets-texture-bytes';
import { budgetsTextures } from './budgets-textures';
import { budgetsTriangles } from './budgets-triangles';
import { budgetsVertices } from './budgets-vertices';
import { clipsEasings } from './clips-easings';
import { clipsFootprint } from './clips-footprint';
import { clipsHalfTurns } from './clips-half-turns';
import { clipsIdleTracks } from './clips-idle-tracks';
import { clipsLoop } from './clips-loop';
import { clipsNeutralStart } from './clips-neutral-start';
import { clipsOneTimeline } from './clips-one-timeline';
import { clipsOnlyOne } from './clips-only-one';
import { clipsOutsideKeys } from './clips-outside-keys';
import { clipsRate } from './clips-rate';
import { clipsRequired } from './clips-required';
import { clipsRestFirst } from './clips-rest-first';
import { clipsSeam } from './clips-seam';
import { clipsTailGap } from './clips-tail-gap';
import { clipsCues } from './clips-cues';
import { clipsOverlays } from './clips-overlays';
import { clipsTracks } from './clips-tracks';
import { clipsUnique } from './clips-unique';
import { clipsUnknown } from './clips-unknown';
import { clipsWholeFrames } from './clips-whole-frames';
import { geometryClosed } from './geometry-closed';
import { geometryDegenerate } from './geometry-degenerate';
import { geometryFinite } from './geometry-finite';
import { geometryLevels } from './geometry-levels';
import { geometryNormals } from './geometry-normals';
import { geometryTangents } from './geometry-tangents';
import { geometryUnused } from './geometry-unused';
import { geometryWindings } from './geometry-windings';
import { groundsColliders } from './grounds-colliders';
import { groundsFacts } from './grounds-facts';
import { groundsFootprint } from './grounds-footprint';
import { groundsGlow } from './grounds-glow';
import { groundsJoin } from './grounds-join';
import { groundsKnots } from './grounds-knots';
import { groundsRopes } from './grounds-ropes';
import { groundsSeats } from './grounds-seats';
import { groundsSeatsRide } from './grounds-seats-ride';
import { groundsStates } from './grounds-states';
import { groundsWay } from './grounds-way';
import { hierarchyAnchors } from './hierarchy-anchors';
import { hierarchyDepth } from './hierarchy-depth';
import { hierarchyDrivenOrder } from './hierarchy-driven-order';
import { hierarchyEmpty } from './hierarchy-empty';
import { hierarchyHidden } from './hierarchy-hidden';
import { hierarchyParents } from './hierarchy-parents';
import { hierarchyRootAtOrigin } from './hierarchy-root-at-origin';
import { hierarchySingleRoot } from './hierarchy-single-root';
import { materialsAlpha } from './materials-alpha';
import { materialsDuplicates } from './materials-duplicates';
import { materialsPaintedWhite } from './materials-painted-white';
import { materialsSlots } from './materials-slots';
import { materialsWhiteTint } from './materials-white-tint';
import { namesPattern } from './names-pattern';
import { namesRequired } from './names-required';
import { namesReserved } from './names-reserved';
import { rolesPresent } from './names-roles-present';
import { namesSides } from './names-sides';
import { namesUnique } from './names-unique';
import { pivotsPlace } from './pivots-place';
import { sizeClass } from './size-class';
import { sizeGround } from './size-ground';
import { assemblyAnchored } from './assembly-anchored';
import { assemblyBodies } from './assembly-bodies';
import { assemblyHeld } from './assembly-held';
import { assemblyLimits } from './assembly-limits';
import { assemblyLoops } from './assembly-loops';
import { assemblyPresent } from './assembly-present';
import { assemblyStep } from './assembly-step';
import { skinJointsInside } from './skin-joints-inside';
import { skinInfluences } from './skin-influences';
import { skinOutside } from './skin-outside';
import { skinPresent } from './skin-present';
import { skinRigid } from './skin-rigid';
import { skinSkeleton } from './skin-skeleton';
import { skinSum } from './skin-sum';
import { skinUnweighted } from './skin-unweighted';
import { texturesFormat } from './textures-format';
import { texturesMissing } from './textures-missing';
import { texturesSize } from './textures-size';
import { transformsMirrored } from './transforms-mirrored';
import { transformsNoise } from './transforms-noise';
import { transformsShear } from './transforms-shear';
import { transformsStep } from './transforms-step';
import { transformsUnitScale } from './transforms-unit-scale';
import { transformsUpright } from './transforms-upright';
import { uvChannels } from './uv-channels';
import { uvLayout } from './uv-layout';
import { uvOverlap } from './uv-overlap';
import { uvPresent } from './uv-present';
import { uvRange } from './uv-range';

const ALL: Check[] = [
  bindingsDerived,
  bindingsDirection,
  bindingsLinks,
  bindingsNeutral,
  bindingsOnePerDriven,
  bindingsPosition,
  bindingsRange,
  bindingsSwitches,
  bindingsHalfTurns,
  bindingsTable,
  bindingsUnsettled,
  bindingsVariable,
  budgetsClips,
  budgetsJoints,
  budgetsKeys,
  budgetsMaterials,
  budgetsPackageBytes,
  budgetsPartTriangles,
  budgetsPartVertices,
  budgetsSeconds,
  budgetsTextureBytes,
  budgetsTextures,
  budgetsTriangles,
  budgetsVertices,
  clipsEasings,
  clipsFootprint,
  clipsHalfTurns,
  clipsIdleTracks,
  clipsLoop,
  clipsNeutralStart,
  clipsOneTimeline,
  clipsOnlyOne,
  clipsOutsideKeys,
  clipsRate,
  clipsRequired,
  clipsRestFirst,
  clipsSeam,
  clipsTailGap,
  clipsTracks,
  clipsOverlays,
  clipsCues,
  clipsUnique,
  clipsUnknown,
  clipsWholeFrames,
  geometryClosed,
  geometryDegenerate,
  geometryFinite,
  geometryLevels,
  geometryNormals,
  geometryTangents,
  geometryUnused,
  geometryWindings,
  groundsColliders,
  groundsFacts,
  groundsFootprint,
  groundsGlow,
  groundsJoin,
  groundsKnots,
  groundsRopes,
  groundsSeats,
  groundsSeatsRide,
  groundsStates,
  groundsWay,
  hierarchyAnchors,
  hierarchyDepth,
  hierarchyDrivenOrder,
  hierarchyEmpty,
  hierarchyHidden,
  hierarchyParents,
  hierarchyRootAtOrigin,
  hierarchySingleRoot,
  materialsAlpha,
  materialsDuplicates,
  materialsPaintedWhite,
  behaviourBoth,
  behaviourAsked,
  behaviourClips,
  behaviourEndless,
  behaviourKnown,
  behaviourLayers,
  behaviourReached,
  behaviourSpeeds,
  behaviourTaken,
  behaviourWaysOut,
  materialsSlots,
  materialsWhiteTint,
  namesPattern,
  namesRequired,
  namesReserved,
  rolesPresent,
  namesSides,
  namesUnique,
  pivotsPlace,
  sizeClass,
  sizeGround,
  assemblyAnchored,
  assemblyBodies,
  assemblyHeld,
  assemblyLimits,
  assemblyLoops,
  assemblyPresent,
  assemblyStep,
  skinJointsInside,
  skinInfluences,
  skinOutside,
  skinPresent,
  skinRigid,
  skinSkeleton,
  skinSum,
  skinUnweighted,
  texturesFormat,
  texturesMissing,
  texturesSize,
  transformsMirrored,
  transformsNoise,
  transformsShear,
  transformsStep,
  transformsUnitScale,
  transformsUpright,
  uvChannels,
  uvLayout,
  uvOverlap,
  uvPresent,
  uvRange,
];

/** All checks, by id. */
export const CHECKS: ReadonlyMap<string, Check> = new Map(ALL.map((check) => [check.id, check]));
