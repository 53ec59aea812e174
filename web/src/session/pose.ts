import {
  addBindingPose,
  clipTime,
  compileClip,
  leverKey,
  poseAssembly,
  sampleClip,
  strikePose,
  type Blobs,
  type CompiledClip,
  type Id,
  type Kit,
  type PoseDelta,
  type Poser,
  type Variable,
} from '@itchkit/core';
import type { RigState } from './ui-store';

/** What moves a kit on the bench. */
export interface PoseSource {
  clip: Id | null;
  /** Seconds since the clip was started. */
  time: number;
  /** Values by `leverKey`; null where bindings are not shown. */
  levers: Record<string, number> | null;
  held: { part: Id; delta: PoseDelta } | null;
}

export const REST: PoseSource = { clip: null, time: 0, levers: null, held: null };

/** Poses a kit as Rig shows it: at rest, in a test pose, or with its assembly moved to try it. */
export function poseForRig(poser: Poser, kit: Kit, { mode, pose, values }: RigState): void {
  if (pose) strikePose(kit, poser, pose);
  else if (mode === 'bodies' && Object.keys(values).length > 0) poseAssembly(kit, poser, values);
  else {
    poser.reset();
    poser.update();
  }
}

const compiledClips = new WeakMap<Poser, Map<unknown, CompiledClip>>();

/** Poses a kit's parts from a clip at a time, levers, and a part held by hand. */
export function poseKit(poser: Poser, kit: Kit, blobs: Blobs, source: PoseSource, variables: readonly Variable[]): void {
  poser.reset();
  const clip = source.clip === null ? undefined : kit.clips[source.clip];
  if (clip) {
    const time = clipTime(clip.loop, clip.lengthSeconds, source.time);
    if (time !== null) {
      let known = compiledClips.get(poser);
      if (!known) compiledClips.set(poser, (known = new Map()));
      let compiled = known.get(clip);
      if (!compiled) known.set(clip, (compiled = compileClip(clip, poser.flat, blobs)));
      sampleClip(compiled, time, poser.pose);
    }
  }
  if (source.levers) {
    for (const binding of Object.values(kit.bindings)) {
      const index = poser.flat.indexOf.get(binding.part);
      if (index === undefined) continue;
      const neutral = variables.find((variable) => variable.name === binding.variable)?.neutral ?? binding.rows[0]?.value ?? 0;
      addBindingPose(binding, source.levers[leverKey(binding.variable, binding.index)] ?? neutral, index, poser.pose);
    }
  }
  const held = source.held === null ? undefined : poser.flat.indexOf.get(source.held.part);
  if (source.held && held !== undefined) {
    poser.pose.offset.set(source.held.delta.offset, 3 * held);
    poser.pose.turn.set(source.held.delta.turn, 3 * held);
    poser.pose.size.set(source.held.delta.size, 3 * held);
  }
  poser.update();
}
