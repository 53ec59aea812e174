'use client';
import { useEffect } from 'react';
import type { Call } from '@itchkit/core/document';
import { useSetUi } from '../../session/context';

/** Tries an operation on the bench for as long as the component is there and gives one; beside the kit as it is, if wanted. */
export function useProposal(call: Call | null, compare = false): void {
  const setUi = useSetUi();
  // By its text: a call is made anew at every drawing.
  const text = call === null ? '' : JSON.stringify(call);
  useEffect(() => {
    setUi({ proposal: text === '' ? null : [JSON.parse(text) as Call], compare: text !== '' && compare });
    return () => setUi({ proposal: null, compare: false });
  }, [text, compare, setUi]);
}
