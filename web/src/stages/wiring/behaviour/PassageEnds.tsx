import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { Id, Layer, Passage } from '@itchkit/core/document';
import { Choice } from '../../../card/Choice';

/** What stands for anywhere in a choice of states. */
export const ANYWHERE = '';

/** When a passage may be taken. */
export const AFTER = [
  ['any', 'at any time'],
  ['end', 'once its clip has ended'],
] as const;

/** From where to where it leads; from anywhere, but for which states. */
export function PassageEnds({
  layer,
  passage,
  say,
}: {
  layer: Layer;
  passage: Passage;
  say: (change: Partial<Pick<Passage, 'from' | 'except' | 'to'>>) => void;
}) {
  const { from, to, except } = passage;
  const others = (id: Id | null) => layer.states.filter((state) => state.id !== id);
  const named = ({ id, name }: { id: Id; name: string }) => [id, name] as const;
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Choice
          label="It leads from"
          value={from ?? ANYWHERE}
          options={[[ANYWHERE, 'anywhere'], ...others(to).map(named)]}
          onChange={(id) => say({ from: id === ANYWHERE ? null : id })}
        />
        <Choice label="It leads to" value={to} options={others(from).map(named)} onChange={(id) => say({ to: id })} />
      </Box>
      {from === null && layer.states.length > 2 && (
        <Box role="group" aria-label="But not from">
          <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>But not from</Box>
          {others(to).map(({ id, name }) => (
            <FormControlLabel
              key={id}
              control={
                <Checkbox
                  size="small"
                  checked={except.includes(id)}
                  onChange={(_, on) => say({ except: on ? [...except, id] : except.filter((one) => one !== id) })}
                />
              }
              label={name}
              sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
            />
          ))}
        </Box>
      )}
    </>
  );
}
