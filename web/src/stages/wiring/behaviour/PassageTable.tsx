'use client';
import Box from '@mui/material/Box';
import type { KeyboardEvent } from 'react';
import { setPassage, type ParameterRule, type Values } from '@itchkit/core/behaviour';
import { callOf, type Id, type Layer, type Passage } from '@itchkit/core/document';
import { Choice } from '../../../card/Choice';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { CellChoice } from '../CellChoice';
import { CellField } from '../CellField';
import { ConditionCell } from './ConditionCell';
import { AFTER, ANYWHERE } from './PassageEnds';
import { considered, found, stateIn, type Considered } from './what-if';

const SIGNS: Record<Considered['verdict'], { sign: string; said: string; colour: string }> = {
  taken: { sign: '→', said: 'taken now', colour: 'kit.good' },
  waits: { sign: '…', said: 'taken once the clip has ended', colour: 'kit.note' },
  later: { sign: '·', said: 'an earlier one is taken', colour: 'text.secondary' },
  not: { sign: '', said: 'not taken', colour: 'text.secondary' },
};

/** A passage that was chosen elsewhere is scrolled to. */
const intoView = (row: HTMLElement | null) => row?.scrollIntoView({ block: 'nearest' });

/** Up and down go to the field above or below, as in a sheet of figures. */
function alongColumn(event: KeyboardEvent<HTMLElement>) {
  const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
  const cell = (event.target as Element).closest('td');
  if (by === undefined || !cell || !(event.target instanceof HTMLInputElement)) return;
  const column = [...event.currentTarget.querySelectorAll<HTMLElement>(`td:nth-child(${cell.cellIndex + 1}) input`)];
  const field = column[column.indexOf(event.target) + by];
  if (!field) return;
  event.preventDefault();
  event.stopPropagation();
  field.focus();
}

/** Passages of a layer in the order in which they are looked at, and what becomes of each. */
export function PassageTable({ layer, parameters, values }: { layer: Layer; parameters: readonly ParameterRule[]; values: Values }) {
  const set = useSetSlice('behaviour');
  const own = useUi((state) => state.behaviour);
  const state = stateIn(layer, own.in);
  const kit = useKit();
  const shown = found(kit, layer, parameters, own.search);
  const rows = considered(layer, state, values).filter(({ passage }) => shown.has(passage.id));
  const titles = new Map(parameters.map((rule) => [rule.name, rule]));
  const run = useRun();
  const say = (passage: Passage, change: Partial<Pick<Passage, 'from' | 'to' | 'when' | 'after' | 'over'>>) =>
    void run(callOf(setPassage, { layer: layer.id, passage: passage.id, ...change }));
  const name = (id: Id | null) => (id === null ? 'anywhere' : layer.states.find((one) => one.id === id)!.name);
  const others = (id: Id | null) => layer.states.filter((one) => one.id !== id).map((one) => [one.id, one.name] as const);
  const wayOf = ({ from, to }: Passage) => `from ${name(from)} to ${name(to)}`;
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
        <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          {layer.passages.length > 0 ? 'Nothing of it has these words.' : `No passage leads on: it stays in “${name(layer.first)}”.`}
        </Box>
      ) : (
        <Box
          component="table"
          aria-label={`Passages of ${layer.name}`}
          onKeyDown={alongColumn}
          sx={{
            width: '100%',
            borderCollapse: 'collapse',
            fontSize: 12.5,
            '& td, & th': { textAlign: 'left', verticalAlign: 'top', py: 0.5, pr: 1.25 },
            '& select': { maxWidth: 82, textOverflow: 'ellipsis' },
          }}
        >
          <Box component="thead" sx={{ color: 'text.secondary' }}>
            <tr>
              <th scope="col" aria-label="which" />
              <th scope="col">from</th>
              <th scope="col">to</th>
              <Box component="th" scope="col" sx={{ width: '45%' }}>
                when
              </Box>
              <th scope="col">how</th>
              <th scope="col">now</th>
            </tr>
          </Box>
          <tbody>
            {rows.map(({ passage, leads, conditions, verdict }) => (
              <Box
                key={passage.id}
                component="tr"
                ref={own.passage === passage.id ? intoView : undefined}
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
                    {1 + layer.passages.indexOf(passage)}
                  </Box>
                </td>
                <td>
                  <CellChoice
                    label={`From, ${wayOf(passage)}`}
                    value={passage.from ?? ANYWHERE}
                    options={[[ANYWHERE, 'anywhere'], ...others(passage.to)]}
                    onChange={(from) => say(passage, { from: from === ANYWHERE ? null : from })}
                  />
                  {passage.except.length > 0 && <Box>but {passage.except.map(name).join(', ')}</Box>}
                </td>
                <td>
                  <CellChoice
                    label={`To, ${wayOf(passage)}`}
                    value={passage.to}
                    options={others(passage.from)}
                    onChange={(to) => say(passage, { to })}
                  />
                </td>
                <td>
                  {conditions.map(({ condition, holds }, i) => (
                    <Box key={i} sx={{ color: leads && !holds ? 'kit.stop' : undefined }}>
                      {leads && <span aria-label={holds ? 'holds' : 'does not hold'}>{holds ? '✓ ' : '✗ '}</span>}
                      <ConditionCell
                        condition={condition}
                        rule={titles.get(condition.parameter)}
                        passage={wayOf(passage)}
                        onChange={(next) => say(passage, { when: passage.when.map((one) => (one === condition ? next : one)) })}
                      />
                    </Box>
                  ))}
                  {conditions.length === 0 && 'always'}
                </td>
                <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                  <div>
                    over{' '}
                    <Box component="span" sx={{ width: 40, display: 'inline-block' }}>
                      <CellField
                        label={`Seconds ${wayOf(passage)}`}
                        value={passage.over}
                        digits={3}
                        unit="s"
                        onCommit={(over) => say(passage, { over })}
                      />
                    </Box>{' '}
                    s
                  </div>
                  <CellChoice
                    label={`Taken ${wayOf(passage)}`}
                    value={passage.after}
                    options={AFTER}
                    onChange={(after) => say(passage, { after: after as Passage['after'] })}
                  />
                </Box>
                <Box component="td" sx={{ color: leads ? SIGNS[verdict].colour : 'text.secondary', minWidth: 74 }}>
                  {leads ? `${SIGNS[verdict].sign} ${SIGNS[verdict].said}` : 'elsewhere'}
                </Box>
              </Box>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
