'use client';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { removeLayer, setLayer, type ParameterRule } from '@itchkit/core/behaviour';
import { callOf, count, type Layer, type LayerWeight } from '@itchkit/core/document';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { useDraft } from '../../../card/use-draft';
import { Buttons } from '../../../panels/Fold';
import { useKit, useRun, useUi } from '../../../session/context';
import { numbersOf } from './beginnings';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** What a layer is called, what it moves and how far, and where it begins. */
export function LayerFields({ layer, parameters }: { layer: Layer; parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const say = (change: Partial<Pick<Layer, 'name' | 'parts' | 'how' | 'first' | 'edge'>> & { weight?: LayerWeight | null }) =>
    void run(callOf(setLayer, { layer: layer.id, ...change }));
  const { field, taken } = useDraft(layer.name, { take: (name) => name.trim() !== '' && say({ name: name.trim() }) });
  const moved = layer.parts.map((id) => kit.parts[id].name).join(', ');
  return (
    <Box sx={{ display: 'grid', gap: 1.5, mt: 1 }}>
      <TextField label="Name of the layer" size="small" {...field} slotProps={{ htmlInput: taken, inputLabel: { shrink: true } }} />
      <Choice
        label="It is played"
        value={layer.how}
        options={[
          ['replaces', 'instead of the layers before'],
          ['adds', 'on top of the layers before'],
        ]}
        onChange={(how) => say({ how: how as Layer['how'] })}
      />
      <Choice
        label="It begins in"
        value={layer.first}
        options={layer.states.map(({ id, name }) => [id, name] as const)}
        onChange={(first) => say({ first })}
      />
      <Box sx={small}>{layer.parts.length === 0 ? 'It moves all parts.' : `It moves ${moved}, and all below.`}</Box>
      {layer.parts.length > 0 && (
        <NumberField
          label="Over how many joints down it comes in"
          caption="comes in over"
          unit={layer.edge === 1 ? 'joint' : 'joints'}
          digits={0}
          min={0}
          max={50}
          value={layer.edge ?? 0}
          onCommit={(edge) => say({ edge: Math.round(edge) })}
        />
      )}
      <WeightFields weight={layer.weight ?? null} parameters={parameters} say={(weight) => say({ weight })} />
      <Buttons>
        {selection.length > 0 && (
          <TryButton calls={() => callOf(setLayer, { layer: layer.id, parts: selection })}>
            Let it move {count(selection.length, 'chosen part')}
          </TryButton>
        )}
        {layer.parts.length > 0 && (
          <TryButton calls={() => callOf(setLayer, { layer: layer.id, parts: [] })}>Let it move all parts</TryButton>
        )}
        <TryButton calls={() => callOf(removeLayer, { layer: layer.id })}>Take the layer away</TryButton>
      </Buttons>
    </Box>
  );
}

/** By what a layer is there. */
function WeightFields({
  weight,
  parameters,
  say,
}: {
  weight: LayerWeight | null;
  parameters: readonly ParameterRule[];
  say: (weight: LayerWeight | null) => void;
}) {
  const numbers = numbersOf(parameters);
  if (numbers.length === 0) return null;
  const unit = numbers.find(({ name }) => name === weight?.parameter)?.unit;
  return (
    <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: '1fr 1fr' }}>
      <Box sx={{ gridColumn: '1 / -1' }}>
        <Choice
          label="It is there"
          value={weight?.parameter ?? ''}
          options={[['', 'always'] as const, ...numbers.map(({ name, title }) => [name, `by ${title}`] as const)]}
          onChange={(parameter) => {
            const rule = numbers.find(({ name }) => name === parameter);
            say(rule ? { parameter, none: Math.max(0, rule.min), whole: rule.max } : null);
          }}
        />
      </Box>
      {weight && (
        <>
          <NumberField
            label="Not at all at"
            unit={unit}
            digits={3}
            value={weight.none}
            onCommit={(none) => none !== weight.whole && say({ ...weight, none })}
          />
          <NumberField
            label="Wholly at"
            unit={unit}
            digits={3}
            value={weight.whole}
            onCommit={(whole) => whole !== weight.none && say({ ...weight, whole })}
          />
        </>
      )}
    </Box>
  );
}
