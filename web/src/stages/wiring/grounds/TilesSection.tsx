'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { callOf, count, type Footprint } from '@itchkit/core/document';
import { useMemo } from 'react';
import { floats, holeAt, setFootprint, sweepFootprint, tileHeights, tilesAcross, toggleHole } from '@itchkit/core/grounds';
import { figure, type Rulebook } from '@itchkit/core/rulebook';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { Buttons, Fold } from '../../../panels/Fold';
import { useKit, useOpenKit, useRun, useSetSlice, useUi } from '../../../session/context';

/** Which tiles a thing takes: from all that moves, drawn by hand, with tiles that visitors may cross. */
export function TilesSection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const tile = rulebook.tileMetres;
  const footprint = kit.grounds?.footprint ?? null;
  const set = useSetSlice('grounds');
  const { shell, heights } = useUi((state) => state.grounds);
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
      {footprint && <Plan footprint={footprint} tile={tile} />}
      <Box>
        <FormControlLabel
          control={<Checkbox size="small" checked={shell} onChange={(_, on) => set({ shell: on })} />}
          label="Show how far each part comes"
          sx={tick}
        />
        {footprint && (
          <FormControlLabel
            control={<Checkbox size="small" checked={heights} onChange={(_, on) => set({ heights: on })} />}
            label="Show how high it stands on each tile"
            sx={tick}
          />
        )}
      </Box>
    </Fold>
  );
}

const tick = { '& .MuiFormControlLabel-label': { fontSize: 12.5 } };

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
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1, rowGap: 2 }}>
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

/** Of more tiles than these no plan is drawn. */
const MOST = 144;

/**
 * Tiles as they lie, seen from above with what is ahead at the bottom: how high the thing stands on each, darker the higher. A press lets
 * visitors cross one, or no longer.
 */
function Plan({ footprint, tile }: { footprint: Footprint; tile: number }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const [across, deep] = tilesAcross(footprint, tile);
  const drawn = across * deep <= MOST;
  const { parts, meshes, skins } = kit;
  const heights = useMemo(
    () => (drawn ? tileHeights({ ...session.kit, parts, meshes, skins }, session.blobs, footprint, tile) : []),
    [drawn, session, parts, meshes, skins, footprint, tile],
  );
  if (!drawn) return null;
  const highest = Math.max(0.01, ...heights.map(({ high }) => high ?? 0));
  const afloat = heights.filter(floats).length;
  return (
    <Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 0.75 }}>
        Metres above each tile. Crossed by visitors: {footprint.holes.length === 0 ? 'none' : count(footprint.holes.length, 'tile')}
        {afloat > 0 && `. Over ${count(afloat, 'tile')} it does not come down to the ground: dashed`}
      </Box>
      <Box
        role="group"
        aria-label="Tiles that visitors may cross"
        sx={{ display: 'grid', gridTemplateColumns: `repeat(${across}, ${across > 8 ? 22 : 34}px)`, gap: '3px', overflowX: 'auto' }}
      >
        {heights.map((one, i) => {
          const { middle, high } = one;
          const open = holeAt(footprint, middle[0], middle[2], tile) >= 0;
          const said = high === null ? 'nothing stands on it' : `up to ${figure(high, 2)} m`;
          return (
            <Box
              key={middle.join()}
              component="button"
              type="button"
              aria-pressed={open}
              aria-label={`Tile ${(i % across) + 1} across, ${Math.floor(i / across) + 1} deep`}
              title={`${said}${floats(one) ? `, ${figure(1000 * one.low!, 0)} mm off the ground` : ''}`}
              onClick={() => run(callOf(toggleHole, { at: middle, tile }))}
              sx={{
                aspectRatio: '1',
                p: 0,
                font: 'inherit',
                fontSize: 10.5,
                cursor: 'pointer',
                color: 'text.primary',
                border: 1,
                borderStyle: floats(one) ? 'dashed' : 'solid',
                borderColor: 'kit.sea',
                bgcolor: (t) =>
                  open || high === null
                    ? 'transparent'
                    : `color-mix(in srgb, ${t.vars!.palette.kit.sea} ${Math.round(10 + 35 * Math.max(0, high / highest))}%, transparent)`,
                '&:focus-visible': { outline: '2px solid', outlineColor: 'kit.signal', outlineOffset: 1 },
              }}
            >
              {open ? '×' : across <= 8 && high !== null && figure(high, 1)}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
