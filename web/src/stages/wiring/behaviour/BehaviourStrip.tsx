'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { valuesAtStart, type ParameterRule, type Values } from '@itchkit/core/behaviour';
import type { Id, Layer } from '@itchkit/core/document';
import { conditionSaid, figure, type Rulebook } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { Empty } from '../../../panels/Section';
import { useKit, useSetSlice, useUi } from '../../../session/context';
import { BenchBody } from './BenchBody';
import { MixPicture } from './MixPicture';
import { useMix } from './MixSection';
import { considered, type Considered } from './what-if';

const SIGNS: Record<Considered['verdict'], { sign: string; said: string; colour: string }> = {
  taken: { sign: '→', said: 'taken now', colour: 'kit.good' },
  waits: { sign: '…', said: 'taken once the clip has ended', colour: 'kit.note' },
  later: { sign: '·', said: 'an earlier one is taken', colour: 'text.secondary' },
  not: { sign: '', said: 'not taken', colour: 'text.secondary' },
};

/** All passages, layer by layer, in the order in which they are looked at; beside them what is passed in, and what comes of it. */
export function BehaviourStrip({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const own = useUi((state) => state.behaviour);
  const { parameters } = rulebook.behaviours!;
  const values: Values = { ...valuesAtStart(parameters), ...own.values };
  const layers = kit.behaviour?.layers ?? [];
  const mix = useMix();
  const set = useSetSlice('behaviour');
  return (
    <Box component="section" aria-label="Behaviour" sx={{ height: '100%', display: 'flex', bgcolor: 'kit.sheet', minWidth: 0 }}>
      {own.playing && <BenchBody rules={rulebook.behaviours!} />}
      <Box sx={{ flex: '1 1 66%', minWidth: 0, overflow: 'auto', px: 2.5, py: 1.5 }}>
        {mix && (
          <ToggleButtonGroup
            exclusive
            size="small"
            value={own.view}
            onChange={(_, view: 'passages' | 'mixes' | null) => view && set({ view })}
            aria-label="What stands here"
            sx={{ mb: 1 }}
          >
            <ToggleButton value="passages" sx={{ py: 0.25, px: 1.5, fontSize: 12 }}>
              Passages
            </ToggleButton>
            <ToggleButton value="mixes" sx={{ py: 0.25, px: 1.5, fontSize: 12 }}>
              {mix.name}
            </ToggleButton>
          </ToggleButtonGroup>
        )}
        {mix && own.view === 'mixes' && <MixPicture mix={mix} parameters={parameters} values={values} />}
        {!(mix && own.view === 'mixes') &&
          layers.map((layer) => <LayerTable key={layer.id} layer={layer} parameters={parameters} values={values} />)}
        {layers.length === 0 && own.view === 'passages' && (
          <Empty>Nothing says what plays when. Begin with a layer, on the right; its passages stand here.</Empty>
        )}
      </Box>
      <Box
        role="group"
        aria-label="What if"
        sx={{
          flex: '0 0 230px',
          overflowY: 'auto',
          borderLeft: 1,
          borderColor: 'divider',
          px: 2,
          py: 1.5,
          display: 'grid',
          gap: 2.25,
          alignContent: 'start',
        }}
      >
        <Box sx={{ fontWeight: 600, fontSize: 13 }}>What if the game passes in</Box>
        {layers.length > 0 && (
          <Button
            size="small"
            variant={own.playing ? 'contained' : 'outlined'}
            aria-pressed={own.playing}
            onClick={() => set({ playing: !own.playing })}
          >
            {own.playing ? 'Play it no more' : 'Play it on the bench'}
          </Button>
        )}
        {parameters.map((rule) => (
          <ValueField key={rule.name} rule={rule} value={values[rule.name]} />
        ))}
      </Box>
    </Box>
  );
}

function ValueField({ rule, value }: { rule: ParameterRule; value: number | string | boolean }) {
  const set = useSetSlice('behaviour');
  const values = useUi((state) => state.behaviour.values);
  const say = (next: number | string | boolean) => set({ values: { ...values, [rule.name]: next } });
  if (rule.kind === 'signal')
    return (
      <FormControlLabel
        control={<Checkbox size="small" checked={value === true} onChange={(_, on) => say(on)} />}
        label={`${rule.title} is sent`}
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
      />
    );
  if (rule.always !== undefined)
    return (
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        {rule.title} is always {String(rule.always)} here
      </Box>
    );
  if (rule.kind === 'number')
    return (
      <NumberField
        label={rule.title}
        unit={rule.unit}
        min={rule.min}
        max={rule.max}
        step={rule.whole ? 1 : 0.5}
        digits={3}
        value={Number(value)}
        onCommit={say}
      />
    );
  const options = rule.kind === 'names' ? rule.values : ['no', 'yes'];
  return <Choice label={rule.title} value={String(value)} options={options.map((one) => [one, one] as const)} onChange={say} />;
}

function LayerTable({ layer, parameters, values }: { layer: Layer; parameters: readonly ParameterRule[]; values: Values }) {
  const set = useSetSlice('behaviour');
  const own = useUi((state) => state.behaviour);
  const chosen = own.in[layer.id];
  const state = layer.states.some(({ id }) => id === chosen) ? chosen : layer.first;
  const rows = considered(layer, state, values);
  const titles = new Map(parameters.map((rule) => [rule.name, rule]));
  const name = (id: Id | null) => (id === null ? 'anywhere' : layer.states.find((one) => one.id === id)!.name);
  return (
    <Box sx={{ mb: 2.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 0.75, mb: 0.75 }}>
        <Box sx={{ fontWeight: 600, fontSize: 13, flex: 1 }}>{layer.name}</Box>
        <Box sx={{ width: 190 }}>
          <Choice
            label={`${layer.name} is in`}
            value={state}
            options={layer.states.map((one) => [one.id, one.name] as const)}
            onChange={(id) => set({ in: { ...own.in, [layer.id]: id } })}
          />
        </Box>
      </Box>
      {rows.length === 0 ? (
        <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>No passage leads on: it stays in “{name(layer.first)}”.</Box>
      ) : (
        <Box
          component="table"
          aria-label={`Passages of ${layer.name}`}
          sx={{
            width: '100%',
            borderCollapse: 'collapse',
            fontSize: 12.5,
            '& td, & th': { textAlign: 'left', verticalAlign: 'top', py: 0.5, pr: 1.5 },
          }}
        >
          <Box component="thead" sx={{ color: 'text.secondary' }}>
            <tr>
              <th scope="col">from</th>
              <th scope="col">to</th>
              <th scope="col">when</th>
              <th scope="col">over</th>
              <th scope="col">now</th>
            </tr>
          </Box>
          <tbody>
            {rows.map(({ passage, leads, conditions, verdict }) => (
              <Box
                key={passage.id}
                component="tr"
                data-verdict={leads ? verdict : 'elsewhere'}
                sx={{
                  borderTop: 1,
                  borderColor: 'divider',
                  color: leads ? undefined : 'text.secondary',
                  bgcolor: own.passage === passage.id ? 'action.selected' : undefined,
                }}
              >
                <td>
                  <Box
                    component="button"
                    type="button"
                    aria-pressed={own.passage === passage.id}
                    aria-label={`Passage from ${name(passage.from)} to ${name(passage.to)}`}
                    onClick={() => set({ layer: layer.id, passage: own.passage === passage.id ? null : passage.id })}
                    sx={{
                      all: 'unset',
                      cursor: 'pointer',
                      textDecoration: 'underline',
                      '&:focus-visible': { outline: '2px solid', outlineColor: 'kit.signal' },
                    }}
                  >
                    {name(passage.from)}
                  </Box>
                </td>
                <td>{name(passage.to)}</td>
                <td>
                  {conditions.map(({ condition, holds }, i) => (
                    <Box key={i} sx={{ color: leads && !holds ? 'kit.stop' : undefined }}>
                      {leads && <span aria-label={holds ? 'holds' : 'does not hold'}>{holds ? '✓ ' : '✗ '}</span>}
                      {conditionSaid(condition, titles.get(condition.parameter))}
                    </Box>
                  ))}
                  {conditions.length === 0 && passage.after === 'any' && 'always'}
                  {passage.after === 'end' && <Box>once its clip has ended</Box>}
                </td>
                <td className="figures">{figure(passage.over, 2)} s</td>
                <Box component="td" sx={{ color: leads ? SIGNS[verdict].colour : 'text.secondary', whiteSpace: 'nowrap' }}>
                  {leads ? `${SIGNS[verdict].sign} ${SIGNS[verdict].said}` : 'leads from elsewhere'}
                </Box>
              </Box>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
