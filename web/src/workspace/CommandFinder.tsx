'use client';
import Autocomplete, { createFilterOptions } from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { useTrying } from '../card/TryButton';
import type { Command } from '../panels/command';
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
  const show = (command: Command | null | undefined) => (command?.calls && !command.blocked ? begin(command.calls) : stop());
  // The first one is highlighted by itself, which the list does not tell.
  const showFirst = (inputValue: string) =>
    show(filterOptions(commands, { inputValue, getOptionLabel: ({ title }) => title }).find(({ blocked }) => !blocked));
  return (
    // Over the Ledger, so that the bench shows what the command in view would do.
    <Dialog
      open={open}
      onClose={close}
      fullWidth
      slotProps={{
        backdrop: { invisible: true },
        paper: {
          sx: {
            position: 'fixed',
            top: 140,
            left: 8,
            m: 0,
            width: 'min(400px, 100%)',
            maxWidth: 400,
            border: 1,
            borderColor: 'kit.line',
            boxShadow: 8,
          },
        },
      }}
      aria-label="Find a command"
    >
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
        onInputChange={(_, text) => (text === '' ? stop() : showFirst(text))}
        onClose={(_, reason) => reason === 'escape' && close()}
        onHighlightChange={(_, command) => show(command)}
        renderInput={(params) => (
          <TextField {...params} autoFocus label="What do you want to do?" sx={{ m: 3, width: 'calc(100% - 24px)' }} />
        )}
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
