'use client';
import Autocomplete, { createFilterOptions } from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { useTrying } from '../card/TryButton';
import type { Command } from './command';
import { KeyCap } from './KeysHelp';

/** Kits of very many materials have as many commands; more than this nobody reads. */
const filterOptions = createFilterOptions<Command>({ limit: 300 });

/** Every command by name. */
export function CommandFinder({ open, commands, onClose }: { open: boolean; commands: Command[]; onClose: () => void }) {
  const { begin, stop } = useTrying();
  const close = () => {
    stop();
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} fullWidth maxWidth="sm" slotProps={{ paper: { sx: { position: 'fixed', top: 72, m: 0 } } }} aria-label="Find a command">
      <Autocomplete
        open
        autoHighlight
        options={commands}
        filterOptions={filterOptions}
        groupBy={(command) => command.group}
        getOptionLabel={(command) => command.title}
        getOptionDisabled={(command) => Boolean(command.blocked)}
        onChange={(_, command) => {
          close();
          command?.run();
        }}
        onHighlightChange={(_, command) => (command?.calls ? begin(command.calls) : stop())}
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
