import Joi from 'joi';
import {
  beginsSchema,
  behaviourSchema,
  conditionSchema,
  defineOperation,
  edgeSchema,
  gaitsSchema,
  idSchema,
  maybeIdSchema,
  nameSchema,
  SECTIONS,
  groupSchema,
  sendsSchema,
  weightSchema,
  KitError,
  newId,
  type Behaviour,
  type BehaviourState,
  type Condition,
  type Id,
  type Kit,
  type Layer,
  type Mix,
  type Passage,
} from '../document';

/** A layer, state or passage is not there any more. */
export class BehaviourError extends KitError {
  constructor(code: string, message: string, where: string | null = null) {
    super(code, message, where);
  }
}

function layerOf(kit: Kit, id: Id): Layer {
  const layer = kit.behaviour?.layers.find((one) => one.id === id);
  if (!layer) throw new BehaviourError('layer-missing', 'That layer is no longer there. Look at the behaviour again.', id);
  return layer;
}

function passageOf(layer: Layer, id: Id): Passage {
  const passage = layer.passages.find((one) => one.id === id);
  if (!passage) throw new BehaviourError('passage-missing', 'That passage is no longer there. Look at the behaviour again.', id);
  return passage;
}

/** @throws {BehaviourError} where another one is called so: tables and packages know layers and states by their names */
function needFree(list: readonly { id: Id; name: string }[], name: string | undefined, what: string, self?: Id): void {
  if (name !== undefined && list.some((one) => one.name === name && one.id !== self))
    throw new BehaviourError('name-taken', `Another ${what} is called “${name}”. Choose another name.`, self ?? null);
}

/** Says what plays when, all of it, and the mixes that are played; null where nothing is said any more. Mixes not given stay. */
export const setBehaviour = defineOperation<{ behaviour: Behaviour | null; mixes?: Mix[] }>({
  id: 'behaviour.set',
  title: (_, { behaviour }) => (behaviour ? 'Say what plays when' : 'Say no longer what plays when'),
  args: Joi.object({ behaviour: behaviourSchema.allow(null).required(), mixes: SECTIONS.mixes.schema }),
  change(kit, { behaviour, mixes }) {
    if (mixes) {
      if (mixes.length > 0) kit.mixes = structuredClone(mixes);
      else delete kit.mixes;
    }
    if (behaviour) kit.behaviour = structuredClone(behaviour);
    else delete kit.behaviour;
  },
});

/** Adds a layer over those that there are, with a state in which it begins. */
export const addLayer = defineOperation<{ id?: Id; name: string; state: string; clip: Id | null }>({
  id: 'behaviour.add-layer',
  title: (_, { name }) => `Add the layer “${name}”`,
  args: Joi.object({
    id: idSchema,
    name: nameSchema.min(1).required(),
    state: nameSchema.min(1).required(),
    clip: maybeIdSchema.required(),
  }),
  change(kit, { id = newId(), name, state, clip }) {
    const first = newId();
    kit.behaviour ??= { layers: [] };
    needFree(kit.behaviour.layers, name, 'layer');
    // What has all parts is the body; another one goes on top of it.
    kit.behaviour.layers.push({
      id,
      name,
      parts: [],
      how: kit.behaviour.layers.length === 0 ? 'replaces' : 'adds',
      first,
      states: [{ id: first, name: state, clip, speed: 1, loop: true }],
      passages: [],
    });
  },
});

/** Says what a layer is called, what it moves, how and how far, and where it begins; a weight of null takes it away. */
export const setLayer = defineOperation<
  { layer: Id; weight?: Layer['weight'] | null } & Partial<Pick<Layer, 'name' | 'parts' | 'how' | 'first' | 'edge'>>
>({
  id: 'behaviour.set-layer',
  title: (kit, { layer }) => `Change the layer “${kit.behaviour?.layers.find(({ id }) => id === layer)?.name ?? layer}”`,
  args: Joi.object({
    layer: idSchema.required(),
    name: nameSchema.min(1),
    parts: Joi.array().items(idSchema).unique(),
    how: Joi.valid('replaces', 'adds'),
    first: idSchema,
    edge: edgeSchema,
    weight: weightSchema.allow(null),
  }).or('name', 'parts', 'how', 'first', 'edge', 'weight'),
  change(kit, { layer, weight, ...said }) {
    const changed = layerOf(kit, layer);
    needFree(kit.behaviour!.layers, said.name, 'layer', layer);
    Object.assign(changed, structuredClone(said));
    if (said.edge === 0) delete changed.edge;
    if (weight) changed.weight = { ...weight };
    else if (weight === null) delete changed.weight;
  },
});

/** Takes a layer away, with its states and passages. */
export const removeLayer = defineOperation<{ layer: Id }>({
  id: 'behaviour.remove-layer',
  title: (kit, { layer }) => `Take the layer “${kit.behaviour?.layers.find(({ id }) => id === layer)?.name ?? layer}” away`,
  args: Joi.object({ layer: idSchema.required() }),
  change(kit, { layer }) {
    layerOf(kit, layer);
    kit.behaviour!.layers = kit.behaviour!.layers.filter(({ id }) => id !== layer);
    if (kit.behaviour!.layers.length === 0) delete kit.behaviour;
  },
});

function stateOf(layer: Layer, id: Id): BehaviourState {
  const state = layer.states.find((one) => one.id === id);
  if (!state) throw new BehaviourError('state-missing', 'That state is no longer there. Look at the behaviour again.', id);
  return state;
}

/** Adds a state to a layer. */
export const addState = defineOperation<{ layer: Id } & Omit<BehaviourState, 'id'> & { id?: Id }>({
  id: 'behaviour.add-state',
  title: (_, { name }) => `Add the state “${name}”`,
  args: Joi.object({
    layer: idSchema.required(),
    id: idSchema,
    name: nameSchema.min(1).required(),
    clip: maybeIdSchema.required(),
    mix: idSchema,
    gaits: gaitsSchema,
    sends: sendsSchema,
    group: groupSchema,
    speed: Joi.number().greater(0).max(100).required(),
    loop: Joi.boolean().required(),
  }),
  change(kit, { layer, id = newId(), ...state }) {
    const { states } = layerOf(kit, layer);
    needFree(states, state.name, 'state of the layer');
    states.push({ ...structuredClone(state), id });
  },
});

type StateSaid = Partial<Omit<BehaviourState, 'id' | 'mix' | 'gaits' | 'sends' | 'group'>> & {
  mix?: Id | null;
  gaits?: BehaviourState['gaits'] | null;
  sends?: string[] | null;
  group?: string | null;
};

/**
 * Says what a state is called, what it plays how (a clip or a mix, each in the place of the other), what it tells the game, and which group
 * it is in. Null takes away.
 */
export const setState = defineOperation<{ layer: Id; state: Id } & StateSaid>({
  id: 'behaviour.set-state',
  title: () => 'Change a state',
  args: Joi.object({
    layer: idSchema.required(),
    state: idSchema.required(),
    name: nameSchema.min(1),
    clip: maybeIdSchema,
    mix: maybeIdSchema,
    gaits: gaitsSchema.allow(null),
    sends: sendsSchema.allow(null),
    group: groupSchema.allow(null),
    speed: Joi.number().greater(0).max(100),
    loop: Joi.boolean(),
  })
    .or('name', 'clip', 'mix', 'gaits', 'sends', 'group', 'speed', 'loop')
    .oxor('clip', 'mix'),
  change(kit, { layer, state, mix, gaits, sends, group, ...said }) {
    const { states } = layerOf(kit, layer);
    const changed = stateOf(layerOf(kit, layer), state);
    needFree(states, said.name, 'state of the layer', state);
    Object.assign(changed, said);
    if (said.clip !== undefined || mix === null) delete changed.mix;
    if (mix) Object.assign(changed, { clip: null, mix });
    if (gaits) changed.gaits = structuredClone(gaits);
    else if (gaits === null) delete changed.gaits;
    if (sends) changed.sends = [...sends];
    else if (sends === null) delete changed.sends;
    if (group) changed.group = group;
    else if (group === null) delete changed.group;
  },
});

/** Takes passages away. */
export const removePassages = defineOperation<{ layer: Id; passages: Id[] }>({
  id: 'behaviour.remove-passages',
  title: (_, { passages }) => (passages.length === 1 ? 'Take a passage away' : `Take ${passages.length} passages away`),
  args: Joi.object({ layer: idSchema.required(), passages: Joi.array().items(idSchema).min(1).unique().required() }),
  change(kit, { layer: id, passages }) {
    const layer = layerOf(kit, id);
    for (const one of passages) passageOf(layer, one);
    layer.passages = layer.passages.filter((one) => !passages.includes(one.id));
  },
});

/** Takes a state away, with the passages that lead to it and from it. The first one stays: a layer begins there. */
export const removeState = defineOperation<{ layer: Id; state: Id }>({
  id: 'behaviour.remove-state',
  title: (kit, { layer, state }) => {
    const name = kit.behaviour?.layers.find((one) => one.id === layer)?.states.find((one) => one.id === state)?.name;
    return `Take the state “${name ?? state}” away`;
  },
  args: Joi.object({ layer: idSchema.required(), state: idSchema.required() }),
  change(kit, { layer: id, state }) {
    const layer = layerOf(kit, id);
    stateOf(layer, state);
    if (layer.first === state)
      throw new BehaviourError('state-first', 'The layer begins in that state. Let it begin in another one first.', state);
    layer.states = layer.states.filter((one) => one.id !== state);
    layer.passages = layer.passages.filter(({ from, to }) => from !== state && to !== state);
    for (const passage of layer.passages)
      if (passage.except.includes(state)) passage.except = passage.except.filter((one) => one !== state);
  },
});

/** Puts a passage before another one of its layer: the earlier one is taken where both hold. */
export const movePassage = defineOperation<{ layer: Id; passage: Id; before: Id }>({
  id: 'behaviour.move-passage',
  title: () => 'Let a passage go first',
  args: Joi.object({ layer: idSchema.required(), passage: idSchema.required(), before: idSchema.invalid(Joi.ref('passage')).required() }),
  change(kit, { layer: id, passage, before }) {
    const layer = layerOf(kit, id);
    const moved = passageOf(layer, passage);
    passageOf(layer, before);
    const others = layer.passages.filter((one) => one.id !== passage);
    others.splice(
      others.findIndex((one) => one.id === before),
      0,
      moved,
    );
    layer.passages = others;
  },
});

/**
 * Says of a passage from where to where it leads (from anywhere: but for which states), how long it takes, what it asks for, when it may be
 * taken, or where what it leads to begins: 0 at its beginning.
 */
export const setPassage = defineOperation<
  { layer: Id; passage: Id } & Partial<Pick<Passage, 'from' | 'except' | 'to' | 'when' | 'after' | 'over' | 'begins'>> & { firm?: boolean }
>({
  id: 'behaviour.set-passage',
  title: () => 'Change a passage',
  args: Joi.object({
    layer: idSchema.required(),
    passage: idSchema.required(),
    from: maybeIdSchema,
    except: Joi.array().items(idSchema).unique(),
    to: idSchema,
    when: Joi.array().items(conditionSchema).max(40),
    after: Joi.valid('any', 'end'),
    over: Joi.number().min(0).max(60),
    firm: Joi.boolean(),
    begins: Joi.alternatives(Joi.valid(0), beginsSchema),
  }).or('from', 'except', 'to', 'when', 'after', 'over', 'firm', 'begins'),
  change(kit, { layer, passage, firm, ...said }) {
    const changed = passageOf(layerOf(kit, layer), passage);
    Object.assign(changed, structuredClone(said));
    if (firm) changed.firm = true;
    else if (firm === false) delete changed.firm;
    if (said.begins === 0) delete changed.begins;
    // What leads from one state has no exceptions, and where it leads to is none.
    changed.except = changed.from === null ? changed.except.filter((state) => state !== changed.to) : [];
  },
});

/** Adds a passage, after those that there are. */
export const addPassage = defineOperation<{
  id?: Id;
  layer: Id;
  from: Id | null;
  to: Id;
  when: Condition[];
  after: Passage['after'];
  over: number;
}>({
  id: 'behaviour.add-passage',
  title: () => 'Add a passage',
  args: Joi.object({
    id: idSchema,
    layer: idSchema.required(),
    from: idSchema.allow(null).required(),
    to: idSchema.required(),
    when: Joi.array().items(conditionSchema).required(),
    after: Joi.valid('any', 'end').required(),
    over: Joi.number().min(0).max(60).required(),
  }),
  change(kit, { id = newId(), layer, ...passage }) {
    layerOf(kit, layer).passages.push({ ...structuredClone(passage), id, except: [] });
  },
});

/** Says by which parameter states play otherwise; null by none: then what they play otherwise goes. */
export const setGait = defineOperation<{ gait: string | null }>({
  id: 'behaviour.set-gait',
  title: (_, { gait }) => (gait === null ? 'Play the same by every gait' : `Play by ${gait}`),
  args: Joi.object({ gait: Joi.string().min(1).max(120).allow(null).required() }),
  change(kit, { gait }) {
    const { behaviour } = kit;
    if (!behaviour) throw new BehaviourError('behaviour-missing', 'Nothing says what plays when. Begin with a layer.');
    if (gait === behaviour.gait) return;
    if (gait === null) delete behaviour.gait;
    else behaviour.gait = gait;
    for (const { states } of behaviour.layers) for (const state of states) delete state.gaits;
  },
});
