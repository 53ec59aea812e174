'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import { useMemo, useState } from 'react';
import { callOf, setTarget } from '@itchkit/core/document';
import { likelyTargets, type LikelyTarget } from '@itchkit/core/rulebook';
import { allRulebooks } from '../rulebooks';
import { useOpenKit, useRun, useSession } from '../session/context';
import { answered, isToAsk, lastTarget } from './asked-target';

/** Asks of a new kit, once, which platform it is for. */
export function AskTarget() {
  const { session } = useOpenKit();
  const [open, setOpen] = useState(() => isToAsk(session.id));
  const none = useSession((state) => state.kit.targets.length === 0);
  if (!open || !none) return null;
  return <Question onAnswered={() => setOpen(false)} />;
}

function Question({ onAnswered }: { onAnswered: () => void }) {
  const { session } = useOpenKit();
  const run = useRun();
  // What is asked stays as it is while it is read.
  const [kit] = useState(session.kit);
  const [last] = useState(lastTarget);
  const likely = useMemo(() => withLast(likelyTargets(kit, allRulebooks(), session.blobs), last), [kit, session, last]);
  const answer = (likelyOne: LikelyTarget | null) => {
    const rulebook = likelyOne?.rulebook;
    if (rulebook && !run(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }))) return;
    answered(session.id, rulebook?.id ?? null);
    onAnswered();
  };
  return (
    <Dialog open onClose={() => answer(null)} maxWidth="sm" fullWidth aria-labelledby="ask-target">
      <DialogTitle id="ask-target">Which platform is “{kit.name}” for?</DialogTitle>
      <DialogContent>
        <Box sx={{ fontSize: 13.5, lineHeight: 1.5, mb: 1 }}>
          Its rulebook says what is owed, and what the package holds. You can change it at the top at any time, and prepare a kit for
          several.
        </Box>
        <List dense disablePadding>
          {likely.map((one, i) => (
            <ListItemButton
              key={one.rulebook.id}
              autoFocus={i === 0}
              onClick={() => answer(one)}
              sx={{ borderRadius: 1, alignItems: 'baseline' }}
            >
              <ListItemText
                primary={
                  <>
                    {one.rulebook.title}
                    {i === 0 && (
                      <Box component="span" sx={{ ml: 2, fontSize: 12, fontWeight: 600, color: 'kit.sea' }}>
                        {one.rulebook.id === last ? 'likely, and as last time' : 'likeliest'}
                      </Box>
                    )}
                    {i > 0 && one.rulebook.id === last && (
                      <Box component="span" sx={{ ml: 2, fontSize: 12, color: 'text.secondary' }}>
                        as last time
                      </Box>
                    )}
                  </>
                }
                secondary={one.reasons.length > 0 ? inWords(one.reasons) : one.rulebook.summary}
                slotProps={{ secondary: { sx: { fontSize: 12.5 } } }}
              />
            </ListItemButton>
          ))}
        </List>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={() => answer(null)}>Decide later</Button>
      </DialogActions>
    </Dialog>
  );
}

/** Of those for which as much speaks, the one that was chosen last comes first. */
function withLast(likely: LikelyTarget[], last: string | null): LikelyTarget[] {
  const most = likely[0]?.score ?? 0;
  const chosen = likely.find(({ rulebook, score }) => rulebook.id === last && score >= most);
  return chosen ? [chosen, ...likely.filter((one) => one !== chosen)] : likely;
}

/** “It has a skeleton, which is wanted here; at 2 m it is a “Body”.” */
function inWords(reasons: readonly string[]): string {
  const text = reasons.join('; ');
  return `${text[0].toUpperCase()}${text.slice(1)}${text.endsWith('.') ? '' : '.'}`;
}
