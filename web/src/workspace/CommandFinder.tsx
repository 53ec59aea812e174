'use client';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { api } from '../api';
import { useTrying } from '../card/TryButton';
import { entriesOf, type Entry } from '../find/entries';
import { Finder } from '../find/finder';
import { showPlace } from '../find/go-to';
import { recentlyFound, rememberFound } from '../find/recent';
import type { Command } from '../panels/command';
import { allRulebooks } from '../rulebooks';
import { useKit, useOpenKit, useRulebook } from '../session/context';
import { stagesFor } from '../stages/list';
import { KeyCap } from './KeysHelp';

/** Kits of very many parts have as many entries; more than this nobody reads. */
const MOST = 200;

/** All that can be found in the open kit, and elsewhere. */
function useEntries(commands: readonly Command[]): Entry[] {
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const rulebook = useRulebook();
  const router = useRouter();
  const { data: kits } = useQuery({ queryKey: ['kits'], queryFn: api.listKits });
  return useMemo(
    () =>
      entriesOf(kit, {
        commands,
        kits: (kits ?? []).filter(({ id }) => id !== session.id),
        rulebooks: allRulebooks(),
        stages: stagesFor(rulebook).map(({ id }) => id),
        doing: {
          to: (address) => router.push(address),
          toPlace(place) {
            router.push(`/kits/${session.id}/${place.stage}`);
            showPlace(place);
          },
          toPart: (id) =>
            ui.setState(({ frameRequest: { nonce } }) => ({
              selection: [id],
              held: null,
              frameRequest: { parts: [id], nonce: nonce + 1 },
            })),
          toClip(id) {
            router.push(`/kits/${session.id}/motion`);
            ui.setState({ clip: id, time: 0, playing: false, keys: [] });
          },
        },
      }),
    [kit, commands, kits, rulebook, router, session, ui],
  );
}

/** Everything by name: what can be done, where it stands, parts, clips, kits and rulebooks. */
export function CommandFinder({ open, commands, onClose }: { open: boolean; commands: Command[]; onClose: () => void }) {
  return open ? <OpenFinder commands={commands} onClose={onClose} /> : null;
}

function OpenFinder({ commands, onClose }: { commands: Command[]; onClose: () => void }) {
  const { begin, stop } = useTrying();
  // As it was opened: what is tried while the finder is open changes no list.
  const [asOpened] = useState(commands);
  const entries = useEntries(asOpened);
  const finder = useMemo(() => new Finder(entries), [entries]);
  const [recent] = useState(recentlyFound);
  const [text, setText] = useState('');
  const found = useMemo(() => finder.find(text, recent).slice(0, MOST), [finder, text, recent]);
  const close = () => {
    stop();
    onClose();
  };
  const show = (entry: Entry | null | undefined) => (entry?.calls && !entry.blocked ? begin(entry.calls) : stop());
  return (
    // Over the Ledger, so that the bench shows what the command in view would do.
    <Dialog
      open
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
            width: 'min(420px, 100%)',
            maxWidth: 420,
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
        options={found}
        filterOptions={(options) => options}
        getOptionLabel={(entry) => entry.title}
        getOptionKey={(entry) => entry.id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        getOptionDisabled={(entry) => Boolean(entry.blocked)}
        noOptionsText={`Nothing is called so. Try another word for it.`}
        onChange={(_, entry) => {
          if (!entry) return;
          rememberFound(entry.id);
          close();
          entry.run();
        }}
        onInputChange={(_, typed) => {
          setText(typed);
          show(typed === '' ? null : finder.find(typed, recent).find(({ blocked }) => !blocked));
        }}
        onClose={(_, reason) => reason === 'escape' && close()}
        onHighlightChange={(_, entry) => show(entry)}
        renderInput={(params) => (
          <TextField {...params} autoFocus label="What are you looking for?" sx={{ m: 3, width: 'calc(100% - 24px)' }} />
        )}
        renderOption={({ key, ...props }, entry) => (
          <Box component="li" key={key} {...props} sx={{ display: 'flex', gap: 2, fontSize: 13.5, alignItems: 'baseline' }}>
            <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>{entry.title}</Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary', textAlign: 'right', maxWidth: '45%' }}>{entry.blocked || entry.group}</Box>
            {!entry.blocked && entry.keys[0] && <KeyCap keys={entry.keys[0]} />}
          </Box>
        )}
        slotProps={{ popper: { disablePortal: true, modifiers: [{ name: 'flip', enabled: false }] }, listbox: { sx: { maxHeight: 380 } } }}
        sx={{ minHeight: 470 }}
      />
    </Dialog>
  );
}
