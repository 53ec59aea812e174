import { callOf, renameKit, setTarget, type Blobs, type Id, type Kit, type Vec3 } from '@itchkit/core/document';
import { readGltf, settleSource } from '@itchkit/core/intake';
import { addJoints, fitSkeleton, holdRigid, jointsFromPins, SKELETON_TEMPLATES, solveSkin, surfaceOf } from '@itchkit/core/rig';
import { sidedJointName, type Rulebook } from '@itchkit/core/rulebook';
import { Hands } from './hands';
import { buildLanternRayGlb, rayBoxes } from './lantern-ray-glb';
import { buildNightWatchKeeperGlb } from './night-watch-keeper-glb';

/** A demo file taken in under a name, for a target, in the space that it says. */
export async function modelled(glb: Uint8Array, fileName: string, name: string, rulebook: Rulebook, blobs: Blobs): Promise<Hands> {
  const { kit } = await readGltf(glb, fileName, blobs);
  const hands = new Hands(kit, blobs);
  hands.do(callOf(renameKit, { name }));
  hands.do(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }));
  hands.do(callOf(settleSource, { space: hands.kit.source!.space }));
  return hands;
}

interface RigPlan {
  parts: string[];
  template: string;
  /** Below which part. */
  under: string;
  /** Heads stand on whole steps of it, metres. */
  step?: number;
}

/** Fits a template to parts. Ids are made from names: the same kit each time. Gives the joints' ids. */
function fit(hands: Hands, { parts, template, under, step }: RigPlan, rulebook: Rulebook): Id[] {
  const surface = surfaceOf(
    hands.kit,
    parts.map((part) => hands.part(part)),
    hands.blobs,
  );
  const { pins } = fitSkeleton(
    surface.positions,
    surface.indices,
    SKELETON_TEMPLATES.find((one) => one.id === template)!,
  );
  const onStep = (at: Vec3) => (step === undefined ? at : (at.map((value) => Math.round(value / step) * step + 0) as Vec3));
  const joints = jointsFromPins(
    pins.map((pin) => ({ ...pin, at: onStep(pin.at), tail: pin.tail && onStep(pin.tail) })),
    (name, side) => sidedJointName(name, side, rulebook.naming.sides),
    (key) => `joint-${key.replace(/\+$/, '-left').replace(/-$/, '-right')}`,
    hands.part(under),
  );
  hands.do(callOf(addJoints, { joints }));
  return joints.map((joint) => joint.id);
}

/** The keeper as the modeller left it: a body, and nothing to move it by. */
export async function nightWatchKeeperModelled(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await modelled(await buildNightWatchKeeperGlb(), 'night-watch-keeper.glb', 'Night-watch keeper, unrigged', rulebook, blobs);
  return hands.kit;
}

/** The keeper with the twenty joints that Emberfold asks for. */
export async function nightWatchKeeper(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await modelled(await buildNightWatchKeeperGlb(), 'night-watch-keeper.glb', 'Night-watch keeper', rulebook, blobs);
  const joints = fit(hands, { parts: ['body'], template: 'body-20', under: 'body' }, rulebook);
  hands.do(callOf(solveSkin, { parts: [hands.part('body')], joints }));
  return hands.kit;
}

/** The ray with fins of three segments and a tail that ends in a fan: every box held by one joint. */
export async function lanternRay(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await modelled(await buildLanternRayGlb(), 'lantern-ray.glb', 'Lantern ray', rulebook, blobs);
  const boxes = rayBoxes('l_', 'r_').map(([joint]) => joint);
  fit(hands, { parts: boxes.map((joint) => `${joint}_box`), template: 'finned', under: 'origin', step: rulebook.stepMetres }, rulebook);
  for (const joint of boxes) hands.do(callOf(holdRigid, { parts: [hands.part(`${joint}_box`)], joint: hands.part(joint) }));
  return hands.kit;
}
