'use client';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import type { Command } from './command';
import { KeyCap } from './KeysHelp';

/** Every command by name. */
export function CommandFinder({ open, commands, onClose }: { open: boolean; commands: Command[]; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm" slotProps={{ paper: { sx: { position: 'fixed', top: 72, m: 0 } } }} aria-label="Find a command">
      <Autocomplete
        open
        autoHighlight
        options={commands}
        groupBy={(command) => command.group}
        getOptionLabel={(command) => command.title}
        getOptionDisabled={(command) => Boolean(command.blocked)}
        onChange={(_, command) => {
          onClose();
          command?.run();
        }}
        renderInput={(params) => <TextField {...params} autoFocus label="What do you want to do?" sx={{ m: 3, width: 'calc(100% - 24px)' }} />}
        renderOption={({ key, ...props }, command) => (
          <Box component="li" key={key} {...props} sx={{ display: 'flex', gap: 2, fontSize: 13.5 }}>
            <Box sx={{ flex: 1 }}>{command.title}</Box>
            {command.blocked ? <Box sx={{ fontSize: 12 }}>{command.blocked}</Box> : command.keys[0] && <KeyCap keys={command.keys[0]} />}
          </Box>
        )}
        slotProps={{ popper: { disablePortal: true, modifiers: [{ name: 'flip', enabled: false }] }, listbox: { sx: { maxHeight: 380 } } }}
        sx={{ minHeight: 470 }}
      />
    </Dialog>
  );
}
