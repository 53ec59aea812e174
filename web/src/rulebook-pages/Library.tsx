'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useDropzone } from 'react-dropzone';
import { isShipped } from '../rulebooks';
import { LibraryCard } from './LibraryCard';
import { PageLayout } from './PageLayout';
import { useRulebookActions, useRulebooks } from './use-rulebooks';

/** Every rulebook: those that ship, and one's own. */
export function Library() {
  const { data: rulebooks, error } = useRulebooks();
  const actions = useRulebookActions();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void actions.importFiles(files),
    noClick: true,
    noKeyboard: true,
  });
  const own = rulebooks?.filter((rulebook) => !isShipped(rulebook.id)) ?? [];
  return (
    <PageLayout
      title="Rulebooks"
      tools={
        <Button variant="contained" onClick={open}>
          Import a rulebook
        </Button>
      }
    >
      <Box
        {...getRootProps()}
        sx={{
          flex: 1,
          minHeight: 0,
          overflowY: 'auto',
          outline: isDragActive ? '3px dashed' : 'none',
          outlineColor: 'kit.signal',
          outlineOffset: -10,
        }}
      >
        <input {...getInputProps({ 'aria-label': 'Rulebook files', accept: 'application/json,.json' })} />
        <Box component="main" sx={{ maxWidth: 1180, mx: 'auto', px: 6, py: 5 }}>
          <Typography color="text.secondary" sx={{ mb: 5, maxWidth: 760 }}>
            A rulebook is what one platform asks of a kit, written down: read it like a booklet, copy it to change it, and share it as a
            JSON file. Drop such a file here to take it in.
          </Typography>
          {error && <Box role="alert">{error.message}</Box>}
          <Cards title="Your own" empty="None yet. Make a copy of one below, and change what your platform does otherwise.">
            {own.map((rulebook) => (
              <LibraryCard key={rulebook.id} rulebook={rulebook} own actions={actions} />
            ))}
          </Cards>
          <Cards title="Shipped with Itch Kit">
            {rulebooks
              ?.filter((rulebook) => isShipped(rulebook.id))
              .map((rulebook) => (
                <LibraryCard key={rulebook.id} rulebook={rulebook} own={false} actions={actions} />
              ))}
          </Cards>
        </Box>
      </Box>
    </PageLayout>
  );
}

function Cards({ title, empty, children }: { title: string; empty?: string; children: React.ReactNode[] | undefined }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 6 }}>
      <Typography variant="h2" sx={{ mb: 2.5 }}>
        {title}
      </Typography>
      {children?.length === 0 && empty && <Typography color="text.secondary">{empty}</Typography>}
      <Box
        component="ul"
        sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(330px, 1fr))', gap: 4 }}
      >
        {children}
      </Box>
    </Box>
  );
}
