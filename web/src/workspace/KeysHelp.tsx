'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { LearnButton } from '../learn/LearnButton';
import type { Command } from '../panels/command';

export function KeyCap({ keys }: { keys: string }) {
  return (
    <Box
      component="kbd"
      className="figures"
      sx={{ border: 1, borderColor: 'divider', borderRadius: 1, px: 1, bgcolor: 'kit.sheet', whiteSpace: 'nowrap' }}
    >
      {keys}
    </Box>
  );
}

export function KeysHelp({ open, commands, onClose }: { open: boolean; commands: Command[]; onClose: () => void }) {
  const groups = [...new Set(commands.filter((command) => command.keys.length > 0).map((command) => command.group))];
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md">
      <DialogTitle>Keys</DialogTitle>
      <DialogContent tabIndex={0}>
        <Box sx={{ columns: 2, columnGap: 8 }}>
          {groups.map((group) => (
            <Box key={group} sx={{ breakInside: 'avoid', mb: 4 }}>
              <Box component="h3" sx={{ m: 0, mb: 1, fontSize: 13, color: 'text.secondary' }}>
                {group}
              </Box>
              {commands
                .filter((command) => command.group === group && command.keys.length > 0)
                .map((command) => (
                  <Box key={command.id} sx={{ display: 'flex', gap: 4, py: 0.5, fontSize: 13.5 }}>
                    <Box sx={{ flex: 1 }}>{command.title}</Box>
                    <KeyCap keys={command.keys[0]} />
                  </Box>
                ))}
            </Box>
          ))}
          <Box sx={{ breakInside: 'avoid', fontSize: 13, color: 'text.secondary', maxWidth: 320 }}>
            Enter on a finding mends it. In a number field the arrows step, with Shift by ten, with Alt by a tenth. F2 renames a part in the
            tree. The sight on the bench goes by arrows, with Shift by ten, with Alt by a pixel; Enter presses there, Space takes hold and
            lets go.
          </Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <LearnButton sx={{ mr: 'auto' }} onGone={onClose} />
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
