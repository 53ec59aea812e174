'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, useRef, useState } from 'react';
import { callOf, KitError, type Clip, type Id, type Kit } from '@itchkit/core/document';
import { closeLoop, mendSeam, stayInPlace, trimClip, wayOf } from '@itchkit/core/motion';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useSetSlice, useSetUi, useUi } from '../../session/context';
import { MotionJob } from './motion-job';
import { CancelledError } from '../rig/rig-job';
import type { LoopsFound } from './motion.worker';
import { playOpenClip } from '../../strip/playing';
import { useSeam } from '../../strip/seam';
import { JobProgress } from '../rig/JobProgress';
import { LoopMap } from './LoopMap';

/** Parts that move in a clip, or hang below one that does; the topmost of them is the root. */
function movingParts(kit: Kit, clip: Clip): { parts: Id[]; root: Id | null } {
  const tracked = new Set(clip.tracks.map(({ part }) => part));
  const moving = Object.values(kit.parts).filter((part) => {
    for (let at: Id | null = part.id; at !== null; at = kit.parts[at].parent) if (tracked.has(at)) return true;
    return false;
  });
  const joints = moving.filter(({ role }) => role === 'joint');
  const parts = (joints.length > 3 ? joints : moving).map(({ id }) => id).slice(0, 200);
  const top = clip.tracks.find(
    ({ part, property }) => property === 'offset' && (kit.parts[part].parent === null || !tracked.has(kit.parts[part].parent)),
  );
  return { parts, root: top && joints.length > 3 ? top.part : null };
}

/** Where a clip would loop: a map of how near its poses are to one another, the best pairs, the seam of each; and the seam as it is. */
export function LoopSection({ clip }: { clip: Clip }) {
  const kit = useKit();
  const { session, ui } = useOpenKit();
  const setUi = useSetUi();
  const setStrip = useSetSlice('strip');
  const { enqueueSnackbar } = useSnackbar();
  const range = useUi((state) => state.strip.range);
  const job = useRef<MotionJob | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [found, setFound] = useState<{ clip: Clip; from: number; to: number; loops: LoopsFound } | null>(null);
  const [chosen, setChosen] = useState(0);
  useEffect(() => () => job.current?.cancel(), []);
  const { parts, root } = useMemo(() => movingParts(kit, clip), [kit, clip]);
  const seam = useSeam(clip);
  const way = useMemo(() => wayOf(kit, clip, session.blobs), [kit, clip, session]);
  const current = found?.clip === clip ? found : null;
  const pair = current?.loops.pairs[chosen];
  const look = async () => {
    const [from, to] = range ?? [0, clip.lengthSeconds];
    const own = (job.current = new MotionJob());
    setShare(0);
    try {
      const loops = await own.loops(
        session.shown,
        session.blobs,
        { clip: clip.id, from, to, rate: Math.min(clip.rate, 2000 / (to - from)), parts, root },
        setShare,
      );
      setFound({ clip, from, to, loops });
      setChosen(0);
    } catch (error) {
      if (error instanceof KitError) enqueueSnackbar(error.message, { variant: 'error' });
      else if (!(error instanceof CancelledError))
        enqueueSnackbar('The search broke off; the clip is as it was. Try it again.', { variant: 'error' });
    } finally {
      setShare(null);
    }
  };
  const show = (index: number) => {
    setChosen(index);
    const one = current!.loops.pairs[index];
    setStrip({ range: [one.fromSeconds, one.toSeconds] });
    setUi({ time: one.fromSeconds });
    // It is seen going round.
    if (!ui.getState().playing) playOpenClip(session, ui);
  };
  return (
    <Fold title="Loop" aside={seam ? `seam ${seam.millimetres.toFixed(1)} mm` : undefined}>
      {seam && (
        <Box data-testid="seam-figure" sx={{ fontSize: 12.5, color: seam.millimetres > 1 ? 'kit.stop' : 'text.secondary' }}>
          {seam.part === null || seam.millimetres < 0.05
            ? `End and start meet; the speed changes by ${seam.speed.toFixed(0)} mm/s.`
            : `At the seam “${kit.parts[seam.part]?.name}” jumps by ${seam.millimetres.toFixed(1)} mm, and the speed changes by ${seam.speed.toFixed(0)} mm/s.`}
        </Box>
      )}
      <Buttons>
        <TryButton calls={() => callOf(closeLoop, { clip: clip.id })}>Close the loop</TryButton>
        <TryButton calls={() => callOf(mendSeam, { clip: clip.id, by: 'fade', seconds: Math.min(0.3, clip.lengthSeconds / 4) })}>
          Fade the seam
        </TryButton>
        {way && (
          <TryButton calls={() => callOf(stayInPlace, { clip: clip.id, part: way.part })}>
            Keep “{kit.parts[way.part].name}” in place ({way.metres.toFixed(2)} m)
          </TryButton>
        )}
      </Buttons>
      {share !== null ? (
        <JobProgress label="Comparing poses" share={share} onCancel={() => job.current?.cancel()} />
      ) : (
        <Button variant="outlined" disabled={parts.length === 0} onClick={() => void look()}>
          Find loops {range ? 'in the stretch' : 'in the clip'}
        </Button>
      )}
      {current && current.loops.pairs.length === 0 && (
        <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          No two poses that lie half a second apart are nearest to one another. Search a longer stretch.
        </Box>
      )}
      {current && current.loops.pairs.length > 0 && (
        <>
          <LoopMap found={current.loops} from={current.from} to={current.to} chosen={chosen} onChoose={show} />
          <Box role="list" aria-label="Loops found">
            {current.loops.pairs.slice(0, 8).map((one, i) => (
              <Box
                key={i}
                role="listitem"
                sx={{ display: 'flex', borderLeft: 3, borderColor: i === chosen ? 'kit.signal' : 'transparent', pl: 1 }}
              >
                <Box
                  component="button"
                  onClick={() => show(i)}
                  sx={{
                    flex: 1,
                    font: 'inherit',
                    fontSize: 12.5,
                    textAlign: 'left',
                    border: 0,
                    bgcolor: 'transparent',
                    color: 'text.primary',
                    py: 0.5,
                    cursor: 'pointer',
                  }}
                >
                  {one.fromSeconds.toFixed(2)} to {one.toSeconds.toFixed(2)} s, {(one.toSeconds - one.fromSeconds).toFixed(2)} s long; seam{' '}
                  {one.seam.millimetres.toFixed(1)} mm, {one.seam.speed.toFixed(0)} mm/s
                </Box>
              </Box>
            ))}
          </Box>
          {pair && (
            <TryButton
              variant="contained"
              step="Trim to a loop and mend its seam"
              calls={() => [
                callOf(trimClip, { clip: clip.id, from: pair.fromSeconds, to: pair.toSeconds }),
                callOf(mendSeam, { clip: clip.id, by: 'spread', seconds: Math.min(0.25, (pair.toSeconds - pair.fromSeconds) / 4) }),
              ]}
              onDone={() => setStrip({ range: null })}
            >
              Trim to it and mend the seam
            </TryButton>
          )}
        </>
      )}
    </Fold>
  );
}
