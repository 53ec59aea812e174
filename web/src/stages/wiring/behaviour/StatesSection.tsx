'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { addState, removeState, setGait, setState, type ParameterRule } from '@itchkit/core/behaviour';
import {
  callOf,
  clipsInOrder,
  count,
  LONGEST_TOLD,
  type BehaviourState,
  type GaitPlayed,
  type Kit,
  type Layer,
  type Played,
} from '@itchkit/core/document';
import { Choice } from '../../../card/Choice';
import { NamesField } from '../../../card/NamesField';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { useDraft } from '../../../card/use-draft';
import { Buttons, Fold } from '../../../panels/Fold';
import { groupKey } from '../../../panels/route-map/fold-groups';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { freshName } from './beginnings';

/** What a layer plays, state by state; by another gait something else. */
export function StatesSection({ layer, parameters }: { layer: Layer; parameters: readonly ParameterRule[] }) {
  const folded = useUi((all) => all.behaviour.folded);
  return (
    <Fold title="States" aside={layer.states.length}>
      <Box sx={{ display: 'grid', gap: 2 }}>
        <GaitChoice parameters={parameters} />
        <datalist id={`groups-${layer.id}`}>
          {[...new Set(layer.states.flatMap(({ group }) => group ?? []))].map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        {bunchesOf(layer).map(({ group, states }) => (
          <Box key={group ?? states[0].id} role="group" aria-label={group && `Group ${group}`} sx={{ display: 'grid', gap: 2 }}>
            {group !== undefined && <GroupHead layer={layer} group={group} size={states.length} />}
            {(group === undefined || !folded.includes(groupKey(layer.id, group))) &&
              states.map((state) => <StateFields key={state.id} layer={layer} state={state} parameters={parameters} />)}
          </Box>
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

/** States of a layer in their order, each alone or with the others of its group where the first of these stands. */
function bunchesOf({ states }: Layer): { group?: string; states: BehaviourState[] }[] {
  const bunches: { group?: string; states: BehaviourState[] }[] = [];
  for (const state of states) {
    const bunch = state.group === undefined ? undefined : bunches.find(({ group }) => group === state.group);
    if (bunch) bunch.states.push(state);
    else bunches.push({ group: state.group, states: [state] });
  }
  return bunches;
}

/** What a group is called, and whether it is folded here and on the route map. */
function GroupHead({ layer, group, size }: { layer: Layer; group: string; size: number }) {
  const ui = useSetSlice('behaviour');
  const folded = useUi((all) => all.behaviour.folded);
  const key = groupKey(layer.id, group);
  const open = !folded.includes(key);
  return (
    <Button
      size="small"
      color="inherit"
      aria-expanded={open}
      onClick={() => ui({ folded: open ? [...folded, key] : folded.filter((one) => one !== key) })}
      sx={{ justifyContent: 'flex-start', fontWeight: 600 }}
    >
      {open ? '▾' : '▸'} {group}
      <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400, ml: 0.75 }}>
        {count(size, 'state')}
        {open ? '' : ', folded'}
      </Box>
    </Button>
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

/** What states of a kit tell the game, each name once. */
const toldNames = (kit: Kit): string[] => [
  ...new Set((kit.behaviour?.layers ?? []).flatMap(({ states }) => states.flatMap(({ sends }) => sends ?? []))),
];

function StateFields({ layer, state, parameters }: { layer: Layer; state: BehaviourState; parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const ui = useSetSlice('behaviour');
  const inNow = useUi((all) => all.behaviour.in);
  const say = (
    change: Partial<Pick<BehaviourState, 'name' | 'clip' | 'mix' | 'speed' | 'loop'>> & {
      gaits?: GaitPlayed[] | null;
      sends?: string[] | null;
      group?: string | null;
    },
  ) => void run(callOf(setState, { layer: layer.id, state: state.id, ...change }));
  const { field, taken } = useDraft(state.name, { take: (name) => name.trim() !== '' && say({ name: name.trim() }) });
  const group = useDraft(state.group ?? '', {
    take: (name) => name.trim() !== (state.group ?? '') && say({ group: name.trim() === '' ? null : name.trim() }),
  });
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
      <NamesField
        label={`${state.name} tells the game`}
        placeholder="nothing"
        names={state.sends ?? []}
        offered={toldNames(kit)}
        longest={LONGEST_TOLD}
        onCommit={(names) => say({ sends: names.length > 0 ? names : null })}
      />
      <TextField
        label={`${state.name} is in the group`}
        placeholder="none"
        size="small"
        {...group.field}
        slotProps={{
          htmlInput: { ...group.taken, maxLength: 120, list: `groups-${layer.id}` },
          inputLabel: { shrink: true },
        }}
        sx={{ gridColumn: '1 / -1' }}
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
