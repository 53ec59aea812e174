'use client';
import Box from '@mui/material/Box';
import type { ParameterRule, Values } from '@itchkit/core/behaviour';
import type { Id, Kit, Layer } from '@itchkit/core/document';
import { conditionSaid, count, figure } from '@itchkit/core/rulebook';
import type { FieldFrame, TakenPassage, ToldGame } from '@itchkit/core/trial';
import { Group } from '../Group';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.6 };

const nameIn = (layer: Layer, state: Id | null) => (state === null ? 'anywhere' : layer.states.find(({ id }) => id === state)!.name);

/** Where each layer is and what it plays. */
export function Layers({ kit, frame }: { kit: Kit; frame: FieldFrame }) {
  const layers = new Map((kit.behaviour?.layers ?? []).map((layer) => [layer.id, layer]));
  const clipName = (clip: Id | null) => (clip === null ? 'nothing' : (kit.clips[clip]?.name ?? 'nothing'));
  if (layers.size === 0)
    return (
      <Group title="What plays">
        <Box sx={small}>Nothing says what plays when: the body stands as it was modelled. Say it in Wiring.</Box>
      </Group>
    );
  return (
    <Group title="What plays">
      <Box component="ul" aria-label="Layers" sx={{ ...small, listStyle: 'none', m: 0, p: 0 }}>
        {frame.layers.map((now) => {
          const layer = layers.get(now.layer)!;
          const plays = now.shares
            .map(({ clip, share }) => `${clipName(clip)}${share < 1 ? ` ${Math.round(100 * share)} %` : ''}`)
            .join(', ');
          return (
            <li key={now.layer} data-layer={layer.name} data-state={nameIn(layer, now.state)}>
              <Box component="span" sx={{ color: 'text.primary', fontWeight: 600 }}>
                {layer.name}
              </Box>{' '}
              {nameIn(layer, now.state)}: {plays}
              {now.over < 1 && `, ${Math.round(100 * now.over)} % over`}
            </li>
          );
        })}
      </Box>
    </Group>
  );
}

interface TakenProps {
  kit: Kit;
  taken: readonly TakenPassage[];
  told: readonly ToldGame[];
  parameters: readonly ParameterRule[];
}

/** The passages that were taken last, each with its reasons, and what the game was told. */
export function Taken({ kit, taken, told, parameters }: TakenProps) {
  const layers = new Map((kit.behaviour?.layers ?? []).map((layer) => [layer.id, layer]));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        {taken.length === 0 ? 'No passage was taken yet' : `The last ${count(taken.length, 'passage')}`}
      </Box>
      <Box component="ol" aria-label="Passages taken" sx={{ ...small, listStyle: 'none', m: 0, p: 0 }}>
        {[...taken].reverse().map(({ at, layer, passage, values }, i) => (
          <li key={`${at} ${passage} ${i}`}>
            <span className="figures">{at.toFixed(2)} s</span> {reasonOf(layers.get(layer)!, passage, values, parameters)}
          </li>
        ))}
      </Box>
      {told.length > 0 && (
        <>
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>It told the game</Box>
          <Box component="ol" aria-label="Told to the game" sx={{ ...small, listStyle: 'none', m: 0, p: 0 }}>
            {[...told].reverse().map(({ at, said }, i) => (
              <li key={`${at} ${said} ${i}`}>
                <span className="figures">{at.toFixed(2)} s</span> {said}
              </li>
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}

/** A passage that was taken: from where to where, and what held. */
function reasonOf(layer: Layer, id: Id, values: Values, parameters: readonly ParameterRule[]): string {
  const { from, to, when, after } = layer.passages.find((one) => one.id === id)!;
  const rules = new Map(parameters.map((rule) => [rule.name, rule]));
  const why = when.map((condition) => {
    const value = values[condition.parameter];
    const said = conditionSaid(condition, rules.get(condition.parameter));
    return typeof value === 'number' ? `${said} (${figure(value, 2)})` : said;
  });
  return `${nameIn(layer, from)} → ${nameIn(layer, to)}: ${[...why, ...(after === 'end' ? ['its clip has ended'] : [])].join(', ') || 'always'}`;
}
