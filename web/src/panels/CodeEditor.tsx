'use client';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics } from '@codemirror/lint';
import { Annotation, EditorState } from '@codemirror/state';
import { placeholder } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import Box from '@mui/material/Box';
import type { SxProps } from '@mui/material/styles';
import { basicSetup, EditorView, minimalSetup } from 'codemirror';
import { useEffect, useImperativeHandle, useRef } from 'react';
import { FONT } from '../theme/tokens';
import type { CodeEditorProps } from './code-editor-props';
import { languageOf } from './code-languages';

/** Colours are those of the scheme, day or night. */
const colour = (name: string) => `var(--mui-palette-kit-${name})`;
const seaOf = (share: number) => `color-mix(in srgb, ${colour('sea')} ${share}%, transparent)`;

const THEME = EditorView.theme({
  '&': { height: '100%', fontSize: '12px', backgroundColor: colour('card'), color: colour('ink') },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: FONT.figures, lineHeight: '18px' },
  '.cm-content': { caretColor: colour('ink') },
  '.cm-gutters': { backgroundColor: colour('sheet'), color: colour('inkSoft'), borderRight: `1px solid ${colour('line')}` },
  '.cm-activeLine': { backgroundColor: seaOf(8) },
  '.cm-activeLineGutter': { backgroundColor: seaOf(14) },
  '.cm-cursor': { borderLeftColor: colour('ink') },
  '&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground': { backgroundColor: seaOf(26) },
  '.cm-panels, .cm-tooltip': { backgroundColor: colour('sheet'), color: colour('ink'), border: `1px solid ${colour('line')}` },
  '.cm-foldPlaceholder': { backgroundColor: colour('paper'), border: `1px solid ${colour('line')}`, color: colour('inkSoft') },
  '.cm-placeholder': { color: colour('inkSoft') },
});

const HIGHLIGHT = HighlightStyle.define([
  { tag: tags.propertyName, color: colour('sea') },
  { tag: tags.string, color: colour('good') },
  { tag: [tags.number, tags.bool, tags.null], color: colour('signal') },
  { tag: tags.keyword, color: colour('good') },
  { tag: [tags.punctuation, tags.comment], color: colour('inkSoft') },
]);

/** What came from outside is told to nobody again. */
const fromOutside = Annotation.define<boolean>();

/** A text that is typed or looked at: with marks where something is wrong, search, undo of its own, and lines that fold. */
export default function CodeEditor(props: CodeEditorProps) {
  const { label, text, language, wrong = null, goTo, sx, focused = false } = props;
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });
  useEffect(() => {
    const { onChange, small = false, hint = '', wraps = true } = latest.current;
    const made = new EditorView({
      parent: holder.current!,
      doc: latest.current.text,
      extensions: [
        small ? minimalSetup : basicSetup,
        languageOf(language),
        small ? [] : lintGutter(),
        onChange ? [] : [EditorState.readOnly.of(true)],
        hint ? placeholder(hint) : [],
        wraps ? EditorView.lineWrapping : [],
        THEME,
        syntaxHighlighting(HIGHLIGHT),
        EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false', tabindex: '0' }),
        EditorView.updateListener.of(({ docChanged, selectionSet, transactions, state }) => {
          if (transactions.some((one) => one.annotation(fromOutside))) return;
          if (docChanged) latest.current.onChange?.(state.doc.toString());
          if (selectionSet) latest.current.onLine?.(state.doc.lineAt(state.selection.main.head).number);
        }),
      ],
    });
    view.current = made;
    if (focused) made.focus();
    return () => {
      made.destroy();
      view.current = null;
    };
  }, [label, language, focused]);
  useEffect(() => {
    const { current } = view;
    if (!current || current.state.doc.toString() === text) return;
    current.dispatch({ changes: { from: 0, to: current.state.doc.length, insert: text }, annotations: fromOutside.of(true) });
  }, [text]);
  useEffect(() => {
    const { current } = view;
    if (!current) return;
    const end = current.state.doc.length;
    const marks = wrong ? [{ ...wrong, from: Math.min(wrong.from, end), to: Math.min(wrong.to, end), severity: 'error' as const }] : [];
    current.dispatch(setDiagnostics(current.state, marks));
  }, [wrong?.from, wrong?.to, wrong?.message, text, wrong]);
  useImperativeHandle(goTo, () => (from: number, to: number) => {
    const { current } = view;
    if (!current) return;
    const end = current.state.doc.length;
    current.dispatch({ selection: { anchor: Math.min(from, end), head: Math.min(to, end) }, scrollIntoView: true });
    current.focus();
  });
  return <Box ref={holder} sx={sx as SxProps} />;
}
