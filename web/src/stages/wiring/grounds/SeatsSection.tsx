'use client';
import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { callOf, count, partsInOrder, type Id } from '@itchkit/core/document';
import { restWorlds } from '@itchkit/core/geometry';
import { leanOf, numberSeats, seatGroups, seatOrder, setUpright, turnSeats } from '@itchkit/core/grounds';
import { figure, roleOf, seatNames, type Rulebook } from '@itchkit/core/rulebook';
import { TryButton } from '../../../card/TryButton';
import { Buttons, Fold } from '../../../panels/Fold';
import { useKit, useSetUi, useUi } from '../../../session/context';
import { seatCalls } from './seat-calls';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };
/** A seat that leans no more than this is upright, degrees. */
const UPRIGHT = 0.1;

/** The seats: what carries them, how they stand; more of them, upright, numbered. */
export function SeatsSection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const setUi = useSetUi();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const isSeat = useMemo(() => (id: Id) => roleOf(rulebook, kit.parts[id]) === 'seat', [kit, rulebook]);
  const groups = useMemo(() => seatGroups(kit, (part) => isSeat(part.id)), [kit, isSeat]);
  const worlds = useMemo(() => restWorlds(kit), [kit]);
  const seats = groups.flatMap((group) => group.seats);
  const leaning = seats.filter((id) => leanOf(worlds.get(id)!) > UPRIGHT);
  const names = seatNames(rulebook);
  const chairs = selection.filter((id) => !isSeat(id));
  const chosen = selection.filter(isSeat);
  const [like] = partsInOrder(kit).filter(
    ({ id, parent }) => isSeat(id) && parent !== null && !chairs.includes(parent) && chosen.includes(id),
  );
  return (
    <Fold title="Seats" aside={seats.length || 'none'}>
      {groups.map(({ carrier, seats: list }) => (
        <Box key={carrier} sx={{ fontSize: 13 }}>
          <Box component="span" sx={{ fontWeight: 600 }}>
            {kit.parts[carrier].name}
          </Box>{' '}
          carries {count(list.length, 'seat')}
          <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, ...small }} className="figures">
            {list.map((id) => (
              <Box component="li" key={id}>
                <Box
                  component="button"
                  type="button"
                  onClick={() => setUi({ selection: [id] })}
                  sx={{
                    border: 0,
                    bgcolor: 'transparent',
                    p: 0,
                    font: 'inherit',
                    color: chosen.includes(id) ? 'kit.signal' : 'inherit',
                    cursor: 'pointer',
                  }}
                >
                  {kit.parts[id].name}
                </Box>
                {leanOf(worlds.get(id)!) > UPRIGHT && (
                  <Box component="span" sx={{ color: 'kit.stop' }}>
                    {' '}
                    leans {figure(leanOf(worlds.get(id)!), 0)}°
                  </Box>
                )}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
      {seats.length === 0 && <Box sx={small}>Choose the parts that are sat on, and put seats onto them.</Box>}
      <Buttons>
        {leaning.length > 0 && (
          <TryButton variant="contained" calls={() => callOf(setUpright, { seats: leaning })}>
            Set {leaning.length === 1 ? 'it' : `all ${leaning.length}`} upright
          </TryButton>
        )}
        {chairs.length > 0 && (
          <TryButton calls={() => seatCalls(kit, rulebook, chairs, null)} step={`Put ${count(chairs.length, 'seat')} on`}>
            Put {chairs.length === 1 ? 'a seat' : 'seats'} onto{' '}
            {chairs.length === 1 ? `“${kit.parts[chairs[0]].name}”` : `${chairs.length} parts`}
          </TryButton>
        )}
        {chairs.length > 0 && like && (
          <TryButton calls={() => seatCalls(kit, rulebook, chairs, like.id)} step={`Put ${count(chairs.length, 'seat')} on`}>
            As {like.name} is on its own
          </TryButton>
        )}
        {seats.length > 0 && (
          <TryButton calls={() => callOf(numberSeats, { seats: seatOrder(kit, groups), ...names })}>Number them in order</TryButton>
        )}
      </Buttons>
      {chosen.length > 0 && (
        <Box>
          <Box sx={{ ...small, mb: 0.75 }}>
            {chosen.length === 1 ? `${kit.parts[chosen[0]].name} looks` : `${chosen.length} seats look`} elsewhere
          </Box>
          <Buttons>
            {([90, 180, -90] as const).map((degrees) => (
              <TryButton key={degrees} calls={() => callOf(turnSeats, { seats: chosen, degrees })}>
                {TURNS[degrees]}
              </TryButton>
            ))}
          </Buttons>
        </Box>
      )}
    </Fold>
  );
}

const TURNS = { 90: 'To their left', 180: 'Behind them', [-90]: 'To their right' } as const;
