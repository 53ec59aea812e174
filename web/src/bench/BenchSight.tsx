'use client';
import Box from '@mui/material/Box';
import { useState, type KeyboardEvent } from 'react';
import { useKit } from '../session/context';
import { aimKeyOf } from './aim-keys';
import type { BenchView } from './bench-view';

/** Pixels from the left and the top of the bench. */
interface Place {
  x: number;
  y: number;
}

const within = (value: number, most: number) => Math.min(most - 1, Math.max(0, value));

/**
 * The bench by keyboard: a sight that arrows move over it, and that presses, takes hold and lets go as a pointer does there, whatever a
 * stage has the pointer do.
 */
export function BenchSight({ view }: { view: BenchView }) {
  const kit = useKit();
  const [at, setAt] = useState<Place | null>(null);
  const [holds, setHolds] = useState(false);
  const [on, setOn] = useState<string | null>(null);

  const look = (place: Place) => setOn(kit.parts[view.partAt(place) ?? '']?.name ?? null);
  const onFocus = (element: HTMLElement) => {
    const { clientWidth, clientHeight } = element;
    const place = at ? { x: within(at.x, clientWidth), y: within(at.y, clientHeight) } : { x: clientWidth / 2, y: clientHeight / 2 };
    setAt(place);
    look(place);
  };
  const letGo = (keys: Pick<KeyboardEvent, 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>) => {
    if (!at || !holds) return;
    view.aim('release', at, keys);
    setHolds(false);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const key = at && aimKeyOf(event, holds);
    if (!key) return;
    event.preventDefault();
    event.stopPropagation();
    if (key === 'press') {
      view.aim('press', at, event);
      view.aim('release', at, event);
    } else if (key === 'hold') {
      view.aim('press', at, event);
      setHolds(true);
    } else if (key === 'let-go') letGo(event);
    else {
      const { clientWidth, clientHeight } = event.currentTarget;
      const place = { x: within(at.x + key.move[0], clientWidth), y: within(at.y + key.move[1], clientHeight) };
      // What brushes takes away with Alt, which here means a small step.
      view.aim('move', place, NO_KEYS, holds);
      setAt(place);
      look(place);
    }
  };

  return (
    <Box
      data-sight
      data-holds={holds || undefined}
      tabIndex={0}
      role="application"
      aria-roledescription="sight"
      aria-label={`Sight on the bench${on === null ? '' : `, on ${on}`}. Arrows move it, Enter presses there, Space takes hold and lets go.`}
      onFocus={({ currentTarget }) => onFocus(currentTarget)}
      onBlur={() => letGo(NO_KEYS)}
      onKeyDown={onKeyDown}
      sx={{
        position: 'absolute',
        inset: 0,
        pointerEvents: 'none',
        outlineOffset: -3,
        '&:not(:focus-visible) > *': { display: 'none' },
      }}
    >
      {at && <Cross at={at} holds={holds} name={on} />}
    </Box>
  );
}

const NO_KEYS = { shiftKey: false, altKey: false, ctrlKey: false, metaKey: false };

function Cross({ at: { x, y }, holds, name }: { at: Place; holds: boolean; name: string | null }) {
  return (
    <>
      <Box component="svg" aria-hidden sx={{ position: 'absolute', left: x - 16, top: y - 16, width: 32, height: 32, color: 'kit.signal' }}>
        <g fill="none" stroke="currentColor" strokeWidth={holds ? 2.5 : 1.5}>
          <circle cx={16} cy={16} r={holds ? 5 : 8} />
          <path d="M16 0v8M16 24v8M0 16h8M24 16h8" />
        </g>
      </Box>
      {name !== null && (
        <Box
          aria-live="polite"
          sx={{
            position: 'absolute',
            left: x + 14,
            top: y + 12,
            px: 1,
            fontSize: 12,
            bgcolor: 'kit.card',
            border: 1,
            borderColor: 'divider',
          }}
        >
          {name}
        </Box>
      )}
    </>
  );
}
