import type { Stage } from '@itchkit/core/rulebook';

/** Something that stands in a stage, and how it is reached there. */
export interface Place {
  stage: Stage;
  /** What it is called there; several of a name stand in one line. */
  title: string;
  /** The section of the Card in which it stands; it is unfolded. */
  section?: string;
  /** What else it is looked for by. */
  words?: string;
}

/** Sections of the Cards and the buttons in them, from the title of each section; behind a bar what else it is looked for by. */
const SECTIONS: Record<Stage, Record<string, string[]>> = {
  intake: {
    'Unit and axes': ['Take it in'],
    'Left out or mended': [],
    Parked: [],
    '': ['New version', 'Clips from a file', 'From a CSV file'],
  },
  shape: {
    Part: ['Hide', 'Delete', 'Role', 'Names | rename many, batch rename, prefix, suffix, find and replace'],
    Placement: ['Apply scale', 'Apply rotation'],
    Pivot: ['Middle of its mass', 'Set the pivot'],
    Align: ['Onto the ground', 'To the centre', 'To the nearest tile'],
    Surface: [
      'Compute normals',
      'Unify windings',
      'Inside out | flip normals, invert faces',
      'Compute tangents',
      'Weld vertices',
      'Edge angle',
    ],
    Simplify: ['Reduce triangles to a budget'],
    'Levels of detail': ['Make levels'],
    Materials: ['Make a material', 'Tint to white', 'Take out unused'],
    Pictures: ['Replace a picture', 'Resize a picture'],
    UVs: ['Look at its UVs'],
    Measures: ['Callouts between two points'],
    'Picked points': ['Hinge through three points'],
    'Try the hinge': ['Try it on the bench'],
    'Where the triangles are': ['Triangles by part'],
    Repeat: ['Full ring', 'In a line'],
    Split: ['Along a plane', 'Whole pieces', 'By material'],
    Join: ['Join the chosen parts'],
    Size: ['Overall size of the kit', 'Unit of the numbers'],
  },
  rig: {
    Skeleton: ['Joints over the mesh'],
    'Fit a skeleton': ['Template of a body', 'Joints from a file'],
    Joint: ['Insert one above', 'Add one at its end', 'Dissolve'],
    'Own axes': ['Lay the axes so', 'Turn round'],
    'Both sides': ['Left to right', 'Right to left'],
    Solve: ['Solve the weights', 'Falloff', 'Voxels'],
    'Tools for weights': [
      'Smooth',
      'Prune weak holds',
      'Keep the strongest',
      'Make them add up',
      'Fill loose vertices',
      'Take off the joints',
    ],
    Brush: ['Brush weights'],
    'Hold by one joint': [],
    'Shares by joint': [],
    'Vertices as numbers': [],
    'Test poses': ['Contact sheet'],
    Bodies: ['Bodies of what touches'],
    Couplings: ['New coupling', 'Hinge or slide between bodies'],
  },
  motion: {
    Clips: ['Add clip', 'Make it', 'Show rest'],
    Clip: ['Length', 'Frame rate of the clip', 'Rest clip first', 'Delete clip', 'Duplicate', 'Trim', 'Split', 'Join'],
    'Group and overlay': ['Let it always run along', 'An ordinary clip again'],
    Key: ['Easing of the chosen keys | slow in, slow out, ease in, ease out', 'Value of the key', 'Time of the key'],
    Tools: [
      'Stretch keys',
      'Stretch the clip',
      'Reverse',
      'Return trip',
      'Settle',
      'Sway',
      'Thin',
      'Echo',
      'Even out',
      'Dwell',
      'Repeat',
      'Offset in time',
      'Scale values',
      'Flip',
      'Close the loop',
      'End at the last key',
      'To the twin',
      'Pin feet',
      'Fit to the body',
      'Appear or vanish',
      'Pose into rest',
      'Sub-pivot',
      'Stroke bias',
      'Brake keys',
      'Mend the seam',
      'Trim the tail',
    ],
    Loop: ['Find loops | seamless cycle', 'Fade the seam'],
    Path: ['Place points on the bench', 'Follow a path'],
    Formula: ['Turn into keys', 'Formula for a track'],
    Record: ['Write it into the clip', 'Record by dragging'],
    'Cues and flags': ['Hear it', 'Add a cue'],
    Joints: ['Motion roles of joints'],
    'As it will play': [],
    '': ['Motions', 'Curves', 'Ghosts', 'Snap to frames', 'Slower, faster'],
  },
  wiring: { '': ['Bind a part to a variable', 'Table of rows', 'Levers', 'Pose here'] },
  trial: { '': ['Levers of the trial', 'Package in the trial'] },
  ship: {
    Targets: ['Add a target'],
    'Stops open': [],
    'Goes in': [],
    'Does not go in': [],
    'As it plays': [],
    '': ['Build the package', 'Export kit'],
  },
};

function placeOf(stage: Stage, section: string, button: string): Place {
  const [title, words] = button.split(' | ');
  return { stage, title, ...(section === '' ? {} : { section }), words };
}

/** Every place, in the order of the work. */
export const PLACES: readonly Place[] = (Object.entries(SECTIONS) as [Stage, Record<string, string[]>][]).flatMap(([stage, sections]) =>
  Object.entries(sections).flatMap(([section, buttons]): Place[] => [
    ...(section === '' ? [] : [placeOf(stage, section, `${section} | ${buttons.join(' ')}`)]),
    ...buttons.map((button) => placeOf(stage, section, button)),
  ]),
);
