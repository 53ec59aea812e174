'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Close from '@mui/icons-material/Close';
import { useMemo, useState } from 'react';
import { callOf, count, type Id, type Span, type Switch } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/formula';
import type { Rulebook, Variable } from '@itchkit/core/rulebook';
import { closeCover, coverFaults, removeSwitches, setSpans } from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { leverStep } from '../../card/Lever';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useRun } from '../../session/context';
import { BlurSection } from './BlurSection';
import { proposedSwitches } from './switch-proposal';
import { SwitchLanes } from './SwitchLanes';
import { useValue } from './use-value';

/** Where the chosen parts are shown and hidden over a variable; several chosen ones stand for one another. */
export function SwitchSection({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const own = (kit.switches ?? []).filter(({ part }) => parts.includes(part));
  const without = parts.filter((id) => own.every(({ part }) => part !== id));
  return (
    <Fold title="Shown and hidden" aside={own.length || undefined}>
      {own.length > 0 && <Shown own={own} rulebook={rulebook} />}
      {without.length > 0 && <NewSwitch key={without.join()} parts={without} rulebook={rulebook} />}
      {without.length === 1 && parts.length === 1 && <BlurSection key={`blur ${parts[0]}`} part={parts[0]} rulebook={rulebook} />}
    </Fold>
  );
}

/** The switch of the first chosen part, with all that stand for it. */
function Shown({ own, rulebook }: { own: Switch[]; rulebook: Rulebook }) {
  const kit = useKit();
  const [first] = own;
  const group = (kit.switches ?? []).filter(
    (one) =>
      one === first || (first.among !== '' && one.among === first.among && one.variable === first.variable && one.index === first.index),
  );
  const key = leverKey(first.variable, first.index);
  const variable = rulebook.variables.find(({ name }) => name === first.variable);
  const value = useValue(useMemo(() => ({ key, name: first.variable, variable }), [key, first.variable, variable]));
  const owed = variable && first.among !== '' ? coverFaults(group, variable.min, variable.max).length > 0 : false;
  const close = () => {
    const spans = closeCover(group, variable!.min, variable!.max);
    return callOf(setSpans, { switches: Object.fromEntries(group.map(({ id }, i) => [id, spans[i]])) });
  };
  return (
    <>
      <Box className="figures" sx={{ color: 'text.secondary' }}>
        {key}
      </Box>
      {variable ? (
        <SwitchLanes switches={group} variable={variable} value={value} />
      ) : (
        <Box sx={{ fontSize: 12.5, color: 'kit.stop' }}>The target has no variable of this name.</Box>
      )}
      <Spans one={first} variable={variable} />
      <Buttons>
        {owed && (
          <TryButton variant="contained" calls={close}>
            Close the gaps
          </TryButton>
        )}
        <TryButton variant="outlined" calls={() => callOf(removeSwitches, { switches: own.map(({ id }) => id) })}>
          Show {own.length === 1 ? 'it' : 'them'} always
        </TryButton>
      </Buttons>
    </>
  );
}

/** The spans of one switch as numbers: from a value on, up to below another; an empty field is no end. */
function Spans({ one, variable }: { one: Switch; variable: Variable | undefined }) {
  const kit = useKit();
  const run = useRun();
  const { name } = kit.parts[one.part];
  const set = (spans: Span[]) => run(callOf(setSpans, { switches: { [one.id]: spans } }));
  const at = (i: number, change: Partial<Span>) => set(one.spans.map((span, k) => (k === i ? { ...span, ...change } : span)));
  const step = variable ? leverStep(variable) : 1;
  const last = one.spans.at(-1);
  const next = last === undefined ? (variable?.min ?? 0) : last.to;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ fontSize: 12.5 }}>
        “{name}” is shown {one.spans.length === 0 && 'never'}
      </Box>
      {one.spans.map((span, i) => (
        <Box key={`${span.from} ${span.to}`} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 1, alignItems: 'center' }}>
          {(['from', 'to'] as const).map((end) =>
            span[end] === null ? (
              <Button
                key={end}
                color="inherit"
                onClick={() => at(i, { [end]: endFor(span, end, variable, step) })}
                sx={{ py: 0.25, fontSize: 12, fontWeight: 400 }}
              >
                {end === 'from' ? 'from the start' : 'to the end'}
              </Button>
            ) : (
              <NumberField
                key={end}
                label={end === 'from' ? `From, span ${i + 1}` : `Below, span ${i + 1}`}
                caption={end === 'from' ? 'from' : 'below'}
                unit={variable?.unit}
                step={step}
                value={span[end]}
                onCommit={(value) => at(i, { [end]: value })}
              />
            ),
          )}
          <IconButton
            size="small"
            aria-label={`Take span ${i + 1} away`}
            onClick={() => set(one.spans.filter((_, k) => k !== i))}
            sx={{ p: 0.25 }}
          >
            <Close sx={{ fontSize: 15 }} />
          </IconButton>
        </Box>
      ))}
      {next !== null && (
        <Box>
          <Button
            onClick={() => set([...one.spans, { from: Number((next + (last ? 10 * step : 0)).toPrecision(12)), to: null }])}
            sx={{ py: 0.25 }}
          >
            Add a span
          </Button>
        </Box>
      )}
    </Box>
  );
}

/** A number where a span had no end: a step inside of its other end, or of the range. */
function endFor({ from, to }: Span, end: 'from' | 'to', variable: Variable | undefined, step: number): number {
  const [min, max] = [variable?.min ?? 0, variable?.max ?? 100];
  const wanted =
    end === 'from' ? Math.min(min + 10 * step, (to ?? Infinity) - step) : Math.max(max - 10 * step, (from ?? -Infinity) + step);
  return Number(wanted.toPrecision(12));
}

function NewSwitch({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const [name, setName] = useState(rulebook.variables[0].name);
  const [index, setIndex] = useState(0);
  const variable = rulebook.variables.find((one) => one.name === name)!;
  const calls = () => proposedSwitches(kit, parts, variable, variable.indices > 0 ? Math.min(index, variable.indices - 1) : null);
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 }}>
        {parts.length === 1
          ? `“${kit.parts[parts[0]].name}” is shown always. Choose several to have one of them shown at a time.`
          : `Of ${count(parts.length, 'part')} one is shown at a time, by where a variable stands.`}
      </Box>
      <Choice label="By" value={name} options={rulebook.variables.map((one) => [one.name, one.name] as const)} onChange={setName} />
      {variable.indices > 0 && (
        <Choice
          label="Index"
          value={Math.min(index, variable.indices - 1)}
          options={Array.from({ length: variable.indices }, (_, i) => [i, String(i)] as const)}
          onChange={setIndex}
        />
      )}
      <Buttons>
        <TryButton variant="outlined" calls={calls}>
          {parts.length === 1 ? 'Show and hide it' : 'Show one at a time'}
        </TryButton>
      </Buttons>
    </Box>
  );
}
