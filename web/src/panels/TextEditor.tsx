'use client';
import Box from '@mui/material/Box';
import dynamic from 'next/dynamic';
import type { CodeEditorProps } from './code-editor-props';

const CodeEditor = dynamic(() => import('./CodeEditor'), { ssr: false, loading: () => null });

interface TextEditorProps extends CodeEditorProps {
  /** Rows that it shows at least and at most; it grows with its text. */
  rows: [least: number, most: number];
}

/** A field for a text of several lines, with its label above and what is wrong with it, or what it comes to, below. */
export function TextEditor({ rows: [least, most], wrong = null, says, ...props }: TextEditorProps & { says?: string }) {
  return (
    <Box>
      <Box aria-hidden sx={{ fontSize: 12, color: 'text.secondary', mb: 0.5 }}>
        {props.label}
      </Box>
      <Box
        sx={{
          border: 1,
          borderColor: wrong ? 'kit.stop' : 'kit.line',
          borderRadius: 1,
          overflow: 'hidden',
          minHeight: 18 * least + 10,
          '&:focus-within': { borderColor: wrong ? 'kit.stop' : 'kit.sea', outline: '1px solid', outlineColor: 'kit.sea' },
        }}
      >
        <CodeEditor
          {...props}
          wrong={wrong}
          sx={{
            '& .cm-editor': { minHeight: `${18 * least + 8}px`, maxHeight: `${18 * most + 8}px` },
            '& .cm-scroller': { overflow: 'auto', minHeight: `${18 * least + 8}px` },
          }}
        />
      </Box>
      <Box role={wrong ? 'alert' : 'status'} sx={{ fontSize: 12, minHeight: 18, mt: 0.5, color: wrong ? 'kit.stop' : 'text.secondary' }}>
        {wrong?.message ?? says}
      </Box>
    </Box>
  );
}
