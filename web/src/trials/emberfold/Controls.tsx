'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useCallback, useState } from 'react';
import type { BehavioursRules } from '@itchkit/core/behaviour';
import type { PoseDelta } from '@itchkit/core/document';
import type { Pose } from '@itchkit/core/geometry';
import { checkScript, turningRoot, type FieldFrame, type ValueScript } from '@itchkit/core/trial';
import { withDerived } from '@itchkit/core/rulebook';
import { Choice } from '../../card/Choice';
import { saveAs } from '../../panels/save-as';
import { setSlice, useOpenKit, useRulebook } from '../../session/context';
import { Group } from '../Group';
import { useTrial, type InTrial } from '../trial-state';
import { BodyMap } from './BodyMap';
import { FieldMap } from './FieldMap';
import { Layers, Taken } from './Layers';
import { Strips } from './Strips';
import { useBody, type LiveBody } from './use-body';
import { useRow } from './use-row';
import { ValueFields } from './ValueFields';
import { Toggles } from '../../panels/Toggles';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.6 };

/** A body on a field, worked by what the game passes in. */
export default function EmberfoldControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const sha = useTrial((state) => state.sha);
  // The package’s own numbers, whatever became of the kit’s since.
  const rules = loaded && rulebook && withDerived(rulebook, loaded.kit.derived).behaviours;
  return rules ? <BodyControls key={sha} loaded={loaded} rules={rules} /> : null;
}

/** Which way a body is turned in the platform's own space: to its left, degrees about its up axis. */
function turnedOn({ manifest: { space } }: InTrial, facing: number): [number, number, number] {
  const turn: [number, number, number] = [0, 0, 0];
  const about = 'xyz'.indexOf(space.up[1]);
  turn[about] = (space.up[0] === '-' ? -1 : 1) * (space.handedness === 'left' ? -1 : 1) * facing;
  return turn;
}

const PACES = [
  [1, 'as it is'],
  [0.5, 'half as fast'],
  [0.2, 'a fifth as fast'],
] as const;

/** What stands below what plays: where it is among all ways, how it was of late, and which ways it went and why. */
const VIEWS = [
  ['map', 'Route map'],
  ['past', 'The last seconds'],
  ['taken', 'Passages'],
] as const;
type View = (typeof VIEWS)[number][0];

function BodyControls({ loaded, rules }: { loaded: InTrial; rules: BehavioursRules }) {
  const { ui } = useOpenKit();
  const playing = useTrial((state) => state.playing);
  const [pace, setPace] = useState(1);
  const [view, setView] = useState<View>('map');
  const others = useTrial((state) => state.row);
  const root = turningRoot(loaded.kit);
  const { each, poses, choice } = useRow(loaded, rules);
  const show = useCallback(
    (pose: Pose, { facing }: FieldFrame) => {
      const delta: PoseDelta = { offset: [0, 0, 0], turn: turnedOn(loaded, facing), size: [1, 1, 1] };
      const held = root && facing !== 0 ? [{ part: root, delta }] : [];
      setSlice(ui, 'trial', { body: { pose }, held, row: poses((degrees) => turnedOn(loaded, degrees)) });
    },
    [loaded, root, ui, poses],
  );
  const live = useBody(loaded, rules, { playing, pace, show, each });
  const { past, values, say } = live;
  // A moment is looked at again until time has gone on.
  const [look, setLook] = useState<{ seconds: number; end: number } | null>(null);
  const end = past[past.length - 1]?.frame.seconds;
  const looked = look !== null && look.end === end ? look.seconds : null;
  const momentAt = (seconds: number) => past.findLast((one) => one.frame.seconds <= seconds + 1e-6) ?? past[0];
  const frame = looked === null ? live.frame : momentAt(looked).frame;
  const goes = rules.parameters.find((rule) => rule.kind === 'number' && rule.moves === 'ahead' && rule.always === undefined);
  const ahead = goes?.kind === 'number' ? { value: Number(values[goes.name]), min: goes.min, max: goes.max } : null;
  const play = () => setSlice(ui, 'trial', { playing: true });
  const column = { minWidth: 0, minHeight: 0, overflowY: 'auto', px: 1, py: 1.5 } as const;
  return (
    <Box
      component="section"
      aria-label="Body"
      sx={{
        height: '100%',
        bgcolor: 'kit.sheet',
        display: 'grid',
        gridTemplateColumns: '206px minmax(150px, 186px) minmax(280px, 1fr)',
        gap: 1,
        px: 1,
      }}
    >
      <Box sx={column}>
        <Box sx={{ display: 'grid', gap: 1, mb: 2 }}>
          <FieldMap
            frame={frame}
            past={past}
            others={others ?? []}
            ahead={ahead}
            onAhead={(value) => {
              say({ [goes!.name]: value });
              play();
            }}
            onTurn={(turning) => {
              live.turn(turning);
              play();
            }}
          />
          <Box role="status" data-testid="body" className="figures" sx={small}>
            {Math.hypot(...frame.place).toFixed(1)} m from its place
            <br />
            {frame.seconds.toFixed(1)} s
          </Box>
        </Box>
        <Group title="Time">
          <Choice label="Time passes" value={pace} options={PACES} onChange={setPace} />
          {choice}
          <Script live={live} rules={rules} name={loaded.kit.name} play={play} />
        </Group>
      </Box>
      <Box sx={column}>
        <Group title="The game passes in">
          <ValueFields
            parameters={rules.parameters}
            values={values}
            say={(change) => {
              say(change);
              play();
            }}
            send={(signal) => {
              live.send(signal);
              play();
            }}
          />
        </Group>
      </Box>
      <Box sx={{ ...column, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        <Layers kit={loaded.kit} frame={frame} />
        <Toggles label="What stands below" value={view} options={VIEWS} onChange={setView} />
        {view === 'map' && <BodyMap kit={loaded.kit} frame={frame} taken={live.body.taken} parameters={rules.parameters} />}
        {view === 'past' && (
          <Strips
            kit={loaded.kit}
            parameters={rules.parameters}
            past={past}
            looked={looked}
            onLook={(seconds) => {
              setSlice(ui, 'trial', { playing: false });
              setLook({ seconds, end });
              const then = momentAt(seconds);
              show(then.pose, then.frame);
            }}
          />
        )}
        {view === 'taken' && <Taken kit={loaded.kit} taken={live.body.taken} told={live.body.told} parameters={rules.parameters} />}
      </Box>
    </Box>
  );
}

/** What was done can be written down and done again. */
function Script({ live, rules, name, play }: { live: LiveBody; rules: BehavioursRules; name: string; play: () => void }) {
  const [kept, setKept] = useState<ValueScript | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      setKept(checkScript(JSON.parse(await file.text()), rules.parameters));
      setFault(null);
    } catch (error) {
      setFault(error instanceof SyntaxError ? `“${file.name}” is no JSON: ${error.message}.` : (error as Error).message);
    }
  };
  const { recording, script } = live;
  return (
    <Box sx={{ display: 'grid', gap: 0.75, justifyItems: 'start', maxWidth: 200 }}>
      <Button size="small" color="inherit" onClick={live.again} disabled={recording}>
        Put it down again
      </Button>
      <Button
        size="small"
        variant="outlined"
        disabled={script !== null}
        onClick={() => {
          if (recording) setKept(live.recorded());
          else {
            live.record();
            play();
          }
        }}
      >
        {recording ? 'Write down no more' : 'Write down what is passed in'}
      </Button>
      <Button size="small" color="inherit" component="label" disabled={recording}>
        Take a script from a file …
        <input hidden type="file" accept=".json,application/json" onChange={(event) => void read(event.target.files?.[0])} />
      </Button>
      {kept && (
        <>
          <Button
            size="small"
            variant="outlined"
            disabled={recording}
            onClick={() => {
              live.playScript(script ? null : kept);
              play();
            }}
          >
            {script ? 'Work it by hand again' : `Play the script, ${kept.seconds.toFixed(1)} s`}
          </Button>
          <Button
            size="small"
            color="inherit"
            onClick={() => saveAs(`${name}.values.json`, new Blob([JSON.stringify(kept, null, 1)], { type: 'application/json' }))}
          >
            Save the script
          </Button>
        </>
      )}
      {fault && (
        <Box role="alert" sx={{ fontSize: 12.5, color: 'kit.stop' }}>
          {fault}
        </Box>
      )}
    </Box>
  );
}
