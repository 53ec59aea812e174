'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMemo, useState } from 'react';
import { callOf, count, KitError, type Binding, type BindingRow } from '@itchkit/core/document';
import { ALL_COLUMNS, readRows, writeRows } from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { readNumber } from '../../card/read-number';
import { useKit, useRun } from '../../session/context';
import { wrongOf } from '../../panels/code-editor-props';
import { TextEditor } from '../../panels/TextEditor';
import type { BoundLever } from './levers';
import { kindsOf } from './response';

const COLUMN_TITLES = ['offset', 'turn', 'size'].flatMap((of) => ['x', 'y', 'z'].map((axis) => `${of} ${axis}`));

/** Rows of a table from a spreadsheet: values and one column of poses, or all nine. */
export function PasteRowsDialog({ binding, lever, onClose }: { binding: Binding; lever: BoundLever; onClose: () => void }) {
  const kit = useKit();
  const run = useRun();
  const [text, setText] = useState('');
  const [column, setColumn] = useState(() => COLUMN_TITLES.indexOf(`${kindsOf([binding])[0]} ${movingAxis(binding)}`));
  const [instead, setInstead] = useState(false);
  const unit = lever.variable?.unit ?? '';
  const { rows, failure } = useMemo(() => {
    const columns = column < 0 ? ALL_COLUMNS : [ALL_COLUMNS[column]];
    try {
      return { rows: readRows(text, columns, readNumber, unit), failure: null };
    } catch (error) {
      if (!(error instanceof KitError)) throw error;
      return { rows: [] as BindingRow[], failure: wrongOf(text, error) };
    }
  }, [text, column, unit]);
  const take = () => {
    if (run(callOf(writeRows, { binding: binding.id, rows, instead }))) onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Rows of “{kit.parts[binding.part]?.name}”</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 3, fontSize: 13.5, lineHeight: 1.5 }}>
          Paste from a spreadsheet: the value of {lever.key} first, then what the part does there. A cell may name its unit, as 0.44 rad or
          120 mm; a heading is passed over.
        </Box>
        <Choice
          label="After the value stands"
          value={column}
          options={[...COLUMN_TITLES.map((title, i) => [i, title] as const), [-1, 'all nine: offset, turn and size, x y z each'] as const]}
          onChange={setColumn}
        />
        <Box sx={{ mt: 3 }}>
          <TextEditor
            label="Rows"
            language="table"
            rows={[6, 12]}
            focused
            text={text}
            wrong={failure}
            says={rows.length > 0 ? count(rows.length, 'row') : undefined}
            onChange={setText}
          />
        </Box>
        <FormControlLabel
          control={<Checkbox size="small" checked={instead} onChange={(_, on) => setInstead(on)} />}
          label="Instead of the rows that there are; neutral stays"
        />
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={rows.length === 0} onClick={take}>
          Write {rows.length > 0 ? count(rows.length, 'row') : 'rows'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The axis in which a table moves most. */
function movingAxis(binding: Binding): string {
  const [kind] = kindsOf([binding]);
  const most = [0, 1, 2].map((axis) => Math.max(0, ...binding.rows.map((row) => Math.abs(row[kind][axis] - binding.rows[0][kind][axis]))));
  return 'xyz'[most.indexOf(Math.max(...most))];
}
