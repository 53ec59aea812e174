import { callOf, jointsOf, newId, type Call, type Id } from '@itchkit/core/document';
import {
  dissolveJoints,
  fillWeights,
  gatherBodies,
  holdRigid,
  letGoOfSkin,
  limitInfluences,
  makeBody,
  mirrorWeights,
  normaliseWeights,
  pruneWeights,
  pullInside,
  smoothWeights,
  solveSkin,
} from '@itchkit/core/rig';
import type { Command } from '../../panels/command';
import { unfold } from '../../panels/Fold';
import { setSlice } from '../../session/context';
import type { CommandContext } from '../stage';
import type { RigMode, RigState } from './rig-state';

/**
 * Milliseconds until the finder has closed and the Card shows what it is to: the Enter that chose would press what has the keyboard by
 * then.
 */
const OPENING = 150;

/** What Rig does, with the numbers that its Card begins with: for the finder. */
export function rigCommands({ session, ui, run }: CommandContext): Command[] {
  const kit = () => session.kit;
  const setRig = (change: Partial<RigState>) => setSlice(ui, 'rig', change);
  const chosen = () => ui.getState().selection.filter((id) => kit().parts[id]);
  const joints = () => chosen().filter((id) => jointsOf(kit()).has(id));
  const meshes = () => chosen().filter((id) => kit().parts[id].mesh !== null);
  const shown = () => Object.values(kit().parts).filter((part) => part.mesh !== null);
  const all = () => shown().map((part) => part.id);
  const skinned = (): Id[] => (meshes().length > 0 ? meshes() : shown().flatMap((part) => (part.skin === null ? [] : [part.id])));
  const command = (id: string, title: string, missing: string | null, calls: () => Call): Command => ({
    id: `rig.${id}`,
    keys: [],
    title,
    group: 'Rig',
    blocked: missing,
    run: () => void run(calls()),
  });
  const needsSkin = skinned().length === 0 ? 'No joint holds anything yet' : null;
  const needsJoint = joints().length === 0 ? 'Choose a joint first' : null;
  const needsMesh = all().length === 0 ? 'The kit has no mesh' : null;
  const needsPart = meshes().length === 0 ? 'Choose a part first' : null;
  const section = (id: string, title: string, mode: RigMode, fold: string): Command => ({
    id: `rig.${id}`,
    keys: [],
    title,
    group: 'Rig',
    run: () => {
      setRig({ mode });
      setTimeout(() => unfold(fold), OPENING);
    },
  });
  const brush = () => {
    const { rig } = ui.getState();
    setRig({ mode: 'weights', brush: { ...rig.brush, on: !(rig.mode === 'weights' && rig.brush.on) } });
  };
  return [
    { id: 'rig.rest', title: 'Back to rest', group: 'Rig', keys: ['R'], run: () => setRig({ pose: null, values: {} }) },
    { id: 'rig.brush', title: 'Brush weights on the bench', group: 'Rig', keys: ['B'], blocked: needsJoint, run: brush },
    section('fit', 'Fit a skeleton …', 'joints', 'Fit a skeleton'),
    section('solve-with', 'Solve weights with …', 'weights', 'Solve'),
    section('tools', 'Tools for weights …', 'weights', 'Tools for weights'),
    command('solve', 'Solve the weights of the chosen parts, or all', needsMesh, () =>
      callOf(solveSkin, { parts: meshes().length > 0 ? meshes() : all() }),
    ),
    command('smooth', 'Smooth the weights', needsSkin, () => callOf(smoothWeights, { parts: skinned(), rounds: 2 })),
    command('prune', 'Prune weak holds', needsSkin, () => callOf(pruneWeights, { parts: skinned(), below: 0.05 })),
    command('four', 'Keep the four strongest joints a vertex', needsSkin, () => callOf(limitInfluences, { parts: skinned(), most: 4 })),
    command('sum', 'Make the weights add up', needsSkin, () => callOf(normaliseWeights, { parts: skinned() })),
    command('fill', 'Fill loose vertices', needsSkin, () => callOf(fillWeights, { parts: skinned() })),
    command('left', 'Mirror the weights from left to right', needsSkin, () => callOf(mirrorWeights, { parts: skinned(), from: 'left' })),
    command('right', 'Mirror the weights from right to left', needsSkin, () => callOf(mirrorWeights, { parts: skinned(), from: 'right' })),
    command('off', 'Take the chosen parts off the joints', needsPart, () => callOf(letGoOfSkin, { parts: meshes() })),
    command(
      'rigid',
      'Let the chosen joint alone hold the chosen parts',
      joints().length !== 1 ? 'Choose one joint and some parts' : needsPart,
      () => callOf(holdRigid, { parts: meshes(), joint: joints()[0] }),
    ),
    command('dissolve', 'Dissolve the chosen joints', needsJoint, () => callOf(dissolveJoints, { joints: joints() })),
    command('inside', 'Pull the chosen joints into the body', needsJoint, () => callOf(pullInside, { joints: joints() })),
    command('body', 'Hold the chosen parts together as one body', chosen().length === 0 ? 'Choose a part first' : null, () =>
      callOf(makeBody, { id: newId(), parts: chosen() }),
    ),
    command('touch', 'Make bodies of what touches', needsMesh, () => callOf(gatherBodies, { parts: all(), by: 'touch' })),
  ];
}
