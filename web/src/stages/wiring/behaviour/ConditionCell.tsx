import Box from '@mui/material/Box';
import type { ParameterRule } from '@itchkit/core/behaviour';
import type { Condition } from '@itchkit/core/document';
import { conditionSaid } from '@itchkit/core/rulebook';
import { CellField } from '../CellField';

const WIDTH = 42;

interface ConditionCellProps {
  condition: Condition;
  rule: ParameterRule | undefined;
  /** Of which passage it is, for names of fields. */
  passage: string;
  onChange: (next: Condition) => void;
}

/** What a passage asks of one value: where its numbers begin and end is typed over, anything else is said. */
export function ConditionCell({ condition, rule, passage, onChange }: ConditionCellProps) {
  if (condition.kind !== 'range') return conditionSaid(condition, rule);
  const { atLeast, below } = condition;
  const unit = rule?.kind === 'number' ? rule.unit : '';
  const title = rule?.title ?? condition.parameter;
  const end = (bound: 'atLeast' | 'below', word: string, called: string, value: number) => (
    <Box component="span" sx={{ whiteSpace: 'nowrap' }}>
      {word}
      <Box component="span" sx={{ width: WIDTH, display: 'inline-block', mx: 0.5 }}>
        <CellField
          label={`${title} ${called} ${passage}`}
          value={value}
          digits={4}
          unit={unit}
          onCommit={(next) => onChange({ ...condition, [bound]: next })}
        />
      </Box>
    </Box>
  );
  return (
    <>
      {title} {atLeast !== null && end('atLeast', 'from', 'at least', atLeast)}
      {below !== null && end('below', 'below', 'below', below)}
      {unit}
    </>
  );
}
