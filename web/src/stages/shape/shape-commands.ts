import { callOf, type Call, type Id, type Vec3 } from '@itchkit/core/document';
import { boundsByPart, findTwins } from '@itchkit/core/geometry';
import {
  alignParts,
  applyRotation,
  applyScale,
  cleanNoise,
  dissolveParents,
  dropDegenerates,
  dropUnusedMaterials,
  dropUnusedVertices,
  flipFaces,
  joinParts,
  massCentre,
  mergeDuplicates,
  mirrorParts,
  movePivot,
  pivotToAnchor,
  pivotToTwin,
  recomputePartNormals,
  removeEmpty,
  snapParts,
  splitByMaterial,
  splitLoose,
  tangentsOfParts,
  unifyWindings,
  weldParts,
} from '@itchkit/core/shape';
import type { Command } from '../../panels/command';
import { unfold } from '../../panels/Fold';
import type { CommandContext } from '../stage';

/** Smooth up to here where nothing else is said. */
const ANGLE = 40;
/** Millimetres within which corners are taken as one where nothing else is said. */
const WELD = 0.1;

/**
 * Milliseconds until the finder has closed and the Card shows what it is to: the Enter that chose would press what has the keyboard by
 * then.
 */
const OPENING = 150;

/** What Shape does to the chosen parts, with the numbers that its Card begins with: for the finder. */
export function shapeCommands({ session, ui, rulebook, run }: CommandContext): Command[] {
  const kit = () => session.kit;
  const { blobs } = session;
  const chosen = () => ui.getState().selection.filter((id) => kit().parts[id]);
  const steps = { stepMetres: rulebook?.stepMetres ?? 0.001, stepDegrees: rulebook?.stepDegrees ?? 1 };
  const split = { place: 'below', pivot: 'middle' } as const;
  const command = (id: string, title: string, least: number, calls: (ids: Id[]) => Call | Call[], most = Infinity): Command => {
    const count = chosen().length;
    const tooFew = least === 1 ? 'Choose a part first' : `Choose ${least} parts or more`;
    const tooMany = count > most ? 'Choose one part alone' : null;
    const blocked = count < least ? tooFew : tooMany;
    const doIt = () => {
      const list = calls(chosen());
      run(list, Array.isArray(list) ? title : undefined);
    };
    return { id: `shape.${id}`, keys: [], title, group: 'Shape', blocked, run: doIt, calls: () => calls(chosen()) };
  };
  /** Opens a section of the Card, where the numbers are. @param parts How many have to be chosen: none means that none may be. */
  const section = (title: string, fold: string, parts: 'none' | 'one' | 'some'): Command => {
    const count = chosen().length;
    const tooMany = parts === 'one' && count > 1 ? 'Choose one part alone' : null;
    const missing = parts !== 'none' && count === 0 ? 'Choose a part first' : tooMany;
    const open = () => {
      if (parts === 'none') ui.setState({ selection: [], pickMode: 'parts' });
      setTimeout(() => unfold(fold), OPENING);
    };
    return { id: `shape.open-${fold}`, keys: [], title, group: 'Shape', blocked: parts === 'none' ? null : missing, run: open };
  };
  const pivots: [string, Vec3][] = [
    ['the bottom centre', [0, -1, 0]],
    ['the middle', [0, 0, 0]],
    ['the top centre', [0, 1, 0]],
  ];
  const twinOf = (part: Id): Call[] => {
    const pair = findTwins(kit(), boundsByPart(kit(), blobs)).find(({ left, right }) => left === part || right === part);
    return pair ? [callOf(pivotToTwin, { from: part, to: pair.left === part ? pair.right : pair.left, axis: 0, at: 0 })] : [];
  };
  return [
    section('Repeat the chosen parts along a line or on a ring …', 'Repeat', 'some'),
    section('Mirror the chosen parts across a plane …', 'Mirror', 'some'),
    section('Simplify the chosen parts …', 'Simplify', 'some'),
    section('Try the hinge of the chosen part …', 'Try the hinge', 'one'),
    section('Align the chosen parts …', 'Align', 'some'),
    section('Edit the materials of the chosen parts …', 'Materials', 'some'),
    section('See the UVs of the chosen part …', 'UVs', 'one'),
    section('Make levels of detail …', 'Levels of detail', 'none'),
    section('Show the footprint and size classes …', 'Size', 'none'),
    section('See the pictures of the kit …', 'Pictures', 'none'),
    ...pivots.map(([place, anchor]) =>
      command(`pivot-${place}`, `Pivot of the chosen parts to ${place} of their bounds`, 1, (parts) =>
        callOf(pivotToAnchor, { parts, anchor }),
      ),
    ),
    command(
      'pivot-mass',
      'Pivot of the chosen part to the middle of its mass',
      1,
      ([part]) => callOf(movePivot, { part, to: massCentre(kit(), part, blobs) }),
      1,
    ),
    command('pivot-twin', 'Copy the pivot of the chosen part to its twin', 1, ([part]) => twinOf(part), 1),
    command('snap', 'Put the chosen parts onto the step', 1, (parts) => callOf(snapParts, { parts, ...steps })),
    command('clean', 'Clean the numbers of the chosen parts', 1, (parts) => callOf(cleanNoise, { parts, ...steps })),
    command('ground', 'Set the chosen parts onto the ground', 1, (parts) =>
      callOf(alignParts, { parts, axis: 1, side: 'low', at: 0, together: parts.length > 1 }),
    ),
    command('centre', 'Move the chosen parts to the centre', 1, (parts) =>
      ([0, 2] as const).map((axis) => callOf(alignParts, { parts, axis, side: 'middle', at: 0, together: parts.length > 1 })),
    ),
    command('apply-scale', 'Apply the scale of the chosen parts', 1, (parts) => callOf(applyScale, { parts })),
    command('apply-rotation', 'Apply the rotation of the chosen parts', 1, (parts) => callOf(applyRotation, { parts })),
    command('mirror', 'Mirror the chosen parts across the middle', 1, (parts) => callOf(mirrorParts, { parts, axis: 0, at: 0 })),
    command('split-loose', 'Split the chosen part into its loose pieces', 1, ([part]) => callOf(splitLoose, { part, ...split }), 1),
    command('split-material', 'Split the chosen part by material', 1, ([part]) => callOf(splitByMaterial, { part, ...split }), 1),
    command('join', 'Join the chosen parts into the first', 2, (parts) => callOf(joinParts, { into: parts[0], parts })),
    command('dissolve', 'Dissolve the chosen parents', 1, (parts) => callOf(dissolveParents, { parts })),
    command('normals', 'Compute the normals of the chosen parts', 1, (parts) =>
      callOf(recomputePartNormals, { parts, angleDegrees: ANGLE }),
    ),
    command('tangents', 'Compute the tangents of the chosen parts', 1, (parts) => callOf(tangentsOfParts, { parts })),
    command('windings', 'Unify the windings of the chosen parts', 1, (parts) => callOf(unifyWindings, { parts, angleDegrees: ANGLE })),
    command('flip', 'Turn the chosen parts inside out', 1, (parts) => callOf(flipFaces, { parts })),
    command('weld', 'Weld the vertices of the chosen parts', 1, (parts) => callOf(weldParts, { parts, distanceMm: WELD })),
    command('drop-flat', 'Drop the flat triangles of the chosen parts', 1, (parts) => callOf(dropDegenerates, { parts })),
    command('drop-unused', 'Drop the unused vertices of the chosen parts', 1, (parts) => callOf(dropUnusedVertices, { parts })),
    command('remove-empty', 'Take out the parts with nothing in them', 0, () => callOf(removeEmpty, {})),
    command('merge', 'Merge duplicate materials and pictures', 0, () => callOf(mergeDuplicates, {})),
    command('unused-materials', 'Take out materials and pictures that nothing shows', 0, () => callOf(dropUnusedMaterials, {})),
  ];
}
