'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useEffect, useMemo, useRef, useState } from 'react';
import { callOf, type Clip, type Part } from '@itchkit/core/document';
import { invertMatrix, restWorlds, transformPoint } from '@itchkit/core/geometry';
import { followPath, writeRecording, type SpeedProfile } from '@itchkit/core/motion';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useSetSlice, useSetUi, useUi } from '../../session/context';
import { whereInClip } from '../../strip/playing';
import { RecordChart } from './RecordChart';
import { useRecorder } from './use-recorder';

const PROFILES: [SpeedProfile, string][] = [
  ['even', 'one speed all the way'],
  ['ease-both', 'picks up and slows down'],
  ['ease-in', 'picks up'],
  ['ease-out', 'slows down'],
];

/** A way through points that are placed on the bench. */
export function PathSection({ clip, part }: { clip: Clip; part: Part }) {
  const kit = useKit();
  const { session, ui } = useOpenKit();
  const setMotion = useSetSlice('motion');
  const path = useUi((state) => state.motion.path);
  const [closed, setClosed] = useState(false);
  const [facing, setFacing] = useState(true);
  const [profile, setProfile] = useState<SpeedProfile>('ease-both');
  const [bank, setBank] = useState(0);
  const [seconds, setSeconds] = useState<number | null>(null);
  const start = whereInClip(session, ui)?.time ?? 0;
  const long = seconds ?? Math.max(0.5, clip.lengthSeconds - start);
  const latest = useRef(setMotion);
  useEffect(() => () => latest.current({ path: null }), []);
  const call = () => {
    if (!path || path.length < 2) return null;
    const parent = part.parent === null ? null : invertMatrix(restWorlds(kit).get(part.parent)!);
    const points = path.map((point) => (parent ? transformPoint(parent, point) : point));
    return callOf(followPath, {
      clip: clip.id,
      part: part.id,
      points,
      closed,
      from: start,
      to: start + long,
      profile,
      facing,
      bankDegrees: bank,
      metres: 0.001,
      degrees: 0.25,
    });
  };
  return (
    <Fold title="Path" passing aside={path ? `${path.length} points` : undefined}>
      <Buttons>
        {path === null ? (
          <Button variant="outlined" onClick={() => setMotion({ path: [] })}>
            Place points on the bench
          </Button>
        ) : (
          <>
            <Button variant="outlined" disabled={path.length === 0} onClick={() => setMotion({ path: path.slice(0, -1) })}>
              Take the last one back
            </Button>
            <Button variant="outlined" onClick={() => setMotion({ path: null })}>
              Let them go
            </Button>
          </>
        )}
      </Buttons>
      <Choice label="Speed" value={profile} options={PROFILES} onChange={setProfile} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
        <NumberField
          label="Takes"
          unit="s"
          step={0.5}
          min={0.05}
          max={3600}
          value={long}
          onCommit={setSeconds}
          hint={`from ${start.toFixed(2)} s`}
        />
        <NumberField label="Leans" unit="°" step={5} min={0} max={90} value={bank} onCommit={setBank} hint="in the sharpest turn" />
      </Box>
      <Box>
        <FormControlLabel
          control={<Checkbox size="small" checked={facing} onChange={(event) => setFacing(event.target.checked)} />}
          label="Looks along the path"
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={closed} onChange={(event) => setClosed(event.target.checked)} />}
          label="Back to the first point"
        />
      </Box>
      <TryButton variant="contained" disabled={!path || path.length < 2} calls={call} onDone={() => setMotion({ path: null })}>
        Send it along {path?.length ?? 0} points
      </TryButton>
    </Fold>
  );
}

/** A part dragged while time runs. */
export function RecordSection({ clip, part }: { clip: Clip; part: Part }) {
  const setUi = useSetUi();
  const { recorded, begin, drop, running } = useRecorder(clip, part);
  const [smooth, setSmooth] = useState(0.05);
  const [within, setWithin] = useState(5);
  const gizmo = useUi((state) => state.gizmo);
  const written = useMemo(
    () =>
      recorded &&
      callOf(writeRecording, {
        clip: clip.id,
        part: part.id,
        property: recorded.property,
        times: recorded.times,
        values: recorded.values,
        smoothSeconds: smooth,
        metres: within / 1000,
        degrees: within / 10,
      }),
    [clip.id, part.id, recorded, smooth, within],
  );
  return (
    <Fold title="Record" passing>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        Drag the part on the bench by its {gizmo === 'turn' ? 'rings' : 'arrows'} while time runs; let go, and smooth and thin what was
        recorded before it is written.
      </Box>
      <Buttons>
        <Button
          variant="outlined"
          disabled={running !== 'off'}
          onClick={() => (gizmo === null || gizmo === 'size' ? setUi({ gizmo: 'move' }) : undefined, begin())}
        >
          {recorded ? 'Record again' : 'Record'}
        </Button>
        {(recorded ?? running !== 'off') && (
          <Button variant="outlined" onClick={drop}>
            Let it go
          </Button>
        )}
      </Buttons>
      {recorded && written && (
        <>
          <RecordChart clip={clip} part={part.id} recorded={recorded} call={written} />
          <Box data-testid="recorded" sx={{ fontSize: 12.5 }}>
            {recorded.times.length} places in {(recorded.times[recorded.times.length - 1] - recorded.times[0]).toFixed(2)} s
          </Box>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            <NumberField label="Smooth over" unit="s" step={0.01} min={0} max={2} value={smooth} onCommit={setSmooth} />
            <NumberField
              label="Thin within"
              unit={recorded.property === 'offset' ? 'mm' : '0.1°'}
              step={1}
              min={0.1}
              max={1000}
              value={within}
              onCommit={setWithin}
            />
          </Box>
          <TryButton variant="contained" calls={() => written} onDone={drop}>
            Write it into the clip
          </TryButton>
        </>
      )}
    </Fold>
  );
}
