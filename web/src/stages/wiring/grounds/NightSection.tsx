'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Tooltip from '@mui/material/Tooltip';
import { callOf, count, type Vec3 } from '@itchkit/core/document';
import { setGlow } from '@itchkit/core/grounds';
import { hexColour, linearOf } from '../../shape/colour';
import type { Rulebook } from '@itchkit/core/rulebook';
import { NumberField } from '../../../card/NumberField';
import { Fold } from '../../../panels/Fold';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };
const tick = { '& .MuiFormControlLabel-label': { fontSize: 12.5 } };
/** What a lamp begins as: warm, twice as bright as its colour. */
const WARM: Vec3 = [1, 0.75, 0.4];
const BRIGHT = 2;

/** What shines by night, and how it looks in the paints that its owner may choose. */
export function NightSection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const run = useRun();
  const set = useSetSlice('grounds');
  const { night, paints } = useUi((state) => state.grounds);
  const { glow, paint } = rulebook.grounds!;
  const materials = Object.values(kit.materials).map(({ name }) => name);
  const lit = (glow ?? materials).filter((name) => materials.includes(name));
  const glows = kit.grounds?.glows ?? [];
  const slots = (paint?.slots ?? []).filter((name) => materials.includes(name));
  return (
    <Fold title="Night and paints" aside={glows.length > 0 ? count(glows.length, 'shines', 'shine') : undefined}>
      <FormControlLabel
        control={<Checkbox size="small" checked={night} onChange={(_, on) => set({ night: on })} />}
        label="See it by night"
        sx={tick}
      />
      {lit.length === 0 && (
        <Box sx={small}>The platform lights materials called {(glow ?? []).map((name) => `“${name}”`).join(', ')}; there is none.</Box>
      )}
      {lit.map((material) => {
        const one = glows.find((each) => each.material === material);
        const say = (change: Partial<{ factor: number | null; colour: Vec3 }>) =>
          void run(callOf(setGlow, { material, factor: one?.factor ?? BRIGHT, colour: one?.colour ?? WARM, ...change }));
        return (
          <Box key={material} sx={{ display: 'grid', gap: 1 }}>
            <FormControlLabel
              control={<Checkbox size="small" checked={one !== undefined} onChange={(_, on) => say({ factor: on ? BRIGHT : null })} />}
              label={`${material} shines`}
              sx={tick}
            />
            {one && (
              <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 44px', gap: 1 }}>
                <NumberField
                  label={`How bright ${material} is`}
                  caption="times as bright"
                  digits={2}
                  min={0}
                  max={100}
                  step={0.5}
                  value={one.factor}
                  onCommit={(factor) => say({ factor })}
                />
                <input
                  type="color"
                  aria-label={`Colour of ${material} by night`}
                  value={hexColour(one.colour)}
                  onChange={(event) => say({ colour: linearOf(event.target.value) })}
                  style={{ width: '100%', height: '100%', minHeight: 36, padding: 2, border: 0, background: 'none' }}
                />
              </Box>
            )}
          </Box>
        );
      })}
      {slots.map((slot) => (
        <Box key={slot}>
          <Box sx={{ ...small, mb: 0.5 }}>{slot} in the paints of its owner</Box>
          <Box role="group" aria-label={`Paints of ${slot}`} sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
            {paint!.palette.map((colour) => {
              const on = paints[slot] === colour;
              return (
                <Tooltip key={colour} title={colour}>
                  <Box
                    component="button"
                    type="button"
                    aria-pressed={on}
                    aria-label={`${slot} as ${colour}`}
                    onClick={() => {
                      const { [slot]: _, ...others } = paints;
                      set({ paints: on ? others : { ...others, [slot]: colour } });
                    }}
                    sx={{
                      width: 24,
                      height: 24,
                      p: 0,
                      bgcolor: colour,
                      border: on ? 3 : 1,
                      borderColor: on ? 'kit.signal' : 'divider',
                      cursor: 'pointer',
                      '&:focus-visible': { outline: '2px solid', outlineColor: 'kit.signal', outlineOffset: 1 },
                    }}
                  />
                </Tooltip>
              );
            })}
          </Box>
        </Box>
      ))}
    </Fold>
  );
}
