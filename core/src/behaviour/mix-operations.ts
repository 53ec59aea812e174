import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  maybeIdSchema,
  MIX_KINDS,
  mixFault,
  MOST_PEGS,
  nameSchema,
  newId,
  parametersOfKind,
  playsOf,
  stepsSchema,
  type Id,
  type Kit,
  type Mix,
  type MixKind,
  type Peg,
  type Step,
} from '../document';
import { BehaviourError } from './operations';

/** How clips of a mix lie, in words. */
export const MIX_KIND_WORDS: Record<MixKind, string> = {
  line: 'along one value',
  across: 'across two values',
  around: 'round the middle of two values',
};

function mixOf(kit: Kit, id: Id): Mix {
  const mix = kit.mixes?.find((one) => one.id === id);
  if (!mix) throw new BehaviourError('mix-missing', 'That mix is no longer there. Look at the behaviour again.', id);
  return mix;
}

/** @throws {BehaviourError} where it can't be played as it is said now */
function needSound(mix: Mix): void {
  const fault = mixFault(mix);
  if (fault !== null) throw new BehaviourError('mix-fault', `The mix “${mix.name}” ${fault}.`, mix.id);
}

function needFreeName(kit: Kit, name: string, self?: Id): void {
  if (kit.mixes?.some((one) => one.name === name && one.id !== self))
    throw new BehaviourError('name-taken', `Another mix is called “${name}”. Choose another name.`, self ?? null);
}

const placeSchema = Joi.array().items(Joi.number().required()).min(1).max(2);
const speedSchema = Joi.number().greater(0).max(100);
const parametersSchema = Joi.array().items(Joi.string().min(1).max(120)).min(1).max(2).unique();

/** Adds a mix of clips. */
export const addMix = defineOperation<{
  id?: Id;
  name: string;
  kind: MixKind;
  parameters: string[];
  pegs: { id?: Id; clip: Id | null; at: number[]; speed: number }[];
}>({
  id: 'mixes.add',
  title: (_, { name }) => `Add the mix “${name}”`,
  args: Joi.object({
    id: idSchema,
    name: nameSchema.min(1).required(),
    kind: Joi.valid(...MIX_KINDS).required(),
    parameters: parametersSchema.required(),
    pegs: Joi.array()
      .items(Joi.object({ id: idSchema, clip: maybeIdSchema.required(), at: placeSchema.required(), speed: speedSchema.required() }))
      .min(1)
      .max(MOST_PEGS)
      .required(),
  }),
  change(kit, { id = newId(), pegs, ...said }) {
    needFreeName(kit, said.name);
    const mix: Mix = {
      ...said,
      id,
      parameters: [...said.parameters],
      pegs: pegs.map((peg) => ({ ...peg, at: [...peg.at], id: peg.id ?? newId() })),
    };
    needSound(mix);
    (kit.mixes ??= []).push(mix);
  },
});

/** Renames a mix. */
export const renameMix = defineOperation<{ mix: Id; name: string }>({
  id: 'mixes.rename',
  title: (_, { name }) => `Call a mix “${name}”`,
  args: Joi.object({ mix: idSchema.required(), name: nameSchema.min(1).required() }),
  change(kit, { mix, name }) {
    const renamed = mixOf(kit, mix);
    needFreeName(kit, name, mix);
    renamed.name = name;
  },
});

/** Takes a mix away; states that played it play nothing. */
export const removeMix = defineOperation<{ mix: Id }>({
  id: 'mixes.remove',
  title: (kit, { mix }) => `Take the mix “${kit.mixes?.find(({ id }) => id === mix)?.name ?? mix}” away`,
  args: Joi.object({ mix: idSchema.required() }),
  change(kit, { mix }) {
    mixOf(kit, mix);
    kit.mixes = kit.mixes!.filter(({ id }) => id !== mix);
    if (kit.mixes.length === 0) delete kit.mixes;
    for (const { states } of kit.behaviour?.layers ?? [])
      for (const state of states) for (const played of [state, ...(state.gaits ?? [])]) if (played.mix === mix) delete played.mix;
  },
});

/** What becomes of a mix's clips by other values: where each goes, and those that have no place of their own any more. */
export function mixedBy(mix: Mix, kind: MixKind, parameters: readonly string[]): { pegs: Peg[]; dropped: Peg[] } {
  const pegs: Peg[] = [];
  const dropped: Peg[] = [];
  const wanted = parametersOfKind(kind);
  // A value that both have stays where it was; where a clip had one for what is gone, those nearest to none of it stay.
  const from = parameters.slice(0, wanted).map((name) => mix.parameters.indexOf(name));
  const lost = mix.parameters.flatMap((name, i) => (parameters.includes(name) ? [] : [i]));
  const away = ({ at }: Peg) => Math.hypot(...lost.map((i) => at[i]));
  const renamed = from.every((i) => i < 0);
  const taken = new Set<string>();
  for (const peg of [...mix.pegs].sort((a, b) => away(a) - away(b))) {
    const at = renamed ? Array.from({ length: wanted }, (_, i) => peg.at[i] ?? 0) : from.map((i) => (i < 0 ? 0 : peg.at[i]));
    const key = at.map((value) => value + 0).join(' ');
    if (taken.has(key)) dropped.push(peg);
    else {
      taken.add(key);
      pegs.push({ ...peg, at });
    }
  }
  return { pegs: mix.pegs.flatMap(({ id }) => pegs.find((peg) => peg.id === id) ?? []), dropped };
}

/** Lets a mix go by other values, or otherwise by the same; clips that have no place of their own then go. */
export const setMixKind = defineOperation<{ mix: Id; kind: MixKind; parameters: string[] }>({
  id: 'mixes.set-kind',
  title: (_, { parameters }) => `Mix by ${parameters.join(' and ')}`,
  args: Joi.object({
    mix: idSchema.required(),
    kind: Joi.valid(...MIX_KINDS).required(),
    parameters: parametersSchema.required(),
  }),
  change(kit, { mix, kind, parameters }) {
    const changed = mixOf(kit, mix);
    const { pegs } = mixedBy(changed, kind, parameters);
    Object.assign(changed, { kind, parameters: [...parameters], pegs });
    if (kind === 'around' && !pegs.some(({ at }) => at.every((value) => value === 0)))
      changed.pegs.push({ id: newId(), clip: null, at: [0, 0], speed: 1 });
    needSound(changed);
  },
});

/** Adds a clip to a mix. */
export const addPeg = defineOperation<{ mix: Id; id?: Id; clip: Id | null; at: number[]; speed: number }>({
  id: 'mixes.add-peg',
  title: (kit, { clip }) => `Mix “${(clip !== null && kit.clips[clip]?.name) || 'rest'}” in`,
  args: Joi.object({
    mix: idSchema.required(),
    id: idSchema,
    clip: maybeIdSchema.required(),
    at: placeSchema.required(),
    speed: speedSchema.required(),
  }),
  change(kit, { mix, id = newId(), ...peg }) {
    const changed = mixOf(kit, mix);
    if (changed.pegs.length >= MOST_PEGS)
      throw new BehaviourError(
        'mix-full',
        `The mix “${changed.name}” has ${MOST_PEGS} clips; more can’t be told apart. Make a second mix.`,
        mix,
      );
    changed.pegs.push({ ...peg, at: [...peg.at], id });
    needSound(changed);
  },
});

/** Says of a clip of a mix which it is, where it has its place, how fast it is played, or when its feet come down; null finds that. */
export const setPeg = defineOperation<{ mix: Id; peg: Id; steps?: Step[] | null } & Partial<Omit<Peg, 'id' | 'steps'>>>({
  id: 'mixes.set-peg',
  title: () => 'Change a clip of a mix',
  args: Joi.object({
    mix: idSchema.required(),
    peg: idSchema.required(),
    clip: maybeIdSchema,
    at: placeSchema,
    speed: speedSchema,
    steps: stepsSchema.allow(null),
  }).or('clip', 'at', 'speed', 'steps'),
  change(kit, { mix, peg, steps, ...said }) {
    const changed = mixOf(kit, mix);
    const one = changed.pegs.find(({ id }) => id === peg);
    if (!one) throw new BehaviourError('peg-missing', 'That clip is no longer in the mix. Look at it again.', peg);
    Object.assign(one, structuredClone(said));
    // Steps that were said are those of the clip that was there.
    if (steps) one.steps = structuredClone(steps);
    else if (steps === null || said.clip !== undefined) delete one.steps;
    needSound(changed);
  },
});

/** Takes a clip out of a mix. */
export const removePeg = defineOperation<{ mix: Id; peg: Id }>({
  id: 'mixes.remove-peg',
  title: () => 'Take a clip out of a mix',
  args: Joi.object({ mix: idSchema.required(), peg: idSchema.required() }),
  change(kit, { mix, peg }) {
    const changed = mixOf(kit, mix);
    const left = changed.pegs.filter(({ id }) => id !== peg);
    if (left.length === changed.pegs.length)
      throw new BehaviourError('peg-missing', 'That clip is no longer in the mix. Look at it again.', peg);
    if (left.length === 0) throw new BehaviourError('mix-empty', 'A mix has one clip at least. Take the mix away instead.', mix);
    changed.pegs = left;
    needSound(changed);
  },
});

/** All clips that a kit's behaviour plays, by themselves or in a mix. */
export function playedClips({ behaviour, mixes = [] }: Pick<Kit, 'behaviour' | 'mixes'>): Set<Id> {
  const pegs = new Map(mixes.map(({ id, pegs: list }) => [id, list]));
  return new Set(
    (behaviour?.layers ?? [])
      .flatMap(({ states }) => states.flatMap(playsOf))
      .flatMap(({ clip, mix }) => (mix === undefined ? [clip] : (pegs.get(mix) ?? []).map((peg) => peg.clip)))
      .filter((clip) => clip !== null),
  );
}
