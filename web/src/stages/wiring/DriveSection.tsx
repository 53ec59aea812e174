'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import Add from '@mui/icons-material/Add';
import Close from '@mui/icons-material/Close';
import { useMemo, useState } from 'react';
import { callOf, type Axis, type Id } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/formula';
import type { Rulebook, Variable } from '@itchkit/core/rulebook';
import {
  axisOfVariable,
  driveChain,
  endStops,
  evenShares,
  inChainOrder,
  mirroredStops,
  sharesOfTables,
  withShare,
  type DriveStop,
  type Hinge,
} from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit } from '../../session/context';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };
const AXES = [0, 1, 2].map((axis) => [axis as Axis, `the kit’s ${'xyz'[axis]}`] as const);
const HINGE_TITLES = [
  ['pivot', 'their own pivots'],
  ['inner', 'the inner edge of each foot'],
  ['outer', 'the outer edge of each foot'],
] as const satisfies readonly (readonly [Hinge, string])[];

/** Whether a variable says how far something is turned. */
const turns = ({ unit, kind }: Variable): boolean => unit === 'deg' && kind === 'actual';

/** A turn that the chosen parts share, as a neck does with its head. */
export function DriveSection({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const variables = rulebook.variables.filter(turns);
  const followed = new Set(Object.values(kit.bindings).flatMap(({ part, variable }) => (part === parts[0] ? [variable] : [])));
  const [name, setName] = useState<string | null>(null);
  const variable = variables.find((one) => (name === null ? followed.has(one.name) : one.name === name)) ?? variables[0];
  if (!variable) return null;
  const options = variables.map((one) => [one.name, `${one.name}: ${one.title}`] as const);
  return (
    <Fold title="A turn that several share">
      <Box sx={small}>
        {parts.length === 1 ? 'The chosen part turns' : 'The chosen parts, from the lowest up, turn together'} as one variable says; choose
        more of a chain to spread it.
      </Box>
      <Choice label="Variable of the turn" value={variable.name} options={options} onChange={setName} />
      <Shared key={`${variable.name} ${parts.join()}`} parts={parts} variable={variable} />
    </Fold>
  );
}

function Shared({ parts, variable }: { parts: Id[]; variable: Variable }) {
  const kit = useKit();
  const { min, max, neutral, unit, indices } = variable;
  const chain = useMemo(() => inChainOrder(kit, parts), [kit, parts]);
  const [index, setIndex] = useState<number | null>(indices > 0 ? 0 : null);
  const [axis, setAxis] = useState<Axis>(axisOfVariable(variable).axis);
  const [said, setSaid] = useState<number[] | null>(null);
  const shares = said ?? sharesOfTables(kit, chain, variable.name, index);
  const [stops, setStops] = useState<DriveStop[]>(() => endStops(variable));
  const [alike, setAlike] = useState(false);
  const [hinge, setHinge] = useState<Hinge>('pivot');
  const [closed, setClosed] = useState(false);
  const rising = (of: DriveStop[]) => {
    const above = of.filter(({ value }) => value > neutral);
    return above.length > 0 ? above : of;
  };
  const calls = () =>
    callOf(driveChain, {
      parts: chain,
      variable: variable.name,
      index,
      axis,
      shares,
      stops: alike ? mirroredStops(stops, neutral, variable) : stops,
      neutral,
      hinge,
      closed,
    });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {indices > 0 && (
        <Choice
          label="Index"
          value={index ?? 0}
          options={Array.from({ length: indices }, (_, i) => [i, leverKey(variable.name, i)] as const)}
          onChange={setIndex}
        />
      )}
      <Choice label="Turns about" value={axis} options={AXES} onChange={setAxis} />
      <Stops stops={stops} range={{ min, max, neutral }} unit={unit} onChange={setStops} />
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={alike}
            onChange={(_, on) => {
              setAlike(on);
              setStops(on ? rising(stops) : mirroredStops(stops, neutral, variable));
            }}
          />
        }
        label="The other way alike"
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 13 } }}
      />
      <Box sx={{ display: 'grid', gap: 1 }}>
        {chain.map((id, i) => (
          <NumberField
            key={id}
            label={`Share of ${kit.parts[id].name}`}
            unit="%"
            digits={1}
            min={0.1}
            max={chain.length === 1 ? 100 : 99.9}
            disabled={chain.length === 1}
            value={100 * shares[i]}
            onCommit={(share) => setSaid(withShare(shares, i, share / 100))}
          />
        ))}
      </Box>
      <Choice label="Each bends about" value={hinge} options={HINGE_TITLES} onChange={setHinge} />
      <FormControlLabel
        control={<Checkbox size="small" checked={closed} onChange={(_, on) => setClosed(on)} />}
        label="Slide each down by what would gape"
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 13 } }}
      />
      <Buttons>
        <TryButton variant="contained" calls={calls}>
          Share the turn
        </TryButton>
        {chain.length > 1 && (
          <Button color="inherit" onClick={() => setSaid(evenShares(chain.length))}>
            Even shares
          </Button>
        )}
      </Buttons>
    </Box>
  );
}

interface StopsProps {
  stops: readonly DriveStop[];
  range: { min: number; max: number; neutral: number };
  unit: string;
  onChange: (stops: DriveStop[]) => void;
}

/** How far the whole chain is turned at values of the variable; at neutral it is not. */
function Stops({ stops, range, unit, onChange }: StopsProps) {
  const set = (i: number, change: Partial<DriveStop>) => onChange(stops.map((stop, k) => (k === i ? { ...stop, ...change } : stop)));
  /** Half way from neutral to the furthest one, of two the higher one. */
  const add = () => {
    const furthest = stops.reduce((a, b) => (Math.abs(b.value - range.neutral) >= Math.abs(a.value - range.neutral) ? b : a));
    const taken = new Set([range.neutral, ...stops.map(({ value }) => value)]);
    let value = (range.neutral + furthest.value) / 2;
    while (taken.has(value)) value = (value + range.neutral) / 2;
    const degrees = (furthest.degrees * (value - range.neutral)) / (furthest.value - range.neutral);
    onChange([...stops, { value, degrees }].sort((a, b) => a.value - b.value));
  };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {stops.map((stop, i) => (
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 28px', gap: 1, alignItems: 'center' }}>
          <NumberField
            label={`Value of turn ${i + 1}`}
            caption="at"
            unit={unit}
            min={range.min}
            max={range.max}
            value={stop.value}
            onCommit={(value) => stops.every((one) => one.value !== value) && value !== range.neutral && set(i, { value })}
          />
          <NumberField
            label={`Turned, turn ${i + 1}`}
            caption="turned"
            unit="deg"
            digits={2}
            value={stop.degrees}
            onCommit={(degrees) => set(i, { degrees })}
          />
          <IconButton
            size="small"
            aria-label={`Leave turn ${i + 1} out`}
            disabled={stops.length === 1}
            onClick={() => onChange(stops.filter((_, k) => k !== i))}
          >
            <Close fontSize="small" />
          </IconButton>
        </Box>
      ))}
      <Button color="inherit" startIcon={<Add />} onClick={add} sx={{ justifySelf: 'start' }}>
        In between
      </Button>
    </Box>
  );
}
