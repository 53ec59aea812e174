import Box from '@mui/material/Box';
import type { Grade } from '@itchkit/core/rulebook';

/** A square for a stop, a triangle for a warning, a ring for a note: told apart without colour. */
export function GradeSign({ grade, size = 10 }: { grade: Grade; size?: number }) {
  return (
    <Box component="svg" viewBox="0 0 10 10" aria-hidden sx={{ width: size, height: size, flex: 'none', color: `kit.${grade}` }}>
      {grade === 'stop' && <rect x="0.5" y="0.5" width="9" height="9" rx="1.5" fill="currentColor" />}
      {grade === 'warn' && <path d="M5 0.5 L9.8 9.5 L0.2 9.5 Z" fill="currentColor" />}
      {grade === 'note' && <circle cx="5" cy="5" r="3.8" fill="none" stroke="currentColor" strokeWidth="1.8" />}
    </Box>
  );
}

export function GradeCount({ grade, count }: { grade: Grade; count: number }) {
  return (
    <Box
      component="span"
      data-grade={grade}
      sx={{
        display: 'inline-flex',
        alignItems: 'center',
        gap: 1,
        color: `kit.${grade}`,
        fontSize: 13,
        fontWeight: 600,
        whiteSpace: 'nowrap',
      }}
    >
      <GradeSign grade={grade} />
      <span>
        <span className="figures">{count}</span> {grade}
      </span>
    </Box>
  );
}
