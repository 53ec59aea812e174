'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { count } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { GROUNDS, type Ground, type ParkCounts } from '@itchkit/core/trial';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { useRulebook, useSetSlice } from '../../session/context';
import { Group } from '../Group';
import { useTrial, type InTrial } from '../trial-state';
import { usePark } from './use-park';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.6 };
const GROUND_TITLES = { level: 'level ground', hillside: 'a hillside' } as const satisfies Record<Ground, string>;
const SPEEDS = [1, 4, 16].map((times) => [times, times === 1 ? 'as it is' : `${times} times as fast`] as const);

/** A plot in a park: visitors come, queue, ride and leave; where it is put down, day and night, and what came of it. */
export default function PlotwickControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const sha = useTrial((state) => state.sha);
  return loaded && rulebook ? <ParkControls key={sha} loaded={loaded} rulebook={rulebook} /> : null;
}

function ParkControls({ loaded, rulebook }: { loaded: InTrial; rulebook: Rulebook }) {
  const { wish, ask, seconds, state, counts, reasons, closed, again } = usePark(loaded, rulebook);
  const night = useTrial((one) => one.night);
  const set = useSetSlice('trial');
  return (
    <Box
      component="section"
      aria-label="Park"
      sx={{ height: '100%', overflow: 'auto', bgcolor: 'kit.sheet', display: 'flex', gap: 4, px: 2.5, py: 1.5, alignItems: 'flex-start' }}
    >
      <Group title="Visitors">
        <Box sx={{ display: 'grid', gridTemplateColumns: '110px 130px', gap: 1 }}>
          <NumberField
            label="How many visitors come"
            caption="come in all"
            digits={0}
            min={1}
            max={500}
            value={wish.visitors}
            onCommit={(visitors) => ask({ visitors })}
          />
          <NumberField
            label="A ride begins after"
            caption="begins after"
            unit="s"
            digits={0}
            min={1}
            max={600}
            value={wish.wait}
            onCommit={(wait) => ask({ wait })}
          />
        </Box>
        <Choice label="Time goes" value={wish.speed} options={SPEEDS} onChange={(speed) => ask({ speed })} />
        <Button color="inherit" size="small" onClick={again} sx={{ justifySelf: 'start' }}>
          Begin again
        </Button>
      </Group>
      <Group title="Put down">
        <Choice
          label="It stands on"
          value={wish.ground}
          options={GROUNDS.map((one) => [one, GROUND_TITLES[one]] as const)}
          onChange={(ground) => ask({ ground })}
        />
        <Button size="small" variant="outlined" color="inherit" onClick={() => ask({ quarters: (wish.quarters + 1) % 4 })}>
          Turn it by a quarter{wish.quarters > 0 && `, now ${90 * wish.quarters}°`}
        </Button>
        {closed > 0 && (
          <Box sx={{ ...small, color: 'kit.warn', maxWidth: 210 }}>
            By {count(closed, 'edge')} nobody comes: the ground there is too high or too low.
          </Box>
        )}
        <FormControlLabel
          control={<Checkbox size="small" checked={night} onChange={(_, on) => set({ night: on })} />}
          label="Night"
          sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
        />
      </Group>
      <Counters seconds={seconds} state={state} counts={counts} />
      <Group title="Stuck or gave up">
        {reasons.length === 0 ? (
          <Box sx={small}>Nobody yet.</Box>
        ) : (
          <Box component="ul" aria-label="Stuck or gave up" sx={{ ...small, listStyle: 'none', m: 0, p: 0, maxWidth: 260 }}>
            {reasons.map(([why, many]) => (
              <li key={why}>
                <span className="figures">{many}</span>: {why}
              </li>
            ))}
          </Box>
        )}
      </Group>
    </Box>
  );
}

const COUNTED = [
  ['came', 'came'],
  ['waiting', 'queue'],
  ['rides', 'rides'],
  ['rode', 'rode'],
  ['left', 'left'],
  ['gaveUp', 'gave up'],
  ['stuck', 'stuck'],
] as const satisfies readonly (readonly [keyof ParkCounts, string])[];

/** What came of it so far. */
function Counters({ seconds, state, counts }: { seconds: number; state: string; counts: ParkCounts }) {
  return (
    <Group title={`${state}, ${Math.floor(seconds)} s`}>
      <Box
        component="dl"
        data-testid="park"
        className="figures"
        sx={{ m: 0, display: 'grid', gridTemplateColumns: 'auto 40px', columnGap: 1.5, fontSize: 12.5, lineHeight: 1.5 }}
      >
        {COUNTED.map(([key, title]) => (
          <Box key={key} sx={{ display: 'contents' }}>
            <Box component="dt" sx={{ color: 'text.secondary' }}>
              {title}
            </Box>
            <Box
              component="dd"
              data-count={key}
              sx={{ m: 0, textAlign: 'right', color: key === 'stuck' && counts.stuck > 0 ? 'kit.stop' : 'inherit' }}
            >
              {counts[key]}
            </Box>
          </Box>
        ))}
      </Box>
    </Group>
  );
}
