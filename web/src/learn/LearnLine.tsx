'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Paper from '@mui/material/Paper';
import Popper from '@mui/material/Popper';
import { useQuery } from '@tanstack/react-query';
import NextLink from 'next/link';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { STAGE_TITLES, type Stage } from '@itchkit/core/rulebook';
import { api } from '../api';
import { useOpenKit, useSession } from '../session/context';
import { learning, onLearning, setLearning } from './learning';
import { currentTask, TASKS } from './tasks';

/** How often the place of a task is looked for, ms: it comes and goes with what is open. */
const LOOK = 400;

/** The task that is next while somebody learns by this kit, told where it is done. */
export function LearnLine({ stage }: { stage: Stage }) {
  const { session } = useOpenKit();
  const learns = useSyncExternalStore(onLearning, learning, () => null);
  return learns?.kit === session.id && learns.on ? <Line stage={stage} /> : null;
}

function Line({ stage }: { stage: Stage }) {
  const { session } = useOpenKit();
  const kit = useSession((state) => state.kit);
  const findings = useSession((state) => state.findings);
  const checked = useSession((state) => state.checked);
  const { data: packages } = useQuery({ queryKey: ['packages', session.id], queryFn: () => api.listPackages(session.id) });
  const next = useMemo(
    () => (checked ? currentTask({ kit, findings, blobs: session.blobs, packages: packages?.length ?? 0 }) : null),
    [checked, kit, findings, packages, session],
  );
  // What is owed is known once the checks have run: until then the line stays as it is.
  const [index, setIndex] = useState(next ?? 0);
  if (next !== null && next !== index) setIndex(next);
  const task = TASKS[index] as (typeof TASKS)[number] | undefined;
  const here = task?.stage === stage;
  const place = usePlace(!task || here ? (task?.at ?? 'main') : `nav[aria-label="Stages"] a[href$="/${task.stage}"]`);
  const leave = () => setLearning({ kit: session.id, on: false });
  if (!place) return null;
  return (
    <Popper
      open
      anchorEl={place}
      placement={task ? 'auto' : 'top'}
      sx={{ zIndex: 1100 }}
      modifiers={[{ name: 'offset', options: { offset: [0, 8] } }]}
    >
      <Paper
        role="status"
        aria-label="Learn by mending the crane"
        elevation={4}
        sx={{ maxWidth: 330, p: 2.5, fontSize: 13, lineHeight: 1.45, borderLeft: 4, borderColor: 'kit.signal', bgcolor: 'kit.card' }}
      >
        <Box sx={{ fontSize: 12, fontWeight: 600, color: 'text.secondary', mb: 0.5 }}>
          {task ? `Task ${index + 1} of ${TASKS.length}` : 'All seven tasks are done'}
        </Box>
        {task
          ? task.line
          : 'The crane’s package is built, and the platform takes it. Your own model goes the same way: drop it on the shelf.'}
        <Box sx={{ display: 'flex', gap: 1, mt: 1, ml: -1 }}>
          {task && !here && (
            <Button size="small" component={NextLink} href={`/kits/${session.id}/${task.stage}`}>
              Go to {STAGE_TITLES[task.stage]}
            </Button>
          )}
          {task ? (
            <Button size="small" color="inherit" onClick={leave}>
              Leave it for now
            </Button>
          ) : (
            <Button size="small" onClick={() => setLearning(null)}>
              Done
            </Button>
          )}
        </Box>
      </Paper>
    </Popper>
  );
}

/** The first element that a selector finds, looked for again and again. */
function usePlace(selector: string): Element | null {
  const [place, setPlace] = useState<Element | null>(null);
  useEffect(() => {
    const look = () =>
      setPlace(
        selector.split(', ').reduce<Element | null>((found, one) => found ?? document.querySelector(one), null) ??
          document.querySelector('main'),
      );
    look();
    const timer = setInterval(look, LOOK);
    return () => clearInterval(timer);
  }, [selector]);
  return place;
}
