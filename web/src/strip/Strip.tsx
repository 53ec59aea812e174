'use client';
import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Clip, Kit } from '@itchkit/core/document';
import { proposedOnce } from '../session/proposed';
import { Empty } from '../panels/Section';
import { useKit, useOpenKit, useUi } from '../session/context';
import { CueLine } from './CueLine';
import { CurveView } from './CurveView';
import { PartRow } from './PartRow';
import { Playhead } from './Playhead';
import { Ruler } from './Ruler';
import { rowsOf, type Row } from './rows';
import { SeamMark } from './SeamMark';
import { StripBar } from './StripBar';
import { TrackRow } from './TrackRow';
import { TimeScaleProvider } from './time-scale';
import { useBoxChoice } from './use-box-choice';

const LABELS = 196;
const ROW = 26;
const MARGIN = 18;
const RULER = 34;
/** Rows drawn above and below what is in view. */
const SPARE = 4;

/** The time ruler with its rows of keys. */
export function Strip() {
  const kit = useKit();
  const clip = useUi((state) => (state.clip === null ? undefined : kit.clips[state.clip]));
  if (!clip)
    return (
      <Box sx={{ height: '100%', bgcolor: 'kit.sheet' }}>
        <Empty>There is no clip open. Add clip makes one, or choose one in the Card; its keys stand here.</Empty>
      </Box>
    );
  return <ClipStrip key={clip.id} clip={clip} />;
}

function ClipStrip({ clip }: { clip: Clip }) {
  const { session } = useOpenKit();
  const kit = useKit();
  const proposal = useUi((state) => state.proposal);
  const tried: Kit | null = useMemo(() => (proposal ? proposedOnce(kit, proposal, session.blobs).kit : null), [kit, proposal, session]);
  const { curves } = useUi((state) => state.strip);
  const holder = useRef<HTMLDivElement>(null);
  const [view, setView] = useState({ width: 600, height: 200, left: 0, top: 0 });
  const [zoom, setZoom] = useState(1);
  useEffect(() => {
    const own = holder.current!;
    const look = () => setView({ width: own.clientWidth, height: own.clientHeight, left: own.scrollLeft, top: own.scrollTop });
    const observer = new ResizeObserver(look);
    observer.observe(own);
    own.addEventListener('scroll', look, { passive: true });
    return () => {
      observer.disconnect();
      own.removeEventListener('scroll', look);
    };
  }, []);
  const span = Math.max(80, (view.width - LABELS - 2 * MARGIN) * zoom);

  return (
    <Box component="section" aria-label="Strip" sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: 'kit.sheet' }}>
      <StripBar clip={clip} />
      <Box
        ref={holder}
        data-testid="strip-rows"
        tabIndex={0}
        role="group"
        aria-label="Rows of keys"
        sx={{ flex: 1, minHeight: 0, overflow: 'auto', position: 'relative' }}
        onWheel={(event) => event.ctrlKey && setZoom((before) => Math.min(200, Math.max(1, before * (event.deltaY < 0 ? 1.2 : 1 / 1.2))))}
      >
        <TimeScaleProvider clip={clip} span={span} margin={MARGIN} labels={LABELS} scrolled={view.left} width={view.width}>
          <Box sx={{ position: 'relative', width: LABELS + span + 2 * MARGIN, minHeight: '100%' }}>
            <Ruler clip={clip} zoom={zoom} onZoom={setZoom} />
            <CueLine clip={clip} />
            {curves ? (
              <CurveView clip={clip} tried={tried?.clips[clip.id] ?? null} height={Math.max(120, view.height - RULER - 26)} />
            ) : (
              <Rows clip={clip} tried={tried?.clips[clip.id] ?? null} top={view.top} height={view.height} />
            )}
            <SeamMark clip={clip} />
            <Playhead />
          </Box>
        </TimeScaleProvider>
      </Box>
    </Box>
  );
}

/** The rows that are in view; a box drawn over them chooses keys. */
function Rows({ clip, tried, top, height }: { clip: Clip; tried: Clip | null; top: number; height: number }) {
  const kit = useKit();
  const selection = useUi((state) => state.selection);
  const { rows: which, property, folded } = useUi((state) => state.strip);
  const rows = useMemo(
    () => rowsOf(kit, clip, { rows: which, property, folded, selection }),
    [kit, clip, which, property, folded, selection],
  );
  const first = Math.max(0, Math.floor((top - RULER) / ROW) - SPARE);
  const last = Math.min(rows.length, Math.ceil((top + height) / ROW) + SPARE);
  const { box, ...pointer } = useBoxChoice(rows, ROW, clip);
  if (rows.length === 0)
    return clip.tracks.length === 0 ? (
      <Empty>This clip has no keys yet. Choose a part, then type a value in the Card, drag it on the bench, or press K.</Empty>
    ) : (
      <Empty>The filters above leave no row: {clip.tracks.length} tracks are hidden.</Empty>
    );
  const ghostOf = (row: Row) => (row.kind === 'track' && tried ? (tried.tracks.find(({ id }) => id === row.track.id) ?? null) : null);
  return (
    <Box {...pointer} data-testid="rows" sx={{ position: 'relative', height: rows.length * ROW, touchAction: 'none' }}>
      {rows.slice(first, last).map((row, i) => (
        <Box
          key={row.kind === 'part' ? row.part.id : row.track.id}
          sx={{ position: 'absolute', top: (first + i) * ROW, left: 0, right: 0 }}
        >
          {row.kind === 'part' ? (
            <PartRow part={row.part} tracks={row.tracks} folded={row.folded} height={ROW} />
          ) : (
            <TrackRow clip={clip} track={row.track} height={ROW} ghost={ghostOf(row) === row.track ? null : ghostOf(row)} />
          )}
        </Box>
      ))}
      {box && (
        <Box
          data-testid="box"
          sx={{
            position: 'absolute',
            ...box,
            border: 1,
            borderColor: 'kit.signal',
            bgcolor: 'kit.signal',
            opacity: 0.15,
            pointerEvents: 'none',
            zIndex: 3,
          }}
        />
      )}
    </Box>
  );
}
