'use client';
import Box from '@mui/material/Box';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { wiringDefinition } from '@itchkit/core/ship';
import type { Rulebook } from '@itchkit/core/rulebook';
import { useKit, useSetUi } from '../../session/context';
import { Toggles } from '../../panels/Toggles';

const CodeEditor = dynamic(() => import('../../panels/CodeEditor'), { ssr: false, loading: () => null });

/** What the package will say of the wiring, as text; the line that is gone to chooses its part on the bench. */
export function Definition({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const setUi = useSetUi();
  const files = useMemo(() => wiringDefinition(kit, rulebook), [kit, rulebook]);
  const [asked, setAsked] = useState<string | null>(null);
  const file = files.find(({ path }) => path === asked) ?? files[0];
  if (!file) return null;
  const show = (line: number) => {
    const part = file.parts[line - 1];
    if (!part || !kit.parts[part]) return;
    const binding = Object.values(kit.bindings).find((one) => one.part === part);
    setUi({ selection: [part], held: null, ...(binding ? { binding: binding.id } : {}) });
  };
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      <Toggles
        label="File of the package"
        value={file.path}
        options={files.map(({ path }) => [path, path] as const)}
        onChange={setAsked}
        sx={{ px: 2.5, py: 0.5 }}
      />
      <CodeEditor
        key={file.path}
        label={`${file.path} as it will be written`}
        language="table"
        wraps={false}
        text={file.text.replaceAll('\r\n', '\n').trimEnd()}
        onLine={show}
        sx={{ flex: 1, minHeight: 0, overflow: 'hidden', borderTop: 1, borderColor: 'divider' }}
      />
    </Box>
  );
}
