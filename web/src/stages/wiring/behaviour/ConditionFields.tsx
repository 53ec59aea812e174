import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { ParameterRule } from '@itchkit/core/behaviour';
import type { Condition } from '@itchkit/core/document';
import { conditionSaid } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { Buttons } from '../../../panels/Fold';

interface ConditionProps {
  condition: Condition;
  rule: ParameterRule | undefined;
  /** Null where it is asked no longer. */
  onChange: (next: Condition | null) => void;
}

/** What is asked of one value that the game passes in. */
export function ConditionFields({ condition, rule, onChange }: ConditionProps) {
  const title = rule?.title ?? condition.parameter;
  return (
    <Box role="group" aria-label={`Asks about ${title}`} sx={{ display: 'grid', gap: 1, pl: 1, borderLeft: 2, borderColor: 'kit.sea' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', fontSize: 12.5 }}>
        <Box sx={{ flex: 1 }}>{conditionSaid(condition, rule)}</Box>
        <Button size="small" color="inherit" onClick={() => onChange(null)} aria-label={`Ask no longer about ${title}`}>
          Let go
        </Button>
      </Box>
      {condition.kind === 'range' && rule?.kind === 'number' && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <NumberField
            label={`${title} at least`}
            caption="at least"
            unit={rule.unit}
            digits={3}
            step={0.1}
            value={condition.atLeast}
            onCommit={(atLeast) => onChange({ ...condition, atLeast })}
            onClear={condition.below === null ? undefined : () => onChange({ ...condition, atLeast: null })}
          />
          <NumberField
            label={`${title} below`}
            caption="below"
            unit={rule.unit}
            digits={3}
            step={0.1}
            value={condition.below}
            onCommit={(below) => onChange({ ...condition, below })}
            onClear={condition.atLeast === null ? undefined : () => onChange({ ...condition, below: null })}
          />
          {condition.atLeast !== null && condition.below !== null && (
            <Buttons>
              <Button size="small" color="inherit" onClick={() => onChange({ ...condition, below: null })}>
                No upper end
              </Button>
              <Button size="small" color="inherit" onClick={() => onChange({ ...condition, atLeast: null })}>
                No lower end
              </Button>
            </Buttons>
          )}
        </Box>
      )}
      {condition.kind === 'among' && rule?.kind === 'names' && (
        <Box>
          {rule.values.map((value) => {
            const on = condition.values.includes(value);
            const next = on ? condition.values.filter((one) => one !== value) : [...condition.values, value];
            return (
              <FormControlLabel
                key={value}
                control={
                  <Checkbox
                    size="small"
                    checked={on}
                    disabled={next.length === 0}
                    onChange={() => onChange({ ...condition, values: next })}
                  />
                }
                label={value}
                sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
              />
            );
          })}
        </Box>
      )}
      {condition.kind === 'among' && rule?.kind === 'yes-no' && (
        <Choice
          label={title}
          value={condition.values[0]}
          options={[
            ['yes', 'yes'],
            ['no', 'no'],
          ]}
          onChange={(value) => onChange({ ...condition, values: [value] })}
        />
      )}
    </Box>
  );
}
