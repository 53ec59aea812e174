import type { Blobs, Clip, Id, Kit, PoseDelta, Quat, TurnOrder } from '../document';
import { type DerivedReader, derivedReaders, leverKey } from '../formula';
import { copyPose, multiplyQuats, quatFromTurn, type Pose, type Poser } from '../geometry';
import { overlaysOf, sampleStack, stackClips, type ClipStack } from '../motion';
import { neutralsOf, type Variable } from '../rulebook';
import { addBindingPose, isShown } from '../wiring';

/** A part that is held in a pose, relative to rest. */
export interface HeldPose {
  part: Id;
  delta: PoseDelta;
}

/** What moves a kit. */
export interface PoseSource {
  clip: Id | null;
  /** Seconds since the clip was started. */
  time: number;
  /** Values by `leverKey`, those of the kit’s own variables where they are not to be worked out; null where bindings are not shown. */
  levers: Record<string, number> | null;
  /** Parts that stand otherwise than all that says. */
  held: readonly HeldPose[];
  /** A pose that something else has worked out, relative to rest, in the place of the clip’s. */
  body?: Pose | null;
  /** Overlays that are left out of what runs along; where not given, none runs. */
  quiet?: readonly Id[];
}

/** Nothing plays and no lever is set. */
export const REST: PoseSource = { clip: null, time: 0, levers: null, held: [] };

const stacks = new WeakMap<Poser, { clip: unknown; clips: unknown; quiet: unknown; stack: ClipStack }>();

/** The clip with what runs along, made ready once for as long as nothing of it changes. */
function stackOf(poser: Poser, kit: Kit, blobs: Blobs, clip: Clip, quiet: readonly Id[] | undefined): ClipStack {
  const kept = stacks.get(poser);
  const clips = quiet ? kit.clips : null;
  if (kept && kept.clip === clip && kept.clips === clips && kept.quiet === quiet) return kept.stack;
  const overlays = quiet ? overlaysOf(kit).filter((one) => one.id !== clip.id && !quiet.includes(one.id)) : [];
  const stack = stackClips({ ...clip, overlay: undefined }, overlays, poser.flat, blobs);
  stacks.set(poser, { clip, clips, quiet, stack });
  return stack;
}

const readers = new WeakMap<object, { variables: unknown; made: Map<string, DerivedReader> }>();

/** The kit's own variables, made ready once for as long as nothing of them changes. */
function derivedOf({ derived }: Kit, variables: readonly Variable[]): Map<string, DerivedReader> | null {
  if (!derived) return null;
  const kept = readers.get(derived);
  if (kept?.variables === variables) return kept.made;
  const own = new Set(derived.map(({ name }) => name));
  const made = derivedReaders(derived, neutralsOf(variables.filter(({ name }) => !own.has(name))));
  readers.set(derived, { variables, made });
  return made;
}

/**
 * Takes what a clip has turned a part by as a rotation before whatever else turns it, as a package’s clip is one: the turn of a binding
 * follows it, and does not mix with its angles.
 */
function settleTurn({ pose }: Poser, order: TurnOrder, at: number): void {
  const turn = pose.turn.subarray(3 * at, 3 * at + 3);
  if (turn[0] === 0 && turn[1] === 0 && turn[2] === 0) return;
  pose.spin.set(multiplyQuats(Array.from(pose.spin.subarray(4 * at, 4 * at + 4)) as Quat, quatFromTurn(turn, order)), 4 * at);
  turn.fill(0);
}

/** Poses a kit's parts from a clip at a time, levers, and a part held by hand. */
export function poseKit(poser: Poser, kit: Kit, blobs: Blobs, source: PoseSource, variables: readonly Variable[]): void {
  poser.reset();
  const clip = source.clip === null || source.body ? undefined : kit.clips[source.clip];
  // A body of other parts is on its way out: what is tried, or undone, has come in between.
  if (source.body?.offset.length === poser.pose.offset.length) copyPose(poser.pose, source.body);
  if (clip) sampleStack(stackOf(poser, kit, blobs, clip, source.quiet), source.time, poser.pose);
  if (source.levers) {
    const { levers } = source;
    const derived = derivedOf(kit, variables);
    const valueOf = (variable: string, index: number | null, otherwise: number): number =>
      levers[leverKey(variable, index)] ??
      derived?.get(variable)?.value(levers) ??
      variables.find(({ name }) => name === variable)?.neutral ??
      otherwise;
    const bindings = Object.values(kit.bindings);
    if (clip)
      for (const { part } of bindings) {
        const index = poser.flat.indexOf.get(part);
        if (index !== undefined) settleTurn(poser, kit.parts[part].turnOrder, index);
      }
    for (const binding of bindings) {
      const index = poser.flat.indexOf.get(binding.part);
      if (index === undefined) continue;
      addBindingPose(binding, valueOf(binding.variable, binding.index, binding.rows[0]?.value ?? 0), index, poser.pose);
    }
    for (const one of kit.switches ?? []) {
      const index = poser.flat.indexOf.get(one.part);
      // Not shown is of no size, and so is what hangs below.
      if (index !== undefined && !isShown(one, valueOf(one.variable, one.index, 0))) poser.pose.size.fill(0, 3 * index, 3 * index + 3);
    }
  }
  for (const { part, delta } of source.held) {
    const at = poser.flat.indexOf.get(part);
    if (at === undefined) continue;
    poser.pose.offset.set(delta.offset, 3 * at);
    poser.pose.turn.set(delta.turn, 3 * at);
    poser.pose.size.set(delta.size, 3 * at);
  }
  poser.update();
}
