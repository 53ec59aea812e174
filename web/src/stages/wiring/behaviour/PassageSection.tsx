'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import { addPassage, firstQuestion, movePassage, removePassages, setPassage, type ParameterRule } from '@itchkit/core/behaviour';
import { callOf, newId, type Condition, type Id, type Layer, type Passage } from '@itchkit/core/document';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { Buttons, Fold } from '../../../panels/Fold';
import { useRun, useSetSlice, useUi } from '../../../session/context';
import { NEW_PASSAGE } from './beginnings';
import { ConditionFields } from './ConditionFields';
import { AFTER, ANYWHERE, PassageEnds } from './PassageEnds';

/** Where a passage may begin in what it leads to, and what is said of it at first. */
const BEGINS: Readonly<Record<'beginning' | 'along' | 'within', number | 'along'>> = { beginning: 0, along: 'along', within: 0.5 };
const BEGINNINGS = [
  ['beginning', 'at its beginning'],
  ['along', 'as far along as what is left'],
  ['within', 'on the way'],
] as const;
const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** A passage is added, or the one that is chosen in the table is worked on. */
export function PassageSection({ layer, parameters }: { layer: Layer; parameters: readonly ParameterRule[] }) {
  const chosen = useUi((state) => state.behaviour.passage);
  const passage = layer.passages.find(({ id }) => id === chosen);
  return (
    <Fold title="Passages" aside={layer.passages.length}>
      {passage ? (
        <PassageFields key={passage.id} layer={layer} passage={passage} parameters={parameters} />
      ) : (
        <Box sx={small}>
          {layer.passages.length > 0 && 'Choose one in the table below to change it. '}A new one is looked at after all others.
        </Box>
      )}
      <NewPassage layer={layer} />
    </Fold>
  );
}

function NewPassage({ layer }: { layer: Layer }) {
  const run = useRun();
  const set = useSetSlice('behaviour');
  const [ends, setEnds] = useState<{ from: Id; to: Id } | null>(null);
  const states = layer.states.map(({ id, name }) => [id, name] as const);
  const known = (id: Id | undefined) => states.some(([one]) => one === id);
  const from = ends && (ends.from === ANYWHERE || known(ends.from)) ? ends.from : layer.first;
  const others = states.filter(([id]) => id !== from);
  const to = ends && others.some(([id]) => id === ends.to) ? ends.to : others[0]?.[0];
  if (to === undefined) return <Box sx={small}>A passage needs two states: add one.</Box>;
  return (
    <Box sx={{ display: 'grid', gap: 1.5, borderTop: 1, borderColor: 'divider', pt: 1.5, gridTemplateColumns: '1fr 1fr' }}>
      <Choice
        label="New passage from"
        value={from}
        options={[[ANYWHERE, 'anywhere'], ...states]}
        onChange={(id) => setEnds({ from: id, to })}
      />
      <Choice label="New passage to" value={to} options={others} onChange={(id) => setEnds({ from, to: id })} />
      <Box sx={{ gridColumn: '1 / -1' }}>
        <Button
          size="small"
          variant="outlined"
          onClick={() => {
            const id = newId();
            const call = callOf(addPassage, {
              id,
              layer: layer.id,
              from: from === ANYWHERE ? null : from,
              to,
              ...NEW_PASSAGE,
            });
            if (run(call)) set({ layer: layer.id, passage: id });
          }}
        >
          Add the passage
        </Button>
      </Box>
    </Box>
  );
}

function PassageFields({ layer, passage, parameters }: { layer: Layer; passage: Passage; parameters: readonly ParameterRule[] }) {
  const run = useRun();
  const name = (id: Id | null) => (id === null ? 'anywhere' : layer.states.find((one) => one.id === id)!.name);
  const say = (change: Partial<Omit<Passage, 'id' | 'firm'>> & { firm?: boolean }) =>
    void run(callOf(setPassage, { layer: layer.id, passage: passage.id, ...change }));
  const put = (at: number, condition: Condition | null) =>
    say({ when: passage.when.map((one, i) => (i === at ? condition : one)).filter((one) => one !== null) });
  const at = layer.passages.indexOf(passage);
  const free = parameters.filter((rule) => !passage.when.some(({ parameter }) => parameter === rule.name));
  return (
    <Box role="group" aria-label="The chosen passage" sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ fontSize: 13, fontWeight: 600 }}>
        {name(passage.from)} → {name(passage.to)}
      </Box>
      <PassageEnds layer={layer} passage={passage} say={say} />
      {passage.when.map((condition, i) => (
        <ConditionFields
          key={`${condition.parameter} ${i}`}
          condition={condition}
          rule={parameters.find((rule) => rule.name === condition.parameter)}
          onChange={(next) => put(i, next)}
        />
      ))}
      {free.length > 0 && (
        <Choice
          label="Also ask about"
          value=""
          options={[
            ['', passage.when.length === 0 ? 'nothing: it is always taken' : 'nothing else'],
            ...free.map((rule) => [rule.name, rule.title] as const),
          ]}
          onChange={(parameter) => {
            const rule = free.find((one) => one.name === parameter);
            if (rule) say({ when: [...passage.when, firstQuestion(layer, passage, rule)] });
          }}
        />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1.3fr 1fr', gap: 1 }}>
        <Choice
          label="It may be taken"
          value={passage.after}
          options={AFTER}
          onChange={(after) => say({ after: after as Passage['after'] })}
        />
        <NumberField
          label="Goes over in"
          unit="s"
          digits={2}
          min={0}
          max={60}
          step={0.05}
          value={passage.over}
          onCommit={(over) => say({ over })}
        />
        <Choice
          label="What it leads to begins"
          value={typeof passage.begins === 'number' ? 'within' : (passage.begins ?? 'beginning')}
          options={BEGINNINGS}
          onChange={(where) => say({ begins: BEGINS[where] })}
        />
        {typeof passage.begins === 'number' && (
          <NumberField
            label="How far along it begins"
            caption="of a round"
            unit="%"
            digits={1}
            min={0.1}
            max={99.9}
            step={5}
            value={100 * passage.begins}
            onCommit={(percent) => say({ begins: percent / 100 })}
          />
        )}
        {passage.over > 0 && (
          <FormControlLabel
            control={<Checkbox size="small" checked={passage.firm === true} onChange={(_, firm) => say({ firm })} />}
            label="not to be broken off"
            sx={{ gridColumn: '1 / -1', '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
          />
        )}
      </Box>
      <Buttons>
        {at > 0 && (
          <TryButton calls={() => callOf(movePassage, { layer: layer.id, passage: passage.id, before: layer.passages[at - 1].id })}>
            Look at it earlier
          </TryButton>
        )}
        {at < layer.passages.length - 1 && (
          <TryButton calls={() => callOf(movePassage, { layer: layer.id, passage: layer.passages[at + 1].id, before: passage.id })}>
            Look at it later
          </TryButton>
        )}
        <TryButton calls={() => callOf(removePassages, { layer: layer.id, passages: [passage.id] })}>Take it away</TryButton>
      </Buttons>
    </Box>
  );
}
