'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { count } from '@itchkit/core/document';
import { api, type HistoryFigures } from '../api';
import { formatAgo, formatBytes, formatCount } from '../format';

const FIELDS: [keyof HistoryFigures['policy'], string, string][] = [
  ['allDays', 'Every revision', 'days'],
  ['hourlyDays', 'then one an hour, until', 'days'],
  ['binDays', 'Kits off the shelf', 'days'],
];

/** What is kept, and a way to ask for it again after a change. */
function useKept() {
  const queries = useQueryClient();
  const { data, error } = useQuery({ queryKey: ['history'], queryFn: api.history });
  const again = async () => {
    await queries.invalidateQueries({ queryKey: ['history'] });
    await queries.invalidateQueries({ queryKey: ['kits'] });
  };
  return { data, error, again };
}

/** What is kept of old revisions and of kits that were taken off the shelf; both can be changed here. */
export function Kept({ onClose }: { onClose: () => void }) {
  const { data, error, again } = useKept();
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>What is kept</DialogTitle>
      <DialogContent>
        {error && <Box role="alert">{error.message}</Box>}
        {!data && !error && <Box sx={{ color: 'text.secondary' }}>Looking …</Box>}
        {data && (
          <>
            <Box sx={{ mb: 3 }}>
              {formatCount(data.revisions)} revisions; they and their data take {formatBytes(data.bytes)}. The newest revision of a kit, its
              first, those with a name and those that a package was built of always stay.
            </Box>
            <Policy key={JSON.stringify(data.policy)} figures={data} onChanged={again} />
            <Bin bin={data.bin} onChanged={again} />
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Kits that were taken off the shelf: put back, or thrown away for good. */
export function BinDialog({ onClose }: { onClose: () => void }) {
  const { data, error, again } = useKept();
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Bin</DialogTitle>
      <DialogContent>
        {error && <Box role="alert">{error.message}</Box>}
        {data && (
          <>
            <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
              What is taken off the shelf stays here for {count(data.policy.binDays, 'day')}.
            </Box>
            <Bin bin={data.bin} onChanged={again} />
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Policy({ figures, onChanged }: { figures: HistoryFigures; onChanged: () => Promise<void> }) {
  const [policy, setPolicy] = useState(figures.policy);
  const change = useMutation({ mutationFn: () => api.setHistory(policy), onSuccess: onChanged });
  const isSame = JSON.stringify(policy) === JSON.stringify(figures.policy);
  const isSound = Object.values(policy).every((days) => Number.isInteger(days) && days >= 1 && days <= 36_500);
  return (
    <Box component="form" onSubmit={(event) => (event.preventDefault(), change.mutate())}>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr) auto', gap: 3, alignItems: 'start' }}>
        {FIELDS.map(([name, label, unit]) => (
          <TextField
            key={name}
            type="number"
            label={label}
            value={policy[name]}
            onChange={(event) => setPolicy({ ...policy, [name]: Number(event.target.value) })}
            slotProps={{ htmlInput: { min: 1, max: 36_500, 'aria-label': `${label} ${unit}` }, input: { endAdornment: unit } }}
          />
        ))}
        <Button type="submit" variant="outlined" disabled={isSame || !isSound || change.isPending} sx={{ height: 40 }}>
          Keep so
        </Button>
      </Box>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', mt: 1 }}>
        {change.error ? change.error.message : 'After that one a day stays, for good. What is more goes at once when this is changed.'}
      </Box>
    </Box>
  );
}

function Bin({ bin, onChanged }: { bin: HistoryFigures['bin']; onChanged: () => Promise<void> }) {
  const restore = useMutation({ mutationFn: api.restoreKit, onSuccess: onChanged });
  const [sure, setSure] = useState<string | null>(null);
  const drop = useMutation({ mutationFn: api.dropKit, onSuccess: onChanged });
  return (
    <>
      <Typography variant="h3" sx={{ mt: 5, mb: 1 }}>
        Off the shelf
      </Typography>
      {bin.length === 0 && <Box sx={{ color: 'text.secondary', fontSize: 13 }}>Nothing was taken off the shelf lately.</Box>}
      <Box component="ul" aria-label="Off the shelf" sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: 220, overflowY: 'auto' }}>
        {bin.map(({ id, name, deletedAt }) => (
          <Box component="li" key={id} sx={{ display: 'flex', gap: 2, alignItems: 'center', fontSize: 13, py: 0.5 }}>
            <Box sx={{ flex: 1, overflowWrap: 'anywhere' }}>{name}</Box>
            <Box sx={{ color: 'text.secondary', fontSize: 12, whiteSpace: 'nowrap' }}>{formatAgo(deletedAt)}</Box>
            <Button size="small" onClick={() => restore.mutate(id)}>
              Put it back
            </Button>
            <Button size="small" color={sure === id ? 'error' : 'inherit'} onClick={() => (sure === id ? drop.mutate(id) : setSure(id))}>
              {sure === id ? 'For good?' : 'Throw away'}
            </Button>
          </Box>
        ))}
      </Box>
    </>
  );
}
