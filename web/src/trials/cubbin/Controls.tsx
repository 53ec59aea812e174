'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { overlaysOf } from '@itchkit/core/motion';
import type { Rulebook } from '@itchkit/core/rulebook';
import { clipsToAsk, GAITS, type Figure, type Gait } from '@itchkit/core/trial';
import { NumberField } from '../../card/NumberField';
import { useRulebook } from '../../session/context';
import { Group } from '../Group';
import { useTrial, type InTrial } from '../trial-state';
import { gazeInWords, LookPad } from './LookPad';
import { useFigure } from './use-figure';
import { Toggles } from '../../panels/Toggles';

const GAIT_TITLES = { stands: 'Stands', walks: 'Walks', sits: 'Sits' } as const satisfies Record<Gait, string>;
const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.6 };

/** A figure that looks where it is told, stands, walks and sits, and plays what the package has for that. */
export default function CubbinControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const sha = useTrial((state) => state.sha);
  return loaded && rulebook ? <FigureControls key={sha} loaded={loaded} rulebook={rulebook} /> : null;
}

function FigureControls({ loaded, rulebook }: { loaded: InTrial; rulebook: Rulebook }) {
  const { figure, facts, wish, quiet, ask, playOnce, setQuiet, again } = useFigure(loaded, rulebook);
  const { kit } = loaded;
  const played = new Set(Object.values(facts.clips).map((clip) => clip?.id));
  const others = clipsToAsk(kit).filter(({ id }) => !played.has(id));
  const overlays = overlaysOf(kit);
  return (
    <Box
      component="section"
      aria-label="Figure"
      sx={{ height: '100%', overflow: 'auto', bgcolor: 'kit.sheet', display: 'flex', gap: 4, px: 2.5, py: 1.5, alignItems: 'flex-start' }}
    >
      <Box sx={{ display: 'grid', gap: 1.5, flex: 'none' }}>
        <LookPad figure={figure} facts={facts} gaze={wish.gaze} onGaze={(gaze) => ask({ gaze })} />
        <Heard figure={figure} />
      </Box>
      <Group title="Looks">
        <Box sx={{ display: 'grid', gridTemplateColumns: '92px 92px', gap: 1 }}>
          <NumberField
            label="Looks aside"
            caption="aside"
            unit="deg"
            digits={0}
            min={-180}
            max={180}
            value={wish.gaze[0]}
            onCommit={(aside) => ask({ gaze: [aside, wish.gaze[1]] })}
          />
          <NumberField
            label="Looks up"
            caption="up"
            unit="deg"
            digits={0}
            min={-90}
            max={90}
            value={wish.gaze[1]}
            onCommit={(up) => ask({ gaze: [wish.gaze[0], up] })}
          />
        </Box>
        <Stands figure={figure} />
        <Button color="inherit" size="small" onClick={again} sx={{ justifySelf: 'start' }}>
          Put it down again
        </Button>
      </Group>
      <Group title="Does">
        <Toggles
          label="What it does"
          value={wish.gait}
          options={GAITS.map((gait) => [gait, GAIT_TITLES[gait]] as const)}
          onChange={(gait) => ask({ gait })}
        />
        {others.length > 0 && (
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, maxWidth: 220 }}>
            {others.map(({ id, name }) => (
              <Button key={id} size="small" variant="outlined" color="inherit" onClick={() => playOnce(id)}>
                {name}, once
              </Button>
            ))}
          </Box>
        )}
        {overlays.map(({ id, name }) => (
          <FormControlLabel
            key={id}
            control={
              <Checkbox
                size="small"
                checked={!quiet.includes(id)}
                onChange={(_, on) => setQuiet(on ? quiet.filter((one) => one !== id) : [...quiet, id])}
              />
            }
            label={`${name} runs along`}
            sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
          />
        ))}
      </Group>
    </Box>
  );
}

/** How the figure is just now. */
function Stands({ figure: { turn, nod, facing, place } }: { figure: Figure }) {
  return (
    <Box role="status" data-testid="figure" className="figures" sx={small}>
      head {gazeInWords([turn, nod])}
      <br />
      body {gazeInWords([facing, 0])}
      <br />
      {Math.hypot(...place).toFixed(1)} m from its place
    </Box>
  );
}

/** The cues that came last. */
function Heard({ figure: { heard } }: { figure: Figure }) {
  return (
    <Group title="Cues">
      {heard.length === 0 ? (
        <Box sx={small}>None yet: they come as it plays.</Box>
      ) : (
        <Box component="ol" aria-label="Cues" sx={{ ...small, listStyle: 'none', m: 0, p: 0, maxHeight: 84, overflowY: 'auto' }}>
          {[...heard].reverse().map(({ at, kind, name, clip }, i) => (
            <li key={`${at} ${name} ${i}`}>
              <span className="figures">{at.toFixed(2)} s</span> {kind} “{name}” of “{clip}”
            </li>
          ))}
        </Box>
      )}
    </Group>
  );
}
