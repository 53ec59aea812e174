'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { scaleLinear } from 'd3-scale';
import { useMemo } from 'react';
import { callOf, type Fact } from '@itchkit/core/document';
import { factFault, seatGroups, setFacts, sheetOf, type FactRule } from '@itchkit/core/grounds';
import { figure, roleOf, type Rulebook } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { useDraft } from '../../../card/use-draft';
import { Fold } from '../../../panels/Fold';
import { useKit, useOpenKit, useRun } from '../../../session/context';

const small = { fontSize: 12, color: 'text.secondary', lineHeight: 1.4 };

/** The sheet of facts, as the rulebook asks for it: what is typed, and what is measured, each beside comparable things. */
export function FactsSection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const rules = rulebook.grounds!;
  const sheet = useMemo(() => {
    const seats = seatGroups(kit, (part) => roleOf(rulebook, part) === 'seat').flatMap((group) => group.seats);
    return sheetOf(kit, session.blobs, { seats, tile: rulebook.tileMetres, rules });
  }, [kit, session, rulebook, rules]);
  const missing = rules.facts.filter((rule) => factFault(rule, kit.grounds?.facts[rule.name]) !== null).length;
  return (
    <Fold title="Sheet of facts" aside={missing > 0 ? `${missing} to say` : 'filled in'}>
      {rules.facts.map((rule) => (
        <FactField key={rule.name} rule={rule} value={sheet[rule.name]} fault={factFault(rule, kit.grounds?.facts[rule.name])} />
      ))}
    </Fold>
  );
}

function FactField({ rule, value, fault }: { rule: FactRule; value: Fact | null; fault: string | null }) {
  const run = useRun();
  const say = (fact: Fact | null) => void run(callOf(setFacts, { facts: { [rule.name]: fact } }));
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      {rule.kind === 'number' && (
        <NumberField
          label={rule.title}
          unit={rule.unit || undefined}
          digits={rule.whole ? 0 : 2}
          min={rule.min}
          max={rule.max}
          value={typeof value === 'number' ? value : null}
          onCommit={say}
        />
      )}
      {rule.kind === 'choice' && (
        <Choice
          label={rule.title}
          value={String(value ?? '')}
          options={[['', 'not said'], ...rule.choices.map((one) => [one, one] as const)]}
          onChange={(one) => say(one === '' ? null : one)}
        />
      )}
      {rule.kind === 'yes-no' && (
        <FormControlLabel
          control={<Checkbox size="small" checked={value === true} onChange={(_, on) => say(on)} />}
          label={rule.title}
          sx={{ '& .MuiFormControlLabel-label': { fontSize: 13 } }}
        />
      )}
      {rule.kind === 'text' && <TextFact title={rule.title} value={String(value ?? '')} onSay={say} />}
      {rule.kind === 'measured' && (
        <Box sx={{ fontSize: 13 }}>
          {rule.title}:{' '}
          <Box component="span" className="figures">
            {value === null ? 'nothing to measure' : `${figure(Number(value), 1)} ${rule.unit}`}
          </Box>
        </Box>
      )}
      {(rule.kind === 'number' || rule.kind === 'measured') && rule.shipped && (
        <Beside rule={rule} value={typeof value === 'number' ? value : null} />
      )}
      <Box sx={{ ...small, color: fault === null ? 'text.secondary' : 'kit.stop' }}>
        {fault === null ? rule.about : `${rule.title} ${fault}: ${rule.about}`}
      </Box>
    </Box>
  );
}

function TextFact({ title, value, onSay }: { title: string; value: string; onSay: (text: string | null) => void }) {
  const { field, taken } = useDraft(value, { take: (text) => onSay(text === '' ? null : text) });
  return <TextField label={title} size="small" fullWidth {...field} slotProps={{ htmlInput: taken, inputLabel: { shrink: true } }} />;
}

const [WIDTH, HEIGHT] = [260, 22];

/** Where a number lies among comparable things: a stroke for each of them, a mark for this one. */
function Beside({ rule, value }: { rule: Extract<FactRule, { shipped?: number[] }>; value: number | null }) {
  const shipped = rule.shipped!;
  const low = Math.min(...shipped, value ?? Infinity);
  const high = Math.max(...shipped, value ?? -Infinity);
  const x = scaleLinear([low, high === low ? low + 1 : high], [5, WIDTH - 5]);
  const below = value === null ? 0 : shipped.filter((one) => one < value).length;
  const words =
    value === null
      ? `Comparable things: ${figure(low)} to ${figure(high)} ${rule.unit}`
      : `${figure(value)} ${rule.unit}: more than ${below} of ${shipped.length} comparable things`;
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={words}
      sx={{ width: '100%', height: HEIGHT, display: 'block' }}
    >
      <title>{words}</title>
      <Box component="line" x1={5} x2={WIDTH - 5} y1={16} y2={16} sx={{ stroke: 'currentColor', opacity: 0.35 }} />
      {shipped.map((one, i) => (
        <Box
          component="line"
          key={i}
          x1={x(one)}
          x2={x(one)}
          y1={9}
          y2={16}
          sx={{ stroke: 'currentColor', opacity: 0.6, strokeWidth: 1.5 }}
        />
      ))}
      {value !== null && <Box component="path" d={`M${x(value)} 16 l-4 -9 h8 z`} sx={{ fill: 'var(--mui-palette-kit-signal, #C8501F)' }} />}
    </Box>
  );
}
