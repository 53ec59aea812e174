'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Close from '@mui/icons-material/Close';
import { line } from 'd3-shape';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { callOf, figure, newId, VARIABLE_NAME, type DerivedVariable } from '@itchkit/core/document';
import { type DerivedReader, derivedReaders, FormulaError, readDerived } from '@itchkit/core/formula';
import { inputVariables, neutralsOf, type InputVariable, type Rulebook } from '@itchkit/core/rulebook';
import { removeDerived, setDerived } from '@itchkit/core/wiring';
import { NumberField } from '../../card/NumberField';
import { Buttons, Fold } from '../../panels/Fold';
import { TextEditor } from '../../panels/TextEditor';
import { useKit, useRun } from '../../session/context';

const LOOKS = 160;

/** Variables of the kit's own, worked out of those that the platform passes in. */
export function OwnVariables({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const run = useRun();
  const [open, setOpen] = useState<string | null>(null);
  const list = kit.derived ?? [];
  const edited = list.find(({ id }) => id === open);
  return (
    <Fold title="Variables of the kit" aside={list.length || undefined}>
      {list.length > 0 && (
        <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {list.map((one) => (
            <Box component="li" key={one.id} sx={{ display: 'flex', alignItems: 'baseline', gap: 1, fontSize: 12.5 }}>
              <Box className="figures" sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
                <Link
                  component="button"
                  aria-expanded={open === one.id}
                  onClick={() => setOpen(open === one.id ? null : one.id)}
                  sx={{ font: 'inherit', fontWeight: 600, verticalAlign: 'baseline' }}
                >
                  {one.name}
                </Link>{' '}
                = {one.expression}
              </Box>
              <IconButton
                size="small"
                aria-label={`Take ${one.name} away`}
                onClick={() => run(callOf(removeDerived, { derived: [one.id] }))}
                sx={{ p: 0.25 }}
              >
                <Close sx={{ fontSize: 15 }} />
              </IconButton>
            </Box>
          ))}
        </Box>
      )}
      <Form key={edited?.id ?? 'new'} before={edited} rulebook={rulebook} onDone={() => setOpen(null)} />
    </Fold>
  );
}

const EMPTY = { name: '', expression: '', unit: 'deg', min: 0, max: 360, neutral: 0 };
const EMPTY_NUMBER = { ...EMPTY, unit: 'm/s', max: 10 };

function Form({ before, rulebook, onDone }: { before: DerivedVariable | undefined; rulebook: Rulebook; onDone: () => void }) {
  const kit = useKit();
  const run = useRun();
  const empty = rulebook.variables.length > 0 ? EMPTY : EMPTY_NUMBER;
  const [draft, setDraft] = useState<Omit<DerivedVariable, 'id'>>(before ?? empty);
  const change = (fields: Partial<typeof draft>) => setDraft((now) => ({ ...now, ...fields }));
  const platform = inputVariables(rulebook);
  const others = (kit.derived ?? []).filter(({ id }) => id !== before?.id);
  const place = before ? kit.derived!.findIndex(({ id }) => id === before.id) : others.length;
  const { reader, error } = read(draft, platform, others.slice(0, place));
  const taken = [...platform, ...others].some(({ name }) => name === draft.name);
  const named = VARIABLE_NAME.test(draft.name) && !taken;
  const inRange = draft.min < draft.max && draft.neutral >= draft.min && draft.neutral <= draft.max;
  const done = () => {
    if (!run(callOf(setDerived, { ...draft, id: before?.id ?? newId() }))) return;
    setDraft(empty);
    onDone();
  };
  const nameError = taken ? 'There is one of that name' : 'Letters, digits and _; a letter first';
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <TextField
        label="Name of the variable"
        value={draft.name}
        onChange={(event) => change({ name: event.target.value })}
        error={draft.name !== '' && !named}
        helperText={draft.name !== '' && !named ? nameError : undefined}
        slotProps={{ htmlInput: { maxLength: 120, spellCheck: false } }}
      />
      <TextEditor
        label={rulebook.variables.length > 0 ? 'Worked out of the platform’s variables' : 'Worked out of what the game passes in'}
        language="formula"
        small
        rows={[1, 4]}
        text={draft.expression}
        hint={
          rulebook.variables.length > 0
            ? `wrap(${platform[0]?.name ?? 'x'} / 0.42, 0, 360)`
            : platform.map(({ name }) => `abs(${name})`).join(' + ')
        }
        wrong={error && { from: error.at, to: error.at + 1, message: error.message }}
        onChange={(expression) => change({ expression })}
      />
      {reader && <Sketch reader={reader} platform={platform} draft={draft} />}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          label="Unit"
          value={draft.unit}
          onChange={(event) => change({ unit: event.target.value })}
          slotProps={{ htmlInput: { maxLength: 20 } }}
        />
        <NumberField label="Neutral value" value={draft.neutral} unit={draft.unit} onCommit={(neutral) => change({ neutral })} />
        <NumberField label="Least value" value={draft.min} unit={draft.unit} onCommit={(min) => change({ min })} />
        <NumberField label="Greatest value" value={draft.max} unit={draft.unit} onCommit={(max) => change({ max })} />
      </Box>
      {!inRange && <Box sx={{ fontSize: 12, color: 'kit.stop' }}>The range goes up, and neutral lies within it.</Box>}
      <Buttons>
        <Button variant="outlined" disabled={!reader || !named || !inRange} onClick={done}>
          {before ? `Change ${before.name}` : 'Add the variable'}
        </Button>
      </Buttons>
    </Box>
  );
}

function read(
  draft: Omit<DerivedVariable, 'id'>,
  platform: readonly InputVariable[],
  before: DerivedVariable[],
): { reader: DerivedReader | null; error: FormulaError | null } {
  if (draft.expression.trim() === '') return { reader: null, error: null };
  try {
    const neutrals = neutralsOf(platform);
    return { reader: readDerived(draft, neutrals, derivedReaders(before, neutrals)), error: null };
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
    return { reader: null, error };
  }
}

/** The value over the first variable that it looks at, in the range that it may have. */
function Sketch({
  reader,
  platform,
  draft: { min, max, unit },
}: {
  reader: DerivedReader;
  platform: readonly InputVariable[];
  draft: Omit<DerivedVariable, 'id'>;
}) {
  const [first] = reader.looksAt;
  if (!first) return <Box sx={{ fontSize: 12, color: 'kit.warn' }}>It looks at no variable, and never changes.</Box>;
  const [key, { name }] = first;
  const over = platform.find((one) => one.name === name)!;
  const points = Array.from({ length: LOOKS + 1 }, (_, i): [number, number] => {
    const at = over.min + ((over.max - over.min) * i) / LOOKS;
    return [at, reader.value({ [key]: at })];
  });
  const [low, high] = [Math.min(min, ...points.map(([, y]) => y)), Math.max(max, ...points.map(([, y]) => y))];
  const x = scaleLinear().domain([over.min, over.max]).range([4, 256]);
  const y = scaleLinear().domain([low, high]).range([68, 4]);
  const path = line<[number, number]>(
    ([at]) => x(at),
    ([, value]) => y(value),
  )(points);
  const said = `${figure(low)} to ${figure(high)} ${unit} over ${key}, ${figure(over.min)} to ${figure(over.max)} ${over.unit}`;
  return (
    <Box>
      <svg viewBox="0 0 260 72" width="100%" role="img" aria-label={said}>
        <rect x={4} width={252} y={y(max)} height={Math.max(0, y(min) - y(max))} fill="var(--mui-palette-kit-paper)" />
        <path d={path ?? ''} fill="none" stroke="var(--mui-palette-kit-sea)" strokeWidth={1.5} />
      </svg>
      <Box className="figures" sx={{ fontSize: 11.5, color: 'text.secondary' }}>
        {said}
      </Box>
    </Box>
  );
}
