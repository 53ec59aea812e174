import { CANONICAL } from '../geometry';
import { RULEBOOK_FORMAT, type Grade, type Rule, type Rulebook } from './types';

/** What is wrong with a kit wherever it goes, and why: checks with no number or name that a platform would choose. */
const RULES: readonly (readonly [check: string, grade: Grade, why: string])[] = [
  ['geometry.finite', 'stop', 'A place that is no number can be drawn by nobody.'],
  ['geometry.degenerate', 'warn', 'A triangle without area shows nothing, and upsets what is worked out from it.'],
  ['geometry.windings', 'warn', 'A face that is turned inside out is not drawn from outside.'],
  ['geometry.normals', 'warn', 'Without sound normals light falls wrong.'],
  ['geometry.unused-vertices', 'note', 'Vertices that no triangle uses make a file larger, and nothing else.'],
  ['names.unique', 'warn', 'Platforms find parts by their names, and take the first.'],
  ['transforms.shear', 'warn', 'A skewed part stands differently in every program.'],
  ['textures.missing', 'warn', 'A picture that is not there is drawn as nothing, or in grey.'],
  ['materials.duplicates', 'note', 'Materials that are alike cost a draw call each.'],
  ['skin.unweighted', 'warn', 'A vertex that nothing holds stays behind.'],
  ['skin.sum', 'warn', 'Weights that do not add up to one shrink the surface or blow it up.'],
  ['clips.idle-tracks', 'note', 'A track that moves nothing makes a file larger, and nothing else.'],
];

/** What is looked at where no platform is chosen yet. It packages nothing, and is no target. */
export const GENERAL: Rulebook = {
  format: RULEBOOK_FORMAT,
  id: 'general',
  version: '1.0.0',
  title: 'any platform',
  summary: 'What is wrong wherever a kit goes.',
  space: CANONICAL,
  unit: { name: 'metre', short: 'm' },
  tileMetres: 1,
  stepMetres: 0.001,
  stepDegrees: 1,
  naming: { root: 'base', maxLength: 200, patterns: [] },
  variables: [],
  packaging: [],
  rules: RULES.map(([check, grade, why]): Rule => ({ id: check.replace('.', '-'), check, grade, why })),
};
