'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRef } from 'react';
import { FONT } from '../theme/tokens';
import { jsonPlace, lineOf } from './json-place';
import type { Draft } from './read-draft';

const LINE_PIXELS = 18;

/** The JSON of the rulebook, with a way to the line where something is wrong. */
export function JsonPane({ text, error, onChange }: { text: string; error: Draft['error']; onChange: (text: string) => void }) {
  const area = useRef<HTMLTextAreaElement>(null);
  const offset = error === null ? null : (error.offset ?? (error.path === null ? null : jsonPlace(text, error.path)));
  const line = offset === null ? null : lineOf(text, offset);
  const goThere = () => {
    if (!area.current || offset === null || line === null) return;
    const end = text.indexOf('\n', offset);
    area.current.focus();
    area.current.setSelectionRange(offset, end < 0 ? text.length : end);
    area.current.scrollTop = Math.max(0, (line - 6) * LINE_PIXELS);
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, borderLeft: 1, borderColor: 'divider', bgcolor: 'kit.sheet' }}>
      <Box sx={{ px: 3, py: 1.5, display: 'flex', alignItems: 'center', gap: 2, fontSize: 12, color: 'text.secondary', minHeight: 44 }}>
        <span style={{ flex: 1 }}>The same as JSON</span>
        {line !== null && (
          <Button color="error" onClick={goThere} sx={{ py: 0.25 }}>
            Go to line {line}
          </Button>
        )}
      </Box>
      <Box
        component="textarea"
        ref={area}
        aria-label="The rulebook as JSON"
        aria-invalid={error !== null}
        spellCheck={false}
        value={text}
        onChange={(event) => onChange(event.target.value)}
        sx={{
          flex: 1,
          minHeight: 0,
          resize: 'none',
          border: 0,
          borderTop: 1,
          borderColor: 'divider',
          px: 3,
          py: 2,
          bgcolor: 'kit.card',
          color: 'text.primary',
          fontFamily: FONT.figures,
          fontSize: 12,
          lineHeight: `${LINE_PIXELS}px`,
          whiteSpace: 'pre',
          overflow: 'auto',
          outlineOffset: -2,
        }}
      />
    </Box>
  );
}
