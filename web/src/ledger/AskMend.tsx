'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import type { Call } from '@itchkit/core/document';
import type { Finding, Mend } from '@itchkit/core/rulebook';
import { WayPicture } from './WayPicture';

const MOST_LINES = 40;

interface AskMendProps {
  finding: Finding & { mend: Mend };
  onClose: () => void;
  onApply: (call: Call) => void;
}

/** Shows what a mend will change before it does; where there are several ways, each of them. */
export function AskMend({ finding, onClose, onApply }: AskMendProps) {
  const { title, call, changes = [], ways = [], looks = false } = finding.mend;
  const [chosen, setChosen] = useState(0);
  const way = ways[chosen] ?? { title, call, changes };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{finding.title}</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 2 }}>{finding.message}</Box>
        {ways.length > 0 && (
          <Box
            role="radiogroup"
            aria-label="Ways to mend it"
            sx={{ display: 'grid', gridTemplateColumns: `repeat(${ways.length}, 1fr)`, gap: 2, mb: 2 }}
          >
            {ways.map((one, i) => (
              <ButtonBase
                key={one.title}
                role="radio"
                aria-checked={i === chosen}
                onClick={() => setChosen(i)}
                sx={{
                  display: 'block',
                  textAlign: 'left',
                  border: 2,
                  borderColor: i === chosen ? 'kit.sea' : 'divider',
                  borderRadius: 1,
                  overflow: 'hidden',
                  fontSize: 13,
                }}
              >
                {looks && <WayPicture call={one.call} parts={finding.parts} />}
                <Box component="span" sx={{ display: 'block', px: 2, py: 1.5, fontWeight: i === chosen ? 600 : 400 }}>
                  {one.title}
                </Box>
              </ButtonBase>
            ))}
          </Box>
        )}
        {looks && (
          <Box sx={{ mb: 2, color: 'text.secondary', fontSize: 12.5 }}>
            Seen from above, front sides alone: what shows its back is not drawn there.
          </Box>
        )}
        <Box sx={{ mb: 1, color: 'text.secondary', fontSize: 13 }}>This will change:</Box>
        <Box component="ul" tabIndex={0} sx={{ m: 0, pl: 5, fontSize: 13, lineHeight: 1.7, maxHeight: 260, overflowY: 'auto' }}>
          {way.changes.slice(0, MOST_LINES).map((line) => (
            <li key={line}>{line}</li>
          ))}
          {way.changes.length > MOST_LINES && <li>and {way.changes.length - MOST_LINES} more</li>}
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" onClick={() => onApply(way.call)} autoFocus>
          {way.title}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
