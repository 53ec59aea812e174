'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { useEffect, useState } from 'react';
import type { Rulebook } from '@itchkit/core/rulebook';
import { isShipped, versionsOf } from '../rulebooks';
import { bookletSections } from './booklet-sections';
import { PageLayout } from './PageLayout';
import { exportRulebook, useRulebookActions, useRulebooks } from './use-rulebooks';

/** A rulebook to be read: its sections one after the other, with a list of them beside. */
export function Booklet({ id }: { id: string }) {
  const { isPending, error } = useRulebooks();
  const actions = useRulebookActions();
  const [version, setVersion] = useState<string | null>(null);
  const versions = isPending ? [] : versionsOf(id);
  const rulebook = versions.find((one) => one.version === version) ?? versions[0];
  if (!rulebook)
    return (
      <PageLayout title="Rulebook" within>
        <Box sx={{ p: 6 }} role={isPending ? undefined : 'alert'}>
          {isPending
            ? 'Opening the rulebook …'
            : (error?.message ?? `There is no rulebook “${id}” here. Import it again, or look at the list of rulebooks.`)}
        </Box>
      </PageLayout>
    );
  return (
    <PageLayout
      title={rulebook.title}
      within
      tools={
        <>
          <TextField
            select
            size="small"
            label="Version"
            value={rulebook.version}
            onChange={(event) => setVersion(event.target.value)}
            sx={{ width: 110 }}
          >
            {versions.map((one) => (
              <MenuItem key={one.version} value={one.version}>
                {one.version}
              </MenuItem>
            ))}
          </TextField>
          {!isShipped(id) && (
            <Button component={NextLink} href={`/rulebooks/${id}/edit`} variant="outlined">
              Edit
            </Button>
          )}
          <Button onClick={() => void actions.copy(rulebook)}>Copy</Button>
          <Button onClick={() => exportRulebook(rulebook)}>Export</Button>
        </>
      }
    >
      <Pages rulebook={rulebook} />
    </PageLayout>
  );
}

function Pages({ rulebook }: { rulebook: Rulebook }) {
  const sections = bookletSections(rulebook);
  // The section in the address is not there yet when the browser looks for it.
  useEffect(() => document.getElementById(window.location.hash.slice(1))?.scrollIntoView(), []);
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '220px 1fr' }}>
      <Box
        component="nav"
        aria-label="Sections"
        sx={{
          bgcolor: 'kit.sheet',
          borderRight: 1,
          borderColor: 'divider',
          px: 4,
          py: 4,
          overflowY: 'auto',
          display: 'grid',
          alignContent: 'start',
          gap: 1,
        }}
      >
        {sections.map(({ id, title }) => (
          <Link key={id} href={`#${id}`} sx={{ fontSize: 14, textDecoration: 'none' }}>
            {title}
          </Link>
        ))}
      </Box>
      <Box component="main" sx={{ overflowY: 'auto', px: 7, py: 5 }}>
        <Box sx={{ maxWidth: 860 }}>
          <Typography sx={{ fontSize: 16, lineHeight: 1.5, mb: 4 }}>{rulebook.summary}</Typography>
          {sections.map(({ id, title, content }) => (
            <Box key={id} component="section" id={id} aria-label={title} sx={{ mb: 6, scrollMarginTop: 16 }}>
              <Typography variant="h2" sx={{ mb: 2, pb: 1, borderBottom: 1, borderColor: 'divider' }}>
                {title}
              </Typography>
              {content}
            </Box>
          ))}
        </Box>
      </Box>
    </Box>
  );
}
