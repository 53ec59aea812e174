'use client';
import { json } from '@codemirror/lang-json';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { Annotation } from '@codemirror/state';
import { tags } from '@lezer/highlight';
import Box from '@mui/material/Box';
import { basicSetup, EditorView } from 'codemirror';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import { FONT } from '../theme/tokens';

/** Something that is wrong at a place of the text: characters from 0. */
export interface Wrong {
  from: number;
  to: number;
  message: string;
}

interface JsonEditorProps {
  label: string;
  text: string;
  wrong: Wrong | null;
  onChange: (text: string) => void;
  /** Gives whoever holds it a way to a place of the text. */
  goTo?: Ref<(from: number, to: number) => void>;
}

/** Colours are those of the scheme, day or night. */
const colour = (name: string) => `var(--mui-palette-kit-${name})`;

const THEME = EditorView.theme({
  '&': { height: '100%', fontSize: '12px', backgroundColor: colour('card'), color: colour('ink') },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: FONT.figures, lineHeight: '18px' },
  '.cm-content': { caretColor: colour('ink') },
  '.cm-gutters': { backgroundColor: colour('sheet'), color: colour('inkSoft'), borderRight: `1px solid ${colour('line')}` },
  '.cm-activeLine': { backgroundColor: `color-mix(in srgb, ${colour('sea')} 8%, transparent)` },
  '.cm-activeLineGutter': { backgroundColor: `color-mix(in srgb, ${colour('sea')} 14%, transparent)` },
  '.cm-cursor': { borderLeftColor: colour('ink') },
  '&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: `color-mix(in srgb, ${colour('sea')} 26%, transparent)`,
  },
  '.cm-panels, .cm-tooltip': { backgroundColor: colour('sheet'), color: colour('ink'), border: `1px solid ${colour('line')}` },
  '.cm-foldPlaceholder': { backgroundColor: colour('paper'), border: `1px solid ${colour('line')}`, color: colour('inkSoft') },
});

const HIGHLIGHT = HighlightStyle.define([
  { tag: tags.propertyName, color: colour('sea') },
  { tag: tags.string, color: colour('good') },
  { tag: [tags.number, tags.bool, tags.null], color: colour('signal') },
  { tag: tags.punctuation, color: colour('inkSoft') },
]);

/** Text that came from outside is told to nobody again. */
const fromOutside = Annotation.define<boolean>();

/** JSON as text: with lines that fold, marks where something is wrong, search and undo of its own. */
export function JsonEditor({ label, text, wrong, onChange, goTo }: JsonEditorProps) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const told = useRef(onChange);
  useEffect(() => {
    told.current = onChange;
  });
  const first = useRef(text);
  useEffect(() => {
    const made = new EditorView({
      parent: holder.current!,
      doc: first.current,
      extensions: [
        basicSetup,
        json(),
        lintGutter(),
        THEME,
        syntaxHighlighting(HIGHLIGHT),
        EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false', tabindex: '0' }),
        EditorView.updateListener.of(({ docChanged, transactions, state }) => {
          if (docChanged && !transactions.some((one) => one.annotation(fromOutside))) told.current(state.doc.toString());
        }),
      ],
    });
    view.current = made;
    return () => {
      made.destroy();
      view.current = null;
    };
  }, [label]);
  useEffect(() => {
    const { current } = view;
    if (!current || current.state.doc.toString() === text) return;
    current.dispatch({ changes: { from: 0, to: current.state.doc.length, insert: text }, annotations: fromOutside.of(true) });
  }, [text]);
  useEffect(() => {
    const { current } = view;
    if (!current) return;
    const end = current.state.doc.length;
    const marks: Diagnostic[] = wrong
      ? [{ from: Math.min(wrong.from, end), to: Math.min(wrong.to, end), message: wrong.message, severity: 'error' }]
      : [];
    current.dispatch(setDiagnostics(current.state, marks));
  }, [wrong?.from, wrong?.to, wrong?.message, text, wrong]);
  useImperativeHandle(goTo, () => (from: number, to: number) => {
    const { current } = view;
    if (!current) return;
    const end = current.state.doc.length;
    current.dispatch({ selection: { anchor: Math.min(from, end), head: Math.min(to, end) }, scrollIntoView: true });
    current.focus();
  });
  return <Box ref={holder} sx={{ flex: 1, minHeight: 0, overflow: 'hidden', borderTop: 1, borderColor: 'divider' }} />;
}
