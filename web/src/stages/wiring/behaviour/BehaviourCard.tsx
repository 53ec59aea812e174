'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { addLayer, addState, removeLayer, removeState, setGait, setLayer, setState, type ParameterRule } from '@itchkit/core/behaviour';
import {
  callOf,
  clipsInOrder,
  count,
  newId,
  type BehaviourState,
  type Call,
  type GaitPlayed,
  type Kit,
  type Layer,
  type LayerWeight,
  type Played,
} from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { useDraft } from '../../../card/use-draft';
import { Buttons, Fold } from '../../../panels/Fold';
import { ListRow } from '../../../panels/ListRow';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { MixSection } from './MixSection';
import { freshName, numbersOf } from './new-mix';
import { PassageSection } from './PassageSection';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** A state for each clip: the first is the one that stands still, what is played once comes back to it. */
function beginning(kit: Kit): Call[] {
  const clips = clipsInOrder(kit);
  const first = clips.find(({ name }) => /idle|stand/i.test(name)) ?? clips[0];
  const layer = newId();
  return [
    callOf(addLayer, { id: layer, name: 'Body', state: first?.name ?? 'still', clip: first?.id ?? null }),
    ...clips
      .filter((clip) => clip !== first)
      .map((clip) =>
        callOf(addState, { layer, name: clip.name, clip: clip.id, speed: 1, loop: clip.loop === 'loop' || clip.loop === 'ping-pong' }),
      ),
  ];
}

/** Layers, the states of the chosen one, and the passage that is worked on. */
export function BehaviourCard({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const set = useSetSlice('behaviour');
  const own = useUi((state) => state.behaviour);
  const layers = kit.behaviour?.layers ?? [];
  const layer = layers.find(({ id }) => id === own.layer) ?? layers[0];
  return (
    <>
      <Fold title="Layers" opens={layers.length === 0} aside={layers.length === 0 ? 'none' : layers.length}>
        {layers.length === 0 && <Box sx={small}>What plays when is said in layers of states; passages lead from one to another.</Box>}
        {layers.length > 0 && (
          <Box component="ul" aria-label="Layers" sx={{ listStyle: 'none', m: 0, p: 0 }}>
            {layers.map((one) => (
              <li key={one.id}>
                <ListRow chosen={one === layer} onClick={() => set({ layer: one.id, passage: null })}>
                  {one.name}
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    , {count(one.states.length, 'state')}, {one.how === 'adds' ? 'on top of those before' : 'instead of those before'}
                  </Box>
                </ListRow>
              </li>
            ))}
          </Box>
        )}
        {layer && <LayerFields key={layer.id} layer={layer} parameters={rulebook.behaviours!.parameters} />}
        <Buttons>
          {layers.length === 0 ? (
            <TryButton variant="contained" calls={() => beginning(kit)} step="Begin with a state for each clip">
              Begin with a state for each clip
            </TryButton>
          ) : (
            <TryButton calls={() => callOf(addLayer, { name: freshName('Layer', layers), state: 'nothing', clip: null })}>
              Add a layer
            </TryButton>
          )}
        </Buttons>
      </Fold>
      {layer && <StatesSection layer={layer} parameters={rulebook.behaviours!.parameters} />}
      <MixSection parameters={rulebook.behaviours!.parameters} />
      {layer && <PassageSection layer={layer} parameters={rulebook.behaviours!.parameters} />}
    </>
  );
}

function LayerFields({ layer, parameters }: { layer: Layer; parameters: readonly ParameterRule[] }) {
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

function StatesSection({ layer, parameters }: { layer: Layer; parameters: readonly ParameterRule[] }) {
  return (
    <Fold title="States" aside={layer.states.length}>
      <Box sx={{ display: 'grid', gap: 2 }}>
        <GaitChoice parameters={parameters} />
        {layer.states.map((state) => (
          <StateFields key={state.id} layer={layer} state={state} parameters={parameters} />
        ))}
      </Box>
      <Buttons>
        <TryButton
          calls={() => callOf(addState, { layer: layer.id, name: freshName('state', layer.states), clip: null, speed: 1, loop: true })}
        >
          Add a state
        </TryButton>
      </Buttons>
    </Fold>
  );
}

/** By which names states may play something else. */
function GaitChoice({ parameters }: { parameters: readonly ParameterRule[] }) {
  const run = useRun();
  const gait = useKit().behaviour?.gait;
  const names = parameters.filter(({ kind }) => kind === 'names');
  if (names.length === 0) return null;
  return (
    <Choice
      label="States play otherwise"
      value={gait ?? ''}
      options={[['', 'by nothing'] as const, ...names.map(({ name, title }) => [name, `by ${title}`] as const)]}
      onChange={(name) => run(callOf(setGait, { gait: name === '' ? null : name }))}
    />
  );
}

const MIXED = 'mix ';
/** What is no gait's own. */
const SAME = 'same';

/** What can be played: nothing, a clip, or a mix. */
function playable(kit: Kit): (readonly [value: string, title: string])[] {
  return [
    ['', 'nothing'],
    ...(kit.mixes ?? []).map(({ id, name }) => [`${MIXED}${id}`, `the mix ${name}`] as const),
    ...clipsInOrder(kit).map(({ id, name }) => [id, name] as const),
  ];
}

const chosenOf = ({ clip, mix }: Played, options: readonly (readonly [string, string])[]): string => {
  const value = mix === undefined ? (clip ?? '') : `${MIXED}${mix}`;
  return options.some(([one]) => one === value) ? value : '';
};

const playedBy = (value: string): Played =>
  value.startsWith(MIXED) ? { clip: null, mix: value.slice(MIXED.length) } : { clip: value === '' ? null : value };

function StateFields({ layer, state, parameters }: { layer: Layer; state: BehaviourState; parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const ui = useSetSlice('behaviour');
  const inNow = useUi((all) => all.behaviour.in);
  const say = (change: Partial<Pick<BehaviourState, 'name' | 'clip' | 'mix' | 'speed' | 'loop'>> & { gaits?: GaitPlayed[] | null }) =>
    void run(callOf(setState, { layer: layer.id, state: state.id, ...change }));
  const { field, taken } = useDraft(state.name, { take: (name) => name.trim() !== '' && say({ name: name.trim() }) });
  const options = playable(kit);
  const byGait = parameters.find(({ name }) => name === kit.behaviour?.gait);
  const { gaits = [] } = state;
  const sayGait = (gait: string, value: string) => {
    const others = gaits.filter((one) => one.gait !== gait);
    const next = value === SAME ? others : [...others, { gait, ...playedBy(value) }];
    say({ gaits: next.length > 0 ? next : null });
  };
  return (
    <Box role="group" aria-label={`State ${state.name}`} sx={{ display: 'grid', gap: 1, gridTemplateColumns: '1fr 1fr' }}>
      <TextField label="State" size="small" {...field} slotProps={{ htmlInput: taken, inputLabel: { shrink: true } }} />
      <Choice
        label={`${state.name} plays`}
        value={chosenOf(state, options)}
        options={options}
        onChange={(value) => {
          const { clip, mix } = playedBy(value);
          say(mix === undefined ? { clip } : { mix });
        }}
      />
      {byGait?.kind === 'names' &&
        byGait.values.map((gait) => {
          const one = gaits.find((each) => each.gait === gait);
          return (
            <Choice
              key={gait}
              label={`${state.name}, ${gait}`}
              value={one ? chosenOf(one, options) : SAME}
              options={[[SAME, 'as otherwise'] as const, ...options]}
              onChange={(value) => sayGait(gait, value)}
            />
          );
        })}
      <NumberField
        label={`How fast ${state.name} is played`}
        caption="times as fast"
        digits={3}
        min={0.01}
        max={100}
        step={0.1}
        value={state.speed}
        onCommit={(speed) => say({ speed })}
      />
      <FormControlLabel
        control={<Checkbox size="small" checked={state.loop} onChange={(_, loop) => say({ loop })} />}
        label="over and over"
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
      />
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', gap: 1 }}>
        <Button size="small" color="inherit" onClick={() => ui({ in: { ...inNow, [layer.id]: state.id } })}>
          What leads on
        </Button>
        {state.id !== layer.first && (
          <Button size="small" color="inherit" onClick={() => run(callOf(removeState, { layer: layer.id, state: state.id }))}>
            Take it away
          </Button>
        )}
      </Box>
    </Box>
  );
}
