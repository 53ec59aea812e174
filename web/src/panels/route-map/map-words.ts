import type { ParameterRule } from '@itchkit/core/behaviour';
import { playsOf, type Id, type Kit } from '@itchkit/core/document';
import { conditionSaid } from '@itchkit/core/rulebook';
import { MOST_LETTERS as MOST, shortened, type MapWords } from './map-graph';

/** What stands on the map of a kit's behaviour. */
export function mapWords(
  { behaviour, clips, mixes = [] }: Pick<Kit, 'behaviour' | 'clips' | 'mixes'>,
  rules: readonly ParameterRule[],
): MapWords {
  const byName = new Map(rules.map((rule) => [rule.name, rule]));
  const layerOf = (id: Id) => behaviour?.layers.find((layer) => layer.id === id);
  return {
    plays(layer, id) {
      const state = layerOf(layer)?.states.find((one) => one.id === id);
      if (!state) return '';
      const [{ clip, mix }, ...gaits] = playsOf(state);
      const played = mixes.find((one) => one.id === mix)?.name ?? (clip === null ? undefined : clips[clip]?.name) ?? 'nothing';
      return gaits.length > 0 ? `${played}, by gait` : played;
    },
    asks(layer, id) {
      const passage = layerOf(layer)?.passages.find((one) => one.id === id);
      if (!passage) return '';
      const asked = passage.when.map((condition) => conditionSaid(condition, byName.get(condition.parameter)));
      if (passage.after === 'end') asked.push('at its end');
      if (asked.length === 0) return 'always';
      return asked.length > 1 ? `${shortened(asked[0], MOST - 3)} +${asked.length - 1}` : asked[0];
    },
  };
}
