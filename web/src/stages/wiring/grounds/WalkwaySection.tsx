'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import { useMemo } from 'react';
import { callOf, count, type Id, type Knot, type Rope, type Walkway } from '@itchkit/core/document';
import {
  addRope,
  findWalkway,
  layBetween,
  layRing,
  moveKnots,
  removeKnots,
  removeRopes,
  seatGroups,
  setKnots,
  setRopes,
  type WalkRules,
} from '@itchkit/core/grounds';
import { figure, roleOf, type Rulebook } from '@itchkit/core/rulebook';
import { TryButton } from '../../../card/TryButton';
import { VectorField } from '../../../card/VectorField';
import { useDraft } from '../../../card/use-draft';
import { Buttons, Fold } from '../../../panels/Fold';
import { ListRow } from '../../../panels/ListRow';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };
const tick = { '& .MuiFormControlLabel-label': { fontSize: 12.5 } };

/** What a knot is called where it has no name. */
export const knotTitle = (walkway: Walkway, id: Id): string => {
  const at = walkway.knots.findIndex((knot) => knot.id === id);
  return walkway.knots[at]?.name || `Knot ${at + 1}`;
};

/** How visitors come from the edge to the seats and back: found, or laid knot by knot. */
export function WalkwaySection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const set = useSetSlice('grounds');
  const { knots: chosen, putting } = useUi((state) => state.grounds);
  const groups = useMemo(() => seatGroups(kit, (part) => roleOf(rulebook, part) === 'seat'), [kit, rulebook]);
  const walkway = kit.walkway ?? { knots: [], ropes: [] };
  const picked = walkway.knots.filter(({ id }) => chosen.includes(id));
  const ready = kit.grounds?.footprint && groups.length > 0;
  return (
    <Fold title="Walkway" aside={walkway.knots.length > 0 ? count(walkway.knots.length, 'knot') : 'none'}>
      {!ready && (
        <Box sx={small}>A way leads from the edge of the tiles to the seats: say which tiles it takes, and put a seat, first.</Box>
      )}
      <Buttons>
        {ready && (
          <TryButton
            variant={walkway.knots.length === 0 ? 'contained' : 'outlined'}
            calls={() => callOf(findWalkway, { rules: { ...rulebook.grounds!.visitor }, groups })}
          >
            {walkway.knots.length === 0 ? 'Find the way' : 'Find the way anew'}
          </TryButton>
        )}
        {kit.grounds?.footprint && (
          <TryButton calls={() => callOf(layRing, { rules: { ...rulebook.grounds!.visitor }, tile: rulebook.tileMetres })}>
            Ring round the edge
          </TryButton>
        )}
        <ToggleButton
          value="put"
          size="small"
          selected={putting}
          onChange={() => set({ putting: !putting })}
          sx={{ py: 0.5, px: 1.5, fontSize: 13, textTransform: 'none' }}
        >
          Put knots by clicking
        </ToggleButton>
      </Buttons>
      {walkway.knots.length > 0 && (
        <Box component="ul" aria-label="Knots" sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: 180, overflowY: 'auto' }}>
          {walkway.knots.map((knot) => (
            <li key={knot.id}>
              <ListRow
                chosen={chosen.includes(knot.id)}
                onClick={(event) =>
                  set({ knots: event.shiftKey || event.ctrlKey ? [...chosen.filter((id) => id !== knot.id), knot.id] : [knot.id] })
                }
              >
                {knotTitle(walkway, knot.id)}
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  {knot.edge && ', joined to the park'}
                  {knot.boards.length > 0 && `, boards ${knot.boards.map((id) => kit.parts[id].name).join(', ')}`}
                </Box>
              </ListRow>
            </li>
          ))}
        </Box>
      )}
      {picked.length > 0 && (
        <KnotFields
          key={picked.map(({ id }) => id).join()}
          knots={picked}
          walkway={walkway}
          carriers={groups.map(({ carrier }) => carrier)}
          rules={rulebook.grounds!.visitor}
        />
      )}
    </Fold>
  );
}

function KnotFields({ knots, walkway, carriers, rules }: { knots: Knot[]; walkway: Walkway; carriers: Id[]; rules: WalkRules }) {
  const kit = useKit();
  const run = useRun();
  const ids = knots.map(({ id }) => id);
  const [first, second] = knots;
  const { field, taken } = useDraft(first.name, { take: (name) => void run(callOf(setKnots, { knots: [first.id], name })) });
  const ropes = walkway.ropes.filter(({ from, to }) => ids.includes(from) || ids.includes(to));
  const joined = knots.length === 2 && ropes.some(({ from, to }) => ids.includes(from) && ids.includes(to));
  const toggled = (which: 'boards' | 'leaves', carrier: Id, on: boolean) => {
    const list = first[which].filter((id) => id !== carrier);
    run(callOf(setKnots, { knots: ids, [which]: on ? [...list, carrier] : list }));
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.5, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      {knots.length === 1 ? (
        <>
          <TextField label="Name of the knot" size="small" {...field} slotProps={{ htmlInput: taken, inputLabel: { shrink: true } }} />
          <VectorField
            title="Where feet stand"
            unit="m"
            value={first.at}
            onCommit={(at) => run(callOf(moveKnots, { places: { [first.id]: at } }))}
          />
        </>
      ) : (
        <Box sx={small}>{knots.length} knots are chosen.</Box>
      )}
      <FormControlLabel
        control={<Checkbox size="small" checked={first.edge} onChange={(_, edge) => run(callOf(setKnots, { knots: ids, edge }))} />}
        label="Joined to the walkways of the park"
        sx={tick}
      />
      {carriers.map((carrier) => (
        <Box key={carrier} sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1, alignItems: 'center' }}>
          <Box sx={{ fontSize: 12.5, flex: '1 1 90px' }}>{kit.parts[carrier].name}</Box>
          {(['boards', 'leaves'] as const).map((which) => (
            <FormControlLabel
              key={which}
              control={<Checkbox size="small" checked={first[which].includes(carrier)} onChange={(_, on) => toggled(which, carrier, on)} />}
              label={which === 'boards' ? 'boards here' : 'leaves here'}
              sx={{ ...tick, mr: 0 }}
            />
          ))}
        </Box>
      ))}
      {ropes.map((rope) => (
        <RopeLine key={rope.id} rope={rope} walkway={walkway} />
      ))}
      <Buttons>
        {knots.length === 2 && !joined && (
          <TryButton calls={() => callOf(addRope, { from: first.id, to: second.id })}>Join the two</TryButton>
        )}
        {knots.length === 2 && (
          <TryButton calls={() => callOf(layBetween, { rules: { ...rules }, from: first.id, to: second.id })}>
            Lay the way between, up stairs and ramps
          </TryButton>
        )}
        <TryButton calls={() => callOf(removeKnots, { knots: ids })}>Take {knots.length === 1 ? 'the knot' : 'the knots'} away</TryButton>
      </Buttons>
    </Box>
  );
}

function RopeLine({ rope, walkway }: { rope: Rope; walkway: Walkway }) {
  const run = useRun();
  const [a, b] = [rope.from, rope.to].map((id) => walkway.knots.find((knot) => knot.id === id)!);
  const long = Math.hypot(...a.at.map((value, axis) => value - b.at[axis]));
  const of = [rope.id];
  return (
    <Box role="group" aria-label={`Rope from ${knotTitle(walkway, rope.from)} to ${knotTitle(walkway, rope.to)}`} sx={{ fontSize: 12.5 }}>
      <Box className="figures">
        {knotTitle(walkway, rope.from)} {rope.oneWay ? '→' : '–'} {knotTitle(walkway, rope.to)}, {figure(long, 2)} m
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center' }}>
        <FormControlLabel
          control={<Checkbox size="small" checked={rope.oneWay} onChange={(_, oneWay) => run(callOf(setRopes, { ropes: of, oneWay }))} />}
          label="one way"
          sx={tick}
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={rope.rail} onChange={(_, rail) => run(callOf(setRopes, { ropes: of, rail }))} />}
          label="rail"
          sx={tick}
        />
        {rope.oneWay && (
          <Button size="small" color="inherit" onClick={() => run(callOf(setRopes, { ropes: of, turned: true }))}>
            Turn round
          </Button>
        )}
        <Button size="small" color="inherit" onClick={() => run(callOf(removeRopes, { ropes: of }))}>
          Let go
        </Button>
      </Box>
    </Box>
  );
}
