import { playsOf, type Behaviour, type Condition, type Id, type Kit, type Layer, type Mix, type Passage, type Played } from '../document';
import { TooManyError, ValueSpace, type Box, type Region } from './boxes';
import { leadsFrom } from './interpreter';
import type { ParameterRule, Values } from './rules';

/** What is certain of a behaviour, whatever is passed in; each with values that show it, where there are any. */
export type Claim =
  /** Nothing ever leads there. */
  | { kind: 'unreached'; layer: Id; state: Id }
  /** Its conditions contradict one another, or ask for what is never passed in; or earlier passages are always taken instead. */
  | { kind: 'never'; layer: Id; passage: Id; because: 'contradicts' | 'earlier'; by: Id[] }
  /** Both hold at once and lead to different states: the earlier one is taken. */
  | { kind: 'both'; layer: Id; state: Id; passages: [Id, Id]; values: Values }
  /** Nothing leads out of it. */
  | { kind: 'stuck'; layer: Id; state: Id }
  /** Passages of 0 seconds lead round without end within one frame. */
  | { kind: 'endless'; layer: Id; states: Id[]; values: Values }
  /** A condition asks about what the platform does not pass in, or for a value that it does not have. */
  | { kind: 'unknown'; layer: Id; passage: Id; parameter: string; value: string | null }
  /** Its conditions combine in more ways than can be looked at: nothing else is said of it. */
  | { kind: 'unsure'; layer: Id }
  /** Nothing asks about it. */
  | { kind: 'unread'; parameter: string }
  /** Values that nothing tells apart. */
  | { kind: 'alike'; parameter: string; values: string[] };

/** One passage as it can be taken from one state: where its conditions hold and no earlier one is taken. */
interface Way {
  passage: Passage;
  box: Box;
  /** Earlier ones that are looked at whenever this one is. */
  earlier: Box[];
}

/** How many boxes are looked at for a layer: a second or two. */
const MOST_STEPS = 300_000;

/** What a state has no time for of its own. */
type Timeless = (state: Id) => boolean;

/** What states of a kit have ended as soon as they begin: those that play no clip that is there, whatever the gait and the values. */
export function timelessIn({ behaviour, clips, mixes = [] }: Pick<Kit, 'behaviour' | 'clips' | 'mixes'>): Timeless {
  const states = new Map(behaviour?.layers.flatMap((layer) => layer.states.map((state) => [state.id, state] as const)));
  const has = (clip: Id | null) => clip !== null && clip in clips;
  const takesTime = ({ clip, mix }: Played) =>
    mix === undefined ? has(clip) : (mixes.find(({ id }) => id === mix)?.pegs.some((peg) => has(peg.clip)) ?? false);
  return (id) => {
    const state = states.get(id);
    return !state || !playsOf(state).some(takesTime);
  };
}

/**
 * Proves what can and what can’t happen. Values may be any, and others in each frame; a state is where some passage can be taken to it,
 * from a state that is itself reached. Exact over classes of values (`ValueSpace`).
 *
 * @param timeless Whether a state has ended as soon as it begins: it plays nothing. @param mixes Those that states play by their ids
 */
export function proofsOf(
  behaviour: Behaviour,
  parameters: readonly ParameterRule[],
  timeless: Timeless,
  mixes: readonly Mix[] = [],
): Claim[] {
  const { layers } = behaviour;
  const space = new ValueSpace(parameters, conditionsOf(layers));
  const ofLayers = layers.flatMap((layer): Claim[] => {
    space.allow(MOST_STEPS);
    try {
      return proofsOfLayer(layer, space, timeless);
    } catch (error) {
      if (error instanceof TooManyError) return [{ kind: 'unsure', layer: layer.id }];
      throw error;
    }
  });
  return [...ofLayers, ...unknowns(layers, parameters), ...unread(behaviour, parameters, mixes)];
}

function* conditionsOf(layers: readonly Layer[]): Generator<Condition> {
  for (const { passages } of layers) for (const { when } of passages) yield* when;
}

function proofsOfLayer(layer: Layer, space: ValueSpace, timeless: Timeless): Claim[] {
  const { id, states, passages, first } = layer;
  const boxes = new Map(passages.map((one) => [one.id, space.boxOf(one.when)]));
  const ways = new Map(states.map((state) => [state.id, waysFrom(layer, state.id, boxes, timeless)]));
  const open = new Map([...ways].map(([state, list]) => [state, list.filter(({ box, earlier }) => space.outside(box.region, earlier))]));
  const reached = new Set([first]);
  for (const state of reached) for (const { passage } of open.get(state)!) reached.add(passage.to);
  const claims: Claim[] = [];
  for (const state of states) {
    if (!reached.has(state.id)) claims.push({ kind: 'unreached', layer: id, state: state.id });
    else if (states.length > 1 && open.get(state.id)!.length === 0) claims.push({ kind: 'stuck', layer: id, state: state.id });
  }
  const taken = new Set([...open].filter(([state]) => reached.has(state)).flatMap(([, list]) => list.map(({ passage }) => passage.id)));
  for (const passage of passages) {
    if (taken.has(passage.id)) continue;
    if (!boxes.get(passage.id)) claims.push({ kind: 'never', layer: id, passage: passage.id, because: 'contradicts', by: [] });
    else {
      const from = states.filter((state) => reached.has(state.id) && leadsFrom(passage, state.id));
      // Of what begins where nothing leads that is said already.
      if (from.length > 0)
        claims.push({ kind: 'never', layer: id, passage: passage.id, because: 'earlier', by: coverOf(passage, from[0].id) });
    }
  }
  function coverOf(passage: Passage, state: Id): Id[] {
    const box = boxes.get(passage.id)!;
    const before = passages.slice(0, passages.indexOf(passage));
    return before
      .filter((one) => leadsFrom(one, state) && isLookedAt(one, passage, timeless(state)) && boxes.get(one.id))
      .filter((one) => space.meet(box.region, boxes.get(one.id)!))
      .map((one) => one.id);
  }
  return [...claims, ...doubled(layer, boxes, reached, { space, timeless }), ...endless(id, ways, reached, { space, timeless })];
}

/** Whether an earlier passage is looked at whenever a later one is. */
const isLookedAt = (earlier: Passage, later: Passage, timeless: boolean): boolean =>
  timeless || earlier.after === 'any' || later.after === 'end';

function waysFrom({ passages }: Layer, state: Id, boxes: ReadonlyMap<Id, Box | null>, timeless: Timeless): Way[] {
  const none = timeless(state);
  const here = passages.filter((one) => leadsFrom(one, state) && boxes.get(one.id));
  return here.map((passage, i) => ({
    passage,
    box: boxes.get(passage.id)!,
    earlier: here.slice(0, i).flatMap((one) => (isLookedAt(one, passage, none) ? boxes.get(one.id)! : [])),
  }));
}

interface In {
  space: ValueSpace;
  timeless: Timeless;
}

/** Pairs that hold at once and lead to different states while nothing goes before both, each pair once. */
function doubled(layer: Layer, boxes: ReadonlyMap<Id, Box | null>, reached: ReadonlySet<Id>, { space, timeless }: In): Claim[] {
  const seen = new Set<string>();
  const claims: Claim[] = [];
  for (const state of reached) {
    const here = layer.passages.filter((one) => leadsFrom(one, state) && boxes.get(one.id));
    here.forEach((a, i) => {
      const box = boxes.get(a.id)!;
      for (let k = i + 1; k < here.length; k++) {
        const b = here[k];
        if (a.to === b.to || !space.meet(box.region, boxes.get(b.id)!)) continue;
        const pair = `${a.id} ${b.id}`;
        if (seen.has(pair)) continue;
        const both = space.both(box.region, boxes.get(b.id)!);
        // Where one of the two waits for the end, what else waits for it is looked at too.
        const later = a.after === 'end' ? a : b;
        const earlier = here.slice(0, i).flatMap((one) => (isLookedAt(one, later, timeless(state)) ? boxes.get(one.id)! : []));
        const shown = both && space.outside(both, earlier);
        if (!shown) continue;
        seen.add(pair);
        claims.push({ kind: 'both', layer: layer.id, state, passages: [a.id, b.id], values: space.valuesIn(shown) });
      }
    });
  }
  return claims;
}

/** Rounds of passages that take no time, under the same values all along; each set of states once. */
function endless(layer: Id, ways: ReadonlyMap<Id, Way[]>, reached: ReadonlySet<Id>, { space, timeless }: In): Claim[] {
  const claims: Claim[] = [];
  const said = new Set<string>();
  // What is entered in the same frame has not ended, unless it has no time.
  const quick = new Map(
    [...ways].map(([state, list]) => {
      const now = list.filter(({ passage }) => passage.after === 'any' || timeless(state));
      return [state, now.filter(({ passage }) => passage.over === 0)] as const;
    }),
  );
  const follow = (path: Id[], region: Region): void => {
    for (const { passage, box: own, earlier } of quick.get(path[path.length - 1])!) {
      const both = space.both(region, own);
      if (!both) continue;
      for (const piece of space.outsides(both, earlier)) {
        const round = path.indexOf(passage.to);
        if (round < 0) follow([...path, passage.to], piece);
        // A round is found from the first of its states.
        else if (round === 0) {
          const key = [...path].sort().join(' ');
          if (!said.has(key)) claims.push({ kind: 'endless', layer, states: path, values: space.valuesIn(piece) });
          said.add(key);
        }
      }
    }
  };
  for (const state of reached) follow([state], space.everything);
  return claims;
}

/** What is asked for and never passed in. */
function unknowns(layers: readonly Layer[], parameters: readonly ParameterRule[]): Claim[] {
  const rules = new Map(parameters.map((rule) => [rule.name, rule]));
  return layers.flatMap(({ id: layer, passages }) =>
    passages.flatMap(({ id: passage, when }) =>
      when.flatMap((one): Claim[] => {
        const rule = rules.get(one.parameter);
        const claim = (value: string | null): Claim => ({ kind: 'unknown', layer, passage, parameter: one.parameter, value });
        if (!rule || !asks(one, rule)) return [claim(null)];
        if (one.kind !== 'among' || rule.kind !== 'names') return [];
        return one.values.filter((value) => !rule.values.includes(value)).map(claim);
      }),
    ),
  );
}

/** Whether a condition is of a kind that can be asked of a parameter. */
export function asks(one: Condition, { kind }: ParameterRule): boolean {
  if (one.kind === 'range') return kind === 'number';
  if (one.kind === 'sent') return kind === 'signal';
  return kind === 'names' || kind === 'yes-no';
}

/** Parameters by which something is mixed, or a layer comes in. */
function* mixedBy({ layers }: Behaviour, mixes: readonly Mix[]): Generator<string> {
  const played = new Set(layers.flatMap(({ states }) => states.flatMap(playsOf)).map(({ mix }) => mix));
  for (const { id, parameters } of mixes) if (played.has(id)) yield* parameters;
  for (const { weight } of layers) if (weight) yield weight.parameter;
}

/** Parameters that nothing asks about, and names that nothing tells apart. */
function unread(behaviour: Behaviour, parameters: readonly ParameterRule[], mixes: readonly Mix[]): Claim[] {
  const { layers, gait } = behaviour;
  const asked = [...conditionsOf(layers)];
  const mixed = new Set(mixedBy(behaviour, mixes));
  const gaits = new Set(layers.flatMap(({ states }) => states.flatMap((state) => (state.gaits ?? []).map((one) => one.gait))));
  return parameters.flatMap((rule): Claim[] => {
    const own = asked.filter((one) => one.parameter === rule.name);
    const byGait = rule.name === gait && gaits.size > 0;
    if (own.length === 0 && !byGait && !mixed.has(rule.name)) return [{ kind: 'unread', parameter: rule.name }];
    if (rule.kind !== 'names') return [];
    const alike = new Map<string, string[]>();
    for (const value of rule.values) {
      // What has a column of its own is a way of being of its own.
      const column = byGait && gaits.has(value) ? [`1 ${value}`] : [];
      const told = [...column, ...own.map((one) => (one.kind === 'among' && one.values.includes(value) ? '1' : '0'))].join('');
      alike.set(told, [...(alike.get(told) ?? []), value]);
    }
    // What none of them names is one way of being: everything else.
    return [...alike]
      .filter(([told, values]) => told.includes('1') && values.length > 1)
      .map(([, values]) => ({ kind: 'alike', parameter: rule.name, values }));
  });
}
