'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { enqueueSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { callOf } from '@itchkit/core/document';
import type { Order } from '@itchkit/core/trial';
import { setDuty } from '@itchkit/core/wiring';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { beginRecord, dutyOfRecord, type Worked } from './duty-record';

interface RecordProps {
  worked: readonly Worked[];
  orders: readonly Order[];
  onWritten(name: string): void;
}

/** Writes a duty down while the levers are worked. */
export function RecordButton({ worked, orders, onWritten }: RecordProps) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const going = useRef<ReturnType<typeof beginRecord> | null>(null);
  const [writing, setWriting] = useState(false);
  useEffect(() => () => void going.current?.(), []);
  const toggle = () => {
    if (!going.current) {
      going.current = beginRecord(ui, worked, () => performance.now());
      setWriting(true);
      return;
    }
    const recorded = going.current();
    going.current = null;
    setWriting(false);
    const duty = dutyOfRecord(recorded, orders, kit);
    if (!duty) enqueueSnackbar('No lever was worked, so there is nothing to write down.');
    else if (run(callOf(setDuty, { duty }))) onWritten(duty.name);
  };
  return (
    <>
      <Button variant={writing ? 'contained' : 'outlined'} onClick={toggle}>
        {writing ? 'Keep it as a duty' : 'Write a duty by working the levers'}
      </Button>
      {writing && (
        <Box role="status" sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          Everything that is done with levers is written down.
        </Box>
      )}
    </>
  );
}
