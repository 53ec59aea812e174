'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import { callOf, count, partsInOrder } from '@itchkit/core/document';
import { boundsByPart, findTwins } from '@itchkit/core/geometry';
import { renameParts } from '@itchkit/core/shape';
import { LETTERS, NO_RENAME, renamePlan, type Letters, type RenameRecipe } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRulebook, useRun, useUi } from '../../session/context';
import { RenameTable } from './RenameTable';

const LETTER_WORDS: Record<Letters, string> = {
  keep: 'as they are',
  lower: 'all small',
  upper: 'all capitals',
  capitals: 'A Capital Each',
};
const JOINS: { value: string; title: string; join: RenameRecipe['join'] }[] = [
  { value: 'keep', title: 'as they are', join: null },
  { value: '_', title: 'by _', join: '_' },
  { value: '-', title: 'by -', join: '-' },
  { value: 'none', title: 'without a sign', join: '' },
];

/** Names of many parts at once: what each would become is shown before anything is changed. */
export function RenameMany({ onClose }: { onClose: () => void }) {
  const kit = useKit();
  const rulebook = useRulebook();
  const { session } = useOpenKit();
  const run = useRun();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const [recipe, setRecipe] = useState(NO_RENAME);
  const [bySides, setBySides] = useState(false);
  const ids = useMemo(
    () =>
      (selection.length > 0 ? partsInOrder(kit).filter((part) => selection.includes(part.id)) : partsInOrder(kit)).map((part) => part.id),
    [kit, selection],
  );
  const sideOf = useMemo(() => {
    if (!bySides) return undefined;
    return new Map(
      findTwins(kit, boundsByPart(kit, session.blobs)).flatMap(({ left, right }) => [[left, 'left'] as const, [right, 'right'] as const]),
    );
  }, [bySides, kit, session]);
  const plan = renamePlan(kit, ids, recipe, rulebook, sideOf);
  const changed = plan.filter((one) => one.after !== one.before);
  const clashes = changed.filter((one) => one.clash).length;
  const rest = changed.length === 0 ? 'Nothing would change yet.' : `${ids.length - changed.length} stay as they are.`;
  const field = (key: 'find' | 'replace' | 'pattern' | 'prefix' | 'suffix', label: string, help?: string) => (
    <TextField
      size="small"
      label={label}
      helperText={help}
      value={recipe[key]}
      onChange={(event) => setRecipe({ ...recipe, [key]: event.target.value })}
      slotProps={{ htmlInput: { maxLength: 200, className: 'figures' } }}
    />
  );
  const apply = () => {
    if (run(callOf(renameParts, { names: Object.fromEntries(changed.map(({ id, after }) => [id, after])) }))) onClose();
  };

  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Names of {selection.length > 0 ? count(ids.length, 'chosen part') : `all of ${count(ids.length, 'part')}`}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '300px 1fr', gap: 5, pt: '8px !important' }}>
        <Box sx={{ display: 'grid', gap: 2.5, alignContent: 'start' }}>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            {field('find', 'Find')}
            {field('replace', 'Put in its place')}
          </Box>
          {field('pattern', 'Whole name anew', '{name} {role} {parent} {n} {nn} {nnn}')}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            <TextField
              select
              size="small"
              label="Letters"
              value={recipe.letters}
              onChange={(event) => setRecipe({ ...recipe, letters: event.target.value as Letters })}
            >
              {LETTERS.map((one) => (
                <MenuItem key={one} value={one}>
                  {LETTER_WORDS[one]}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              select
              size="small"
              label="Words joined"
              value={JOINS.find(({ join }) => join === recipe.join)!.value}
              onChange={(event) => setRecipe({ ...recipe, join: JOINS.find(({ value }) => value === event.target.value)!.join })}
            >
              {JOINS.map(({ value, title }) => (
                <MenuItem key={value} value={value}>
                  {title}
                </MenuItem>
              ))}
            </TextField>
            {field('prefix', 'In front')}
            {field('suffix', 'At the end')}
          </Box>
          {rulebook?.naming.sides && (
            <FormControlLabel
              control={<Checkbox checked={bySides} onChange={(event) => setBySides(event.target.checked)} />}
              label={`Left and right by mirror place, as ${rulebook.title} writes them`}
            />
          )}
        </Box>
        <RenameTable plan={plan} />
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Box role="status" sx={{ flex: 1, fontSize: 13, color: clashes > 0 ? 'kit.stop' : 'text.secondary' }}>
          {clashes > 0 ? `${clashes} ${clashes === 1 ? 'name is' : 'names are'} taken or empty; change the recipe.` : rest}
        </Box>
        <Button onClick={onClose}>Leave them</Button>
        <Button variant="contained" disabled={changed.length === 0 || clashes > 0} onClick={apply}>
          Rename {changed.length} {changed.length === 1 ? 'part' : 'parts'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
