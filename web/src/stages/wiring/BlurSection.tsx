'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Id } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { Choice } from '../../card/Choice';
import { OwnAxisChoice } from '../../card/OwnAxisChoice';
import { leverStep } from '../../card/Lever';
import { NumberField } from '../../card/NumberField';
import { Buttons } from '../../panels/Fold';
import { useKit, useRun } from '../../session/context';
import { blurCall, proposedBlur } from './switch-proposal';

/** What a part is shown as while it spins fast: its outline turned round, as see-through as it is thin. */
export function BlurSection({ part, rulebook }: { part: Id; rulebook: Rulebook }) {
  const kit = useKit();
  const run = useRun();
  const [blur, setBlur] = useState(() => proposedBlur(kit, part, rulebook));
  const variable = rulebook.variables.find(({ name }) => name === blur.variable)!;
  const set = (change: Partial<typeof blur>) => setBlur({ ...blur, ...change });
  return (
    <Box role="group" aria-label="While it spins fast" sx={{ display: 'grid', gap: 1.5, pt: 1.5, borderTop: 1, borderColor: 'divider' }}>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 }}>
        While it spins fast another part can be shown in its place: what it sweeps, as see-through as it is thin, with its colours averaged
        round the axis.
      </Box>
      <OwnAxisChoice part={part} value={blur.axis} onChange={(axis) => set({ axis })} />
      <Choice
        label="Speed"
        value={blur.variable}
        options={rulebook.variables.map(({ name }) => [name, name] as const)}
        onChange={(name) => set({ variable: name })}
      />
      {variable.indices > 0 && (
        <Choice
          label="Index of the speed"
          value={Math.min(blur.index, variable.indices - 1)}
          options={Array.from({ length: variable.indices }, (_, i) => [i, String(i)] as const)}
          onChange={(index) => set({ index })}
        />
      )}
      <NumberField
        label="Blurred from"
        caption="from"
        unit={variable.unit}
        step={leverStep(variable)}
        value={blur.from}
        onCommit={(from) => set({ from })}
      />
      <Buttons>
        <Button variant="outlined" onClick={() => run(blurCall(kit, part, blur, rulebook))}>
          Make a blurred stand-in
        </Button>
      </Buttons>
    </Box>
  );
}
