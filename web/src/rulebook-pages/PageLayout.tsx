'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Link from '@mui/material/Link';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import type { ReactNode } from 'react';
import { Mark } from '../panels/Mark';
import { SchemeSwitch } from '../panels/SchemeSwitch';

/** The frame of the rulebook pages: the way back, a title, and what can be done here. */
export function PageLayout({
  title,
  within,
  tools,
  children,
}: {
  title: string;
  within?: boolean;
  tools?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box sx={{ height: '100vh', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          height: 56,
          flex: 'none',
          px: 4,
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          bgcolor: 'kit.sheet',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Tooltip title="To the shelf">
          <IconButton component={NextLink} href="/" aria-label="To the shelf" size="small">
            <Mark />
          </IconButton>
        </Tooltip>
        {within && (
          <>
            <Link component={NextLink} href="/rulebooks">
              Rulebooks
            </Link>
            <Box component="span" sx={{ color: 'text.secondary' }}>
              /
            </Box>
          </>
        )}
        <Typography
          component="h1"
          variant="h2"
          sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
        >
          {title}
        </Typography>
        {tools}
        <SchemeSwitch />
      </Box>
      {children}
    </Box>
  );
}
