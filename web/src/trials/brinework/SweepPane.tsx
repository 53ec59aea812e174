'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import { useEffect, useRef, useState } from 'react';
import { count } from '@itchkit/core/document';
import { crossingInWords, sweep, type Lever, type Swept } from '@itchkit/core/trial';
import { setSlice, useOpenKit } from '../../session/context';
import type { InTrial } from '../trial-state';

/** Works every lever through its range and lists which parts run into each other, and which stand still. */
export function SweepPane({ loaded, levers }: { loaded: InTrial; levers: readonly Lever[] }) {
  const { ui } = useOpenKit();
  const [done, setDone] = useState<number | null>(null);
  const [swept, setSwept] = useState<{ of: InTrial; found: Swept } | null>(null);
  const running = useRef(0);
  useEffect(() => () => void running.current++, []);
  const start = () => {
    running.current++;
    const own = running.current;
    setSwept(null);
    setDone(0);
    const going = sweep(loaded.kit, loaded.blobs, levers);
    let worked = 0;
    // A lever at a time, so that the page goes on in between.
    const next = () => {
      if (own !== running.current) return;
      const { done: over, value } = going.next();
      if (over) {
        setDone(null);
        setSwept({ of: loaded, found: value });
        return;
      }
      worked++;
      setDone(worked);
      setTimeout(next, 0);
    };
    setTimeout(next, 30);
  };
  const stop = () => {
    running.current++;
    setDone(null);
  };
  const found = swept?.of === loaded ? swept.found : null;
  const nameOf = (id: string) => loaded.kit.parts[id]?.name;
  const show = (key: string, value: number) => {
    const neutral = Object.fromEntries(levers.map((lever) => [lever.key, lever.variable.neutral]));
    setSlice(ui, 'trial', { levers: { ...neutral, [key]: value } });
  };
  return (
    <Box sx={{ p: 2.5, pt: 1, fontSize: 13 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 1.5 }}>
        <Button variant="outlined" onClick={done === null ? start : stop} disabled={levers.length === 0}>
          {done === null ? 'Sweep all levers' : 'Cancel'}
        </Button>
        {done !== null && (
          <Box sx={{ flex: 1, maxWidth: 260 }}>
            <LinearProgress aria-label="Levers swept" variant="determinate" value={(100 * done) / Math.max(1, levers.length)} />
          </Box>
        )}
        <Box role="status" data-swept={found ? 'yes' : 'no'} sx={{ color: 'text.secondary' }}>
          {found === null &&
            done === null &&
            'Each lever through its range, the others at neutral: what runs into what, and what stands still.'}
          {done !== null && `${done} of ${count(levers.length, 'lever')}`}
          {found && `${count(found.crossings.length, 'crossing')}, ${count(found.still.length, 'driven part')} that nothing moves`}
        </Box>
      </Box>
      {found && (
        <Box component="ul" aria-label="Crossings" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 0.5 }}>
          {found.crossings.map((crossing) => (
            <li key={`${crossing.key}${crossing.parts.join()}${crossing.value}`}>
              <Link
                component="button"
                onClick={() => show(crossing.key, crossing.value)}
                sx={{ font: 'inherit', textAlign: 'left', color: 'kit.stop' }}
              >
                {crossingInWords(loaded.kit, crossing, levers.find((lever) => lever.key === crossing.key)!.variable.unit)}
              </Link>
            </li>
          ))}
          {found.still.map((id) => (
            <Box component="li" key={id} sx={{ color: 'kit.warn' }}>
              {nameOf(id)} is driven, and stands still whatever is moved
            </Box>
          ))}
          {found.crossings.length + found.still.length === 0 && (
            <Box component="li">Nothing runs into anything, and every driven part moves.</Box>
          )}
        </Box>
      )}
    </Box>
  );
}
