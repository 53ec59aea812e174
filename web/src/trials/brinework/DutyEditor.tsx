'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { callOf, figure, type OwnDuty } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { removeDuties } from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { leverStep } from '../../card/Lever';
import { NumberField } from '../../card/NumberField';
import { useDraft } from '../../card/use-draft';
import { useRun } from '../../session/context';
import type { Worked } from './duty-record';
import { dropLine, dropPoint, movePoint, setLength } from './duty-edits';

/** A point of a duty that is worked on. */
export interface ChosenPoint {
  line: number;
  point: number;
}

interface EditorProps {
  duty: OwnDuty;
  chosen: ChosenPoint | null;
  /** What could be worked besides. */
  worked: readonly Worked[];
  variables: readonly Variable[];
  /** Takes the changed duty; null takes it away. */
  onChange(duty: OwnDuty | null): void;
}

/** A duty of one's own in numbers: its name and length, the chosen point, another line. */
export function DutyEditor({ duty, chosen, worked, variables, onChange }: EditorProps) {
  const run = useRun();
  const { field, taken } = useDraft(duty.name, { take: (name) => name.trim() !== '' && onChange({ ...duty, name: name.trim() }) });
  const line = chosen === null ? undefined : duty.lines[chosen.line];
  const point = line?.points[chosen?.point ?? 0];
  const variable = line && variables.find(({ name }) => name === line.variable);
  const free = worked.filter(({ variable: { name }, index }) => !duty.lines.some((one) => one.variable === name && one.index === index));
  return (
    <Box
      role="group"
      aria-label="Change the duty"
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center', mt: 1.75, mb: 1.5 }}
    >
      <Box sx={{ width: 170 }}>
        <TextField size="small" label="Name" slotProps={{ htmlInput: { 'aria-label': 'Name of the duty', ...taken } }} {...field} />
      </Box>
      <Box sx={{ width: 110 }}>
        <NumberField
          label="Length of the duty"
          caption="length"
          unit="s"
          step={1}
          min={0.5}
          max={3600}
          value={duty.seconds}
          onCommit={(seconds) => onChange(setLength(duty, seconds))}
        />
      </Box>
      {point && chosen && (
        <>
          <Box sx={{ width: 110 }}>
            <NumberField
              label="Time of the point"
              caption="time"
              unit="s"
              step={0.05}
              value={point.time}
              onCommit={(time) => onChange(movePoint(duty, chosen.line, chosen.point, time, point.value, variable))}
            />
          </Box>
          <Box sx={{ width: 120 }}>
            <NumberField
              label="Value of the point"
              caption="value"
              unit={variable?.unit}
              step={variable ? leverStep(variable) : 1}
              value={point.value}
              hint={variable ? `${figure(variable.min)} to ${figure(variable.max)}` : undefined}
              onCommit={(value) => onChange(movePoint(duty, chosen.line, chosen.point, point.time, value, variable))}
            />
          </Box>
          <Button color="inherit" onClick={() => onChange(dropPoint(duty, chosen.line, chosen.point))}>
            Take the point away
          </Button>
          <Button color="inherit" onClick={() => onChange(dropLine(duty, chosen.line))}>
            Take the line away
          </Button>
        </>
      )}
      {free.length > 0 && (
        <Box sx={{ width: 170 }}>
          <Choice
            label="Another line"
            value=""
            options={[['', 'choose …'] as const, ...free.map(({ key }) => [key, key] as const)]}
            onChange={(key) => {
              const one = free.find((other) => other.key === key);
              const neutral = variables.find(({ name }) => name === one?.variable.name)?.neutral ?? 0;
              if (one)
                onChange({
                  ...duty,
                  lines: [...duty.lines, { variable: one.variable.name, index: one.index, points: [{ time: 0, value: neutral }] }],
                });
            }}
          />
        </Box>
      )}
      <Button color="inherit" onClick={() => run(callOf(removeDuties, { duties: [duty.id] }))}>
        Take the duty away
      </Button>
    </Box>
  );
}
