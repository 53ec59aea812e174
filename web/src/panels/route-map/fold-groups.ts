import type { BehaviourState, Id, Layer, Passage } from '@itchkit/core/document';
import type { Lit, MapWords } from './map-graph';

/** What a group is called among those of all layers. */
export const groupKey = (layer: Id, group: string): string => `${layer} ${group}`;

/** A map whose folded groups stand as one halt each. */
export interface FoldedMap {
  layers: Layer[];
  words: MapWords;
  /** The halt that a state stands in. */
  haltOf: (state: Id) => Id;
  /** The group that a halt stands for, by its key; undefined for a state of its own. */
  groupOf: (halt: Id) => string | undefined;
  /** How lines are lit: as the strongest of those that are drawn as one. */
  lit: (lit: ReadonlyMap<Id, Lit>) => Map<Id, Lit>;
  /** The line that a passage is drawn in; undefined where it stays within a folded group. */
  lineOf: (passage: Id) => Id | undefined;
}

const GROUP = 'group ';
const strength = (one: Lit): number => (typeof one === 'object' ? 1 - one.ago : { taken: 3, waits: 2 }[one]);

/**
 * Folds groups: their states become one halt, passages between these go, and those that lead alike from halt to halt are drawn as one, by
 * the first of them.
 *
 * @param folded Keys of the groups that are folded
 */
export function foldGroups(layers: readonly Layer[], words: MapWords, folded: ReadonlySet<string>): FoldedMap {
  const haltOf = new Map<Id, Id>();
  const groupOf = new Map<Id, string>();
  const lineOf = new Map<Id, Id>();
  const drawn = new Map<Id, Id[]>();
  const members = new Map<Id, number>();
  const made = layers.map((layer): Layer => {
    const states: BehaviourState[] = [];
    for (const state of layer.states) {
      const key = state.group === undefined ? '' : groupKey(layer.id, state.group);
      if (state.group === undefined || !folded.has(key)) {
        states.push(state);
        continue;
      }
      const halt = GROUP + key;
      haltOf.set(state.id, halt);
      if (!groupOf.has(halt)) states.push({ id: halt, name: state.group, clip: null, speed: 1, loop: true });
      groupOf.set(halt, key);
      members.set(halt, (members.get(halt) ?? 0) + 1);
    }
    const at = (id: Id) => haltOf.get(id) ?? id;
    const lines = new Map<string, Passage>();
    for (const passage of layer.passages) {
      const [from, to] = [passage.from === null ? null : at(passage.from), at(passage.to)];
      const whole = groupOf.has(to) || (from !== null && groupOf.has(from));
      if (whole && from === to) continue;
      const ends = whole ? JSON.stringify([from, to]) : passage.id;
      const line = lines.get(ends) ?? { ...passage, from, to };
      lines.set(ends, line);
      lineOf.set(passage.id, line.id);
      drawn.set(line.id, [...(drawn.get(line.id) ?? []), passage.id]);
    }
    return { ...layer, first: at(layer.first), states, passages: [...lines.values()] };
  });
  return {
    layers: made,
    words: {
      plays: (layer, state) => (groupOf.has(state) ? `${members.get(state)} states, folded` : words.plays(layer, state)),
      asks(layer, passage) {
        const { length } = drawn.get(passage) ?? [];
        return length > 1 ? `${length} ways` : words.asks(layer, passage);
      },
    },
    haltOf: (state) => haltOf.get(state) ?? state,
    groupOf: (halt) => groupOf.get(halt),
    lit(of) {
      const out = new Map<Id, Lit>();
      for (const [line, passages] of drawn)
        for (const passage of passages) {
          const [now, other] = [out.get(line), of.get(passage)];
          if (other !== undefined && (now === undefined || strength(other) > strength(now))) out.set(line, other);
        }
      return out;
    },
    lineOf: (passage) => lineOf.get(passage),
  };
}
