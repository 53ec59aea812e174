'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import NextLink from 'next/link';
import { useMemo, useRef, useState } from 'react';
import { fileEndings, formatList } from '@itchkit/core/intake';
import { useDropzone } from 'react-dropzone';
import { api } from '../api';
import { LearnButton } from '../learn/LearnButton';
import { Mark } from '../panels/Mark';
import { SchemeSwitch } from '../panels/SchemeSwitch';
import { Arrivals } from './Arrivals';
import { BinDialog, Kept } from './Kept';
import { KitCard } from './KitCard';
import { ShelfBar } from './ShelfBar';
import { shelfView, type Order } from './shelf-view';
import { UnsavedKits } from './UnsavedKits';
import { useArrivals } from './use-arrivals';
import { useManyKits } from './use-kit-actions';

/** The list of kits; files dropped anywhere start new ones. */
export function Shelf() {
  const { data: kits, error } = useQuery({ queryKey: ['kits'], queryFn: api.listKits });
  const arrivals = useArrivals();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({ onDrop: arrivals.take, noClick: true, noKeyboard: true });
  const folder = useRef<HTMLInputElement>(null);
  const [kept, setKept] = useState<'history' | 'bin' | null>(null);
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<Order>('changed');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const shown = useMemo(() => shelfView(kits ?? [], search, order), [kits, search, order]);
  const many = shown.filter(({ id }) => chosen.has(id));
  const { copyAll, removeAll } = useManyKits();
  const letGo = () => setChosen(new Set());
  const choose = (id: string, on: boolean) =>
    setChosen((before) => new Set(on ? [...before, id] : [...before].filter((one) => one !== id)));
  return (
    <Box
      {...getRootProps()}
      sx={{
        height: '100vh',
        overflowY: 'auto',
        outline: isDragActive ? '3px dashed' : 'none',
        outlineColor: 'kit.signal',
        outlineOffset: -10,
      }}
    >
      <input {...getInputProps({ 'aria-label': 'Files for new kits', accept: fileEndings().join(',') })} />
      <Box
        component="header"
        sx={{
          height: 56,
          px: 6,
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          bgcolor: 'kit.sheet',
          borderBottom: 1,
          borderColor: 'divider',
          position: 'sticky',
          top: 0,
          zIndex: 2,
        }}
      >
        <Mark />
        <Typography sx={{ fontFamily: 'h1.fontFamily', fontWeight: 600, flex: 1 }}>Itch Kit</Typography>
        <input
          ref={folder}
          type="file"
          hidden
          aria-label="Folder for a new kit"
          {...{ webkitdirectory: '' }}
          onChange={(event) => void arrivals.take([...(event.target.files ?? [])])}
        />
        <Button color="inherit" onClick={() => folder.current?.click()}>
          From a folder
        </Button>
        <Button color="inherit" onClick={() => setKept('bin')}>
          Bin
        </Button>
        <Button color="inherit" onClick={() => setKept('history')}>
          What is kept
        </Button>
        <Button color="inherit" component={NextLink} href="/rulebooks">
          Rulebooks
        </Button>
        <Button variant="contained" onClick={open}>
          New kit from a file
        </Button>
        <SchemeSwitch />
      </Box>
      {kept === 'history' && <Kept onClose={() => setKept(null)} />}
      {kept === 'bin' && <BinDialog onClose={() => setKept(null)} />}
      <Box component="main" sx={{ maxWidth: 1180, mx: 'auto', px: 6, py: 6 }}>
        <Typography variant="h1" sx={{ mb: 1 }}>
          Shelf
        </Typography>
        <Typography color="text.secondary" sx={{ mb: 5 }}>
          Drop a model anywhere on this page to start a kit from it: {formatList('or')}, numbered mesh frames, or a ZIP or folder of one
          with its pictures.
        </Typography>
        <Arrivals list={arrivals.list} onCancel={arrivals.cancel} onDismiss={arrivals.dismiss} />
        {error && <Box role="alert">{error.message}</Box>}
        {kits && <UnsavedKits kits={kits} />}
        {kits?.length === 0 && <EmptyShelf onChoose={open} />}
        {kits && kits.length > 0 && (
          <ShelfBar
            search={search}
            order={order}
            chosen={many.length}
            onSearch={setSearch}
            onOrder={setOrder}
            onCopy={() => void copyAll(many).then(letGo)}
            onRemove={() => void removeAll(many).then(letGo)}
            onLetGo={letGo}
          />
        )}
        {kits && kits.length > 0 && shown.length === 0 && (
          <Box sx={{ color: 'text.secondary' }}>No kit on the shelf is called so, or is for a platform of that name.</Box>
        )}
        <Box
          component="ul"
          sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(262px, 1fr))', gap: 5 }}
        >
          {shown.map((kit) => (
            <KitCard key={kit.id} kit={kit} chosen={chosen.has(kit.id)} onChoose={(on) => choose(kit.id, on)} />
          ))}
        </Box>
      </Box>
    </Box>
  );
}

function EmptyShelf({ onChoose }: { onChoose: () => void }) {
  return (
    <Box sx={{ border: '1.5px dashed', borderColor: 'kit.line', borderRadius: 2, p: 10, textAlign: 'center', color: 'text.secondary' }}>
      <Box sx={{ mb: 3 }}>The shelf is empty. Drop a model here, or choose one.</Box>
      <Button variant="outlined" onClick={onChoose}>
        Choose a file
      </Button>
      <Box sx={{ mt: 2 }}>
        <LearnButton />
      </Box>
    </Box>
  );
}
