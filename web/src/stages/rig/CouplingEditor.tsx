'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import {
  callOf,
  COUPLING_KINDS,
  newId,
  type Blobs,
  type Coupling,
  type CouplingKind,
  type Id,
  type Kit,
  type Vec3,
} from '@itchkit/core/document';
import { couplingInWorld, placeFromBody, placeInBody, restWorlds, type CouplingPlace } from '@itchkit/core/geometry';
import { couple, headOf, hingeLimits, hingeReach, type HingeLimits } from '@itchkit/core/rig';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { VectorField } from '../../card/VectorField';
import { Buttons } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { useKit, useOpenKit, useRulebook, useRun, useSetUi, useUi } from '../../session/context';
import { lineOf } from '../shape/PointsSection';

const KINDS: Record<CouplingKind, string> = {
  hinge: 'hinge: turns about a line',
  slider: 'slide: goes along a line',
  ball: 'ball: turns about a point',
};
const LIMITS_AT_FIRST: Record<CouplingKind, Pick<Coupling, 'min' | 'max'>> = {
  hinge: { min: 0, max: 90 },
  slider: { min: 0, max: 0.2 },
  ball: { min: null, max: 45 },
};
const AXES: [string, string, Vec3][] = [
  ['x', 'x', [1, 0, 0]],
  ['y', 'y', [0, 1, 0]],
  ['z', 'z', [0, 0, 1]],
];

interface Draft {
  name: string;
  kind: CouplingKind;
  from: Id;
  to: Id;
  /** World. */
  place: CouplingPlace;
  min: number | null;
  max: number | null;
}

/** A coupling's bodies, place and limits. The place may be typed in the axes of either body, or of the world. */
export function CouplingEditor({ coupling, onDone }: { coupling: Coupling | null; onDone: (id: Id | null) => void }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const rulebook = useRulebook();
  const step = rulebook?.stepMetres ?? 0.001;
  const [draft, setDraft] = useState<Draft>(() => begin(kit, coupling, session.blobs));
  const [typed, setTyped] = useState<'from' | 'to' | 'world'>('from');
  const [onStep, setOnStep] = useState(() => coupling === null || coupling.at.every((value) => isWhole(value / step)));
  const picked = useUi((state) => state.picked).filter((point) => kit.parts[point.part]);
  const picking = useUi((state) => state.pickMode === 'points');
  const line = lineOf(kit, picked);
  const set = (fields: Partial<Draft>) => setDraft({ ...draft, ...fields });
  const bodies = (kit.bodies ?? []).map(({ id, name }) => [id, name] as const);
  const name = (id: Id) => bodies.find(([one]) => one === id)?.[1] ?? '';
  const into = (place: CouplingPlace) => (typed === 'world' ? place : placeInBody(kit, draft[typed], place));
  const outOf = (place: CouplingPlace) => (typed === 'world' ? place : placeFromBody(kit, draft[typed], place));
  const snapped = (values: Vec3) => values.map((value) => Number((Math.round(value / step) * step).toFixed(9)) + 0) as Vec3;
  // It stands on whole steps in the axes of the body that holds it, whatever axes it is typed in, and however it was placed.
  const own = placeInBody(kit, draft.from, draft.place);
  const standing = onStep ? placeFromBody(kit, draft.from, { ...own, at: snapped(own.at) }) : draft.place;
  const local = into(standing);
  const tidy = (values: Vec3) => values.map((value) => Number(value.toFixed(6)) + 0) as Vec3;
  const axis = AXES.find(([, , way]) => way.every((value, i) => Math.abs(value - local.axis[i]) < 1e-6))?.[0] ?? 'other';
  const unit = draft.kind === 'slider' ? 'm' : '°';
  const keep = () => {
    const id = coupling?.id ?? newId();
    const { at, axis: along } = draft.place;
    const ok = run(
      callOf(couple, {
        id,
        kind: draft.kind,
        from: draft.from,
        to: draft.to,
        at,
        axis: along,
        min: draft.kind === 'ball' ? null : draft.min,
        max: draft.max,
        ...(onStep ? { stepMetres: step } : {}),
        ...(draft.name.trim() ? { name: draft.name.trim() } : {}),
      }),
    );
    if (!ok) return;
    setUi({ picked: [], pickMode: 'parts' });
    onDone(null);
  };
  return (
    <Section title={coupling ? 'Coupling' : 'New coupling'}>
      <Box sx={{ display: 'grid', gap: 2, mt: 1 }}>
        <TextField
          size="small"
          label="Name"
          value={draft.name}
          placeholder={`${name(draft.to)}_${draft.kind}`}
          onChange={(event) => set({ name: event.target.value })}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 200 } }}
        />
        <Choice
          label="Kind"
          value={draft.kind}
          options={COUPLING_KINDS.map((kind) => [kind, KINDS[kind]] as const)}
          onChange={(kind) => set({ kind, ...LIMITS_AT_FIRST[kind], ...limitsAlong(kit, { ...draft, kind }, draft.place, session.blobs) })}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          <Choice
            label="This body"
            value={draft.from}
            options={bodies.filter(([id]) => id !== draft.to)}
            onChange={(from) => set({ from })}
          />
          <Choice label="holds" value={draft.to} options={bodies.filter(([id]) => id !== draft.from)} onChange={(to) => set({ to })} />
        </Box>
        <Choice
          label="Typed in the axes of"
          value={typed}
          options={[
            ['from', name(draft.from)],
            ['to', name(draft.to)],
            ['world', 'the world'],
          ]}
          onChange={setTyped}
        />
        <VectorField
          title="Place"
          unit="m"
          step={step}
          digits={6}
          value={tidy(local.at)}
          onCommit={(at) => set({ place: outOf({ at, axis: local.axis }) })}
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={onStep} onChange={(event) => setOnStep(event.target.checked)} />}
          label={`On whole steps of ${step} m`}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1.5, alignItems: 'start' }}>
          <Choice
            label="Axis"
            value={axis}
            options={[
              ...AXES.map(([id, title]) => [id, title] as const),
              ...(axis === 'other'
                ? [
                    [
                      'other',
                      tidy(local.axis)
                        .map((value) => value.toFixed(3))
                        .join(', '),
                    ] as const,
                  ]
                : []),
            ]}
            onChange={(id) => {
              const way = AXES.find(([one]) => one === id)?.[2];
              if (!way) return;
              const place = outOf({ at: local.at, axis: way });
              set({ place, ...limitsAlong(kit, draft, place, session.blobs) });
            }}
          />
          <Button onClick={() => set(turnedRound(draft))}>Turn round</Button>
        </Box>
        <Buttons>
          <Button variant="outlined" aria-pressed={picking} onClick={() => setUi({ pickMode: picking ? 'parts' : 'points', picked: [] })}>
            {picking ? 'Done picking' : 'Pick it on the bench'}
          </Button>
          {line && (
            <Button
              variant="outlined"
              onClick={() => set({ place: placeOf(line), ...limitsAlong(kit, draft, placeOf(line), session.blobs) })}
            >
              Along {picked.length >= 2 ? 'points 1 to 2' : 'that edge'}
            </Button>
          )}
        </Buttons>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          {draft.kind !== 'ball' && (
            <NumberField
              label="From"
              unit={unit}
              value={draft.min ?? 0}
              step={draft.kind === 'slider' ? 0.01 : 5}
              digits={4}
              onCommit={(min) => set({ min })}
            />
          )}
          <NumberField
            label={draft.kind === 'ball' ? 'Swings by' : 'To'}
            unit={unit}
            value={draft.max ?? 0}
            step={draft.kind === 'slider' ? 0.01 : 5}
            digits={4}
            onCommit={(max) => set({ max })}
          />
        </Box>
        <Buttons>
          <Button variant="contained" onClick={keep}>
            {coupling ? 'Keep it so' : `Couple “${name(draft.from)}” and “${name(draft.to)}”`}
          </Button>
          <Button onClick={() => onDone(null)}>Leave it</Button>
        </Buttons>
      </Box>
    </Section>
  );
}

const isWhole = (value: number) => Math.abs(value - Math.round(value)) < 1e-6;

/** The same motion about or along the same line, seen from its other end. */
function turnedRound({ kind, place, min, max }: Draft): Partial<Draft> {
  const axis = place.axis.map((value) => -value + 0) as Vec3;
  if (kind === 'ball') return { place: { ...place, axis } };
  return { place: { ...place, axis }, min: max === null ? null : -max + 0, max: min === null ? null : -min + 0 };
}

function placeOf([a, b]: [Vec3, Vec3]): CouplingPlace {
  const way = b.map((value, axis) => value - a[axis]);
  const length = Math.hypot(...way) || 1;
  return { at: a, axis: way.map((value) => value / length) as Vec3 };
}

/** The limits that a hinge starts with along a line: as far as nothing is in the way of what it holds. Nothing for other kinds. */
function limitsAlong(kit: Kit, { kind, to }: Draft, { at, axis }: CouplingPlace, blobs: Blobs): Partial<HingeLimits> {
  const body = kit.bodies?.find(({ id }) => id === to);
  if (kind !== 'hinge' || !body) return {};
  return hingeLimits(hingeReach(kit, body.parts, [at, at.map((value, i) => value + axis[i]) as Vec3], blobs));
}

/** As it is; or a hinge at the pivot of the first loose body. */
function begin(kit: Kit, coupling: Coupling | null, blobs: Blobs): Draft {
  if (coupling)
    return {
      name: coupling.name,
      kind: coupling.kind,
      from: coupling.from,
      to: coupling.to,
      place: couplingInWorld(kit, coupling),
      min: coupling.min,
      max: coupling.max,
    };
  const bodies = kit.bodies!;
  const from = bodies.find((body) => body.anchored) ?? bodies[0];
  const held = new Set((kit.couplings ?? []).flatMap((one) => [one.from, one.to]));
  const to = bodies.find((body) => body.id !== from.id && !held.has(body.id)) ?? bodies.find((body) => body.id !== from.id)!;
  const place: CouplingPlace = { at: headOf(restWorlds(kit), to.parts[0]), axis: [1, 0, 0] };
  const draft: Draft = { name: '', kind: 'hinge', from: from.id, to: to.id, place, min: 0, max: 90 };
  return { ...draft, ...limitsAlong(kit, draft, place, blobs) };
}
