'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { callOf, count, type Footprint } from '@itchkit/core/document';
import { setFootprint, sweepFootprint, tileMiddles, tilesAcross, holeAt, toggleHole } from '@itchkit/core/grounds';
import type { Rulebook } from '@itchkit/core/rulebook';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { Buttons, Fold } from '../../../panels/Fold';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';

/** Which tiles a thing takes: from all that moves, drawn by hand, with tiles that visitors may cross. */
export function TilesSection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const tile = rulebook.tileMetres;
  const footprint = kit.grounds?.footprint ?? null;
  const set = useSetSlice('grounds');
  const shell = useUi((state) => state.grounds.shell);
  const across = footprint && tilesAcross(footprint, tile);
  return (
    <Fold title="Tiles" opens={!footprint} aside={across ? `${across[0]} × ${across[1]}` : 'not said'}>
      {footprint ? (
        <Sides footprint={footprint} tile={tile} />
      ) : (
        <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          A tile is {tile} m. Take as many as everything that moves needs, or type them.
        </Box>
      )}
      <Buttons>
        <TryButton variant={footprint ? 'outlined' : 'contained'} calls={() => callOf(sweepFootprint, { tile })}>
          Take them from all that moves
        </TryButton>
      </Buttons>
      {footprint && <Holes footprint={footprint} tile={tile} />}
      <FormControlLabel
        control={<Checkbox size="small" checked={shell} onChange={(_, on) => set({ shell: on })} />}
        label="Show how far each part comes"
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
      />
    </Fold>
  );
}

const SIDES = [
  ['left', 'low', 0],
  ['right', 'high', 0],
  ['back', 'low', 2],
  ['front', 'high', 2],
] as const;

/** Where the sides lie, as metres from the origin. */
function Sides({ footprint, tile }: { footprint: Footprint; tile: number }) {
  const run = useRun();
  const { low, high } = footprint;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
      {SIDES.map(([name, end, axis]) => (
        <NumberField
          key={name}
          label={`Tiles to the ${name}`}
          caption={name}
          unit="m"
          digits={3}
          step={tile}
          value={footprint[end][axis]}
          onCommit={(value) => {
            const next = { low: [...low], high: [...high] } as Pick<Footprint, 'low' | 'high'>;
            next[end][axis] = value;
            if (next.low[axis] < next.high[axis]) run(callOf(setFootprint, { footprint: next, tile }));
          }}
        />
      ))}
    </Box>
  );
}

/** Tiles as they lie, seen from above with what is ahead at the bottom: a press lets visitors cross one, or no longer. */
function Holes({ footprint, tile }: { footprint: Footprint; tile: number }) {
  const run = useRun();
  const [across, deep] = tilesAcross(footprint, tile);
  if (across * deep > 144) return null;
  return (
    <Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 0.75 }}>
        Tiles that visitors may cross: {footprint.holes.length === 0 ? 'none' : count(footprint.holes.length, 'tile')}
      </Box>
      <Box
        role="group"
        aria-label="Tiles that visitors may cross"
        sx={{ display: 'grid', gridTemplateColumns: `repeat(${across}, 22px)`, gap: '3px' }}
      >
        {tileMiddles(footprint, tile).map((middle, i) => {
          const open = holeAt(footprint, middle[0], middle[2], tile) >= 0;
          return (
            <Box
              key={middle.join()}
              component="button"
              type="button"
              aria-pressed={open}
              aria-label={`Tile ${(i % across) + 1} across, ${Math.floor(i / across) + 1} deep`}
              onClick={() => run(callOf(toggleHole, { at: middle, tile }))}
              sx={{
                width: 22,
                height: 22,
                p: 0,
                cursor: 'pointer',
                border: 1,
                borderColor: 'kit.sea',
                bgcolor: open ? 'transparent' : 'kit.sea',
                opacity: open ? 1 : 0.75,
                '&:focus-visible': { outline: '2px solid', outlineColor: 'kit.signal', outlineOffset: 1 },
              }}
            />
          );
        })}
      </Box>
    </Box>
  );
}
