import type { SkeletonTemplate, TemplateEnd, TemplateLine } from './template';

const ENDS: TemplateEnd[] = [
  { id: 'crown', place: [0, 1, 0] },
  { id: 'hand', place: [1, 0.6, 0], paired: true },
  { id: 'toe', place: [0.35, 0, 0.6], paired: true },
];
const LINES: TemplateLine[] = [
  { id: 'trunk', from: 'seat', to: 'crown' },
  { id: 'arm', from: { line: 'trunk' }, to: 'hand', paired: true },
  { id: 'leg', from: { line: 'trunk' }, to: 'toe', paired: true },
];

/** Proportions of a person standing: shares of the way from the seat to the crown, from the trunk to the finger tips, and to the toes. */
export const BODY_20: SkeletonTemplate = {
  id: 'body-20',
  title: 'Body of 20 joints',
  about: 'A joint on the ground that places the whole, hips, spine, chest, neck, head, arms with shoulders, legs.',
  ends: ENDS,
  lines: LINES,
  joints: [
    { name: 'ground', parent: null, on: 'ground' },
    { name: 'hips', parent: 'ground', on: { line: 'trunk', share: 0.06 } },
    { name: 'spine', parent: 'hips', on: { line: 'trunk', share: 0.25 } },
    { name: 'chest', parent: 'spine', on: { line: 'trunk', share: 0.42 } },
    { name: 'neck', parent: 'chest', on: { line: 'trunk', share: 0.66 }, narrow: true },
    { name: 'head', parent: 'neck', on: { line: 'trunk', share: 0.75 }, tail: 1 },
    { name: 'shoulder', parent: 'chest', on: { line: 'arm', share: 0.06 } },
    { name: 'upper_arm', parent: 'shoulder', on: { line: 'arm', share: 0.22 } },
    { name: 'forearm', parent: 'upper_arm', on: { line: 'arm', share: 0.55 } },
    { name: 'hand', parent: 'forearm', on: { line: 'arm', share: 0.82 }, narrow: true, tail: 1 },
    { name: 'thigh', parent: 'hips', on: { line: 'leg', share: 0.1 } },
    { name: 'shin', parent: 'thigh', on: { line: 'leg', share: 0.46 } },
    { name: 'foot', parent: 'shin', on: { line: 'leg', share: 0.84 }, narrow: true, tail: 1 },
  ],
};

/** The simple body of 15 joints. */
export const BODY_15: SkeletonTemplate = {
  id: 'body-15',
  title: 'Simple body of 15 joints',
  about: 'Hips, chest, head; arms and legs of two joints with hands and feet. For small figures and crowds.',
  ends: ENDS,
  lines: LINES,
  joints: [
    { name: 'hips', parent: null, on: { line: 'trunk', share: 0.06 } },
    { name: 'chest', parent: 'hips', on: { line: 'trunk', share: 0.38 } },
    { name: 'head', parent: 'chest', on: { line: 'trunk', share: 0.7 }, narrow: true, tail: 1 },
    { name: 'upper_arm', parent: 'chest', on: { line: 'arm', share: 0.2 } },
    { name: 'forearm', parent: 'upper_arm', on: { line: 'arm', share: 0.55 } },
    { name: 'hand', parent: 'forearm', on: { line: 'arm', share: 0.82 }, narrow: true, tail: 1 },
    { name: 'thigh', parent: 'hips', on: { line: 'leg', share: 0.1 } },
    { name: 'shin', parent: 'thigh', on: { line: 'leg', share: 0.46 } },
    { name: 'foot', parent: 'shin', on: { line: 'leg', share: 0.84 }, narrow: true, tail: 1 },
  ],
};
