'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRef } from 'react';
import CodeEditor from '../panels/CodeEditor';
import { jsonPlace, lineOf } from './json-place';
import type { Draft } from './read-draft';

/** The JSON of the rulebook, with marks and a way to the line where something is wrong. */
export function JsonPane({ text, error, onChange }: { text: string; error: Draft['error']; onChange: (text: string) => void }) {
  const goTo = useRef<(from: number, to: number) => void>(() => undefined);
  const from = error === null ? null : (error.offset ?? (error.path === null ? null : jsonPlace(text, error.path)));
  const lineEnd = from === null ? -1 : text.indexOf('\n', from);
  const wrong = error === null || from === null ? null : { from, to: lineEnd < 0 ? text.length : lineEnd, message: error.message };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, borderLeft: 1, borderColor: 'divider', bgcolor: 'kit.sheet' }}>
      <Box sx={{ px: 3, py: 1.5, display: 'flex', alignItems: 'center', gap: 2, fontSize: 12, color: 'text.secondary', minHeight: 44 }}>
        <span style={{ flex: 1 }}>The same as JSON</span>
        {wrong !== null && (
          <Button color="error" onClick={() => goTo.current(wrong.from, wrong.to)} sx={{ py: 0.25 }}>
            Go to line {lineOf(text, wrong.from)}
          </Button>
        )}
      </Box>
      <CodeEditor
        label="The rulebook as JSON"
        language="json"
        text={text}
        wrong={wrong}
        onChange={onChange}
        goTo={goTo}
        sx={{ flex: 1, minHeight: 0, overflow: 'hidden', borderTop: 1, borderColor: 'divider' }}
      />
    </Box>
  );
}
