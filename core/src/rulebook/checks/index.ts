import type { Check } from '../types';
import { bindingsOnePerDriven } from './bindings-one-per-driven';
import { bindingsTable } from './bindings-table';
import { bindingsVariable } from './bindings-variable';
import { budgetsTriangles } from './budgets-triangles';
import { geometryDegenerate } from './geometry-degenerate';
import { geometryNormals } from './geometry-normals';
import { hierarchyRootAtOrigin } from './hierarchy-root-at-origin';
import { hierarchySingleRoot } from './hierarchy-single-root';
import { namesPattern } from './names-pattern';
import { namesUnique } from './names-unique';
import { texturesSize } from './textures-size';
import { transformsNoise } from './transforms-noise';
import { transformsUnitScale } from './transforms-unit-scale';

const ALL: Check[] = [
  hierarchySingleRoot,
  hierarchyRootAtOrigin,
  namesPattern,
  namesUnique,
  transformsUnitScale,
  transformsNoise,
  geometryDegenerate,
  geometryNormals,
  budgetsTriangles,
  texturesSize,
  bindingsOnePerDriven,
  bindingsVariable,
  bindingsTable,
];

export const CHECKS: ReadonlyMap<string, Check> = new Map(ALL.map((check) => [check.id, check]));
