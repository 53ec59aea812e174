'use client';
import Box from '@mui/material/Box';
import { SnackbarContent, type CustomContentProps } from 'notistack';
import { forwardRef } from 'react';

const EDGE: Partial<Record<CustomContentProps['variant'], string>> = { error: 'kit.stop', warning: 'kit.warn', success: 'kit.good' };

/** A passing notice: a slip of card with an edge in the colour of its grade. */
export const Notice = forwardRef<HTMLDivElement, CustomContentProps>(function Notice({ id, message, action, variant }, ref) {
  return (
    <SnackbarContent ref={ref} role={variant === 'error' ? 'alert' : 'status'}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 3,
          px: 4,
          py: 2.5,
          maxWidth: 560,
          fontSize: 14,
          bgcolor: 'kit.card',
          color: 'text.primary',
          border: 1,
          borderColor: 'divider',
          borderLeft: 4,
          borderLeftColor: EDGE[variant] ?? 'kit.sea',
          borderRadius: 1,
        }}
      >
        <span>{message}</span>
        {typeof action === 'function' ? action(id) : action}
      </Box>
    </SnackbarContent>
  );
});
