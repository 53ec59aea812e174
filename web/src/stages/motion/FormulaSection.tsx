'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { line } from 'd3-shape';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { callOf, count, type Clip, type FormulaTrack, type Part } from '@itchkit/core/document';
import { FORMULA_FUNCTIONS, FormulaError, readFormula } from '@itchkit/core/formula';
import { removeTracks, setConstants, setFormula, thinTracks } from '@itchkit/core/motion';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { TextEditor } from '../../panels/TextEditor';
import { useKit, useRun, useUi } from '../../session/context';
import { extentOf } from '../../strip/curve-lines';
import { PROPERTY } from '../../strip/track-words';

const WHAT = (['offset', 'turn', 'size'] as const).flatMap((property) =>
  [0, 1, 2].map((axis) => [`${property} ${axis}`, `${property} ${'xyz'[axis]}`] as const),
);
const PLACES = 160;

/** One axis of a part moved by an expression of time: its curve as it is typed, its errors at their character. */
export function FormulaSection({ clip, part }: { clip: Clip; part: Part }) {
  const own = clip.tracks.filter((track): track is FormulaTrack => track.kind === 'formula' && track.part === part.id);
  return (
    <Fold title="Formula" aside={own.length || undefined}>
      <Editor key={`${clip.id} ${part.id}`} clip={clip} part={part} own={own} />
      <Constants clip={clip} />
      <Box component="details" sx={{ fontSize: 12, color: 'text.secondary' }}>
        <summary>What a formula can say</summary>
        <Box sx={{ mt: 1 }}>
          <code>t</code> seconds, <code>u</code> the phase of the clip from 0 to 1, <code>pi</code>, <code>tau</code>, <code>e</code>, your
          own constants; + − * / ^ %, comparisons, <code>a ? b : c</code>; {Object.keys(FORMULA_FUNCTIONS).join(', ')}.
        </Box>
      </Box>
    </Fold>
  );
}

function Editor({ clip, part, own }: { clip: Clip; part: Part; own: FormulaTrack[] }) {
  const kit = useKit();
  const [what, setWhat] = useState<string>(() => (own[0] ? `${own[0].property} ${own[0].axis}` : 'turn 1'));
  const [property, axis] = what.split(' ') as [FormulaTrack['property'], string];
  const there = own.find((track) => track.property === property && track.axis === Number(axis));
  const [draft, setDraft] = useState<string | null>(null);
  const source = draft ?? there?.source ?? '';
  let error: FormulaError | null = null;
  let points: [number, number][] = [];
  if (source !== '') {
    try {
      const formula = readFormula(source, clip.constants);
      points = Array.from(
        { length: PLACES + 1 },
        (_, i) => [i / PLACES, formula((i / PLACES) * clip.lengthSeconds, i / PLACES)] as [number, number],
      ).filter(([, value]) => Number.isFinite(value));
    } catch (caught) {
      if (!(caught instanceof FormulaError)) throw caught;
      error = caught;
    }
  }
  const { unit } = PROPERTY[property];
  const also = useUi((state) => state.selection).filter((id) => id !== part.id && kit.parts[id]);
  const [more, setMore] = useState<string[]>([]);
  const [others, setOthers] = useState(false);
  const call = () =>
    source.trim() === '' || error
      ? null
      : [part.id, ...(others ? also : [])].flatMap((one) =>
          [what, ...more.filter((track) => track !== what)].map((track) => {
            const [kind, number] = track.split(' ') as [FormulaTrack['property'], string];
            return callOf(setFormula, { clip: clip.id, part: one, property: kind, axis: Number(number), source });
          }),
        );
  return (
    <>
      <Choice
        label="Moves"
        value={what}
        options={WHAT}
        onChange={(next) => {
          setWhat(next);
          setDraft(null);
        }}
      />
      <Box component="details" open={more.length > 0 || undefined} sx={{ fontSize: 12 }}>
        <summary>And others by the same</summary>
        <Box
          role="group"
          aria-label="Moved by the same formula"
          sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, auto)', justifyContent: 'start' }}
        >
          {WHAT.filter(([track]) => track !== what).map(([track, title]) => (
            <FormControlLabel
              key={track}
              label={title}
              slotProps={{ typography: { sx: { fontSize: 12 } } }}
              control={
                <Checkbox
                  size="small"
                  checked={more.includes(track)}
                  onChange={(_, on) => setMore(on ? [...more, track] : more.filter((one) => one !== track))}
                />
              }
            />
          ))}
        </Box>
        {also.length > 0 && (
          <FormControlLabel
            label={`of the ${count(also.length, 'other chosen part')} too`}
            slotProps={{ typography: { sx: { fontSize: 12 } } }}
            control={<Checkbox size="small" checked={others} onChange={(_, on) => setOthers(on)} />}
          />
        )}
      </Box>
      <TextEditor
        label="Formula"
        language="formula"
        small
        rows={[1, 5]}
        text={source}
        hint="12 * sin(tau * u)"
        wrong={error && { from: error.at, to: Math.max(error.at + 1, 1), message: error.message }}
        onChange={setDraft}
      />
      {points.length > 1 && <Sketch points={points} unit={unit} />}
      <Buttons>
        <TryButton
          variant="contained"
          disabled={call() === null || (there !== undefined && draft === null && more.length === 0 && !others)}
          calls={call}
          onDone={() => setDraft(null)}
        >
          {there ? 'Change the formula' : 'Move it by this'}
        </TryButton>
        {there && (
          <>
            <TryButton calls={() => callOf(thinTracks, { clip: clip.id, tracks: [there.id], fit: 'curve', metres: 0.001, degrees: 0.25 })}>
              Turn into keys
            </TryButton>
            <TryButton calls={() => callOf(removeTracks, { clip: clip.id, tracks: [there.id] })} onDone={() => setDraft(null)}>
              Take it off
            </TryButton>
          </>
        )}
      </Buttons>
    </>
  );
}

/** A small curve over the clip. */
function Sketch({ points, unit }: { points: [number, number][]; unit: string }) {
  const [low, high] = extentOf(points.map(([, value]) => value));
  const x = scaleLinear().domain([0, 1]).range([4, 256]);
  const y = scaleLinear().domain([low, high]).range([68, 4]);
  const path = line<[number, number]>(
    ([u]) => x(u),
    ([, value]) => y(value),
  )(points);
  const figure = (value: number) => Number(value.toPrecision(3));
  const values = points.map(([, value]) => value);
  return (
    <Box>
      <Box
        component="svg"
        role="img"
        aria-label="The formula’s curve over the clip"
        viewBox="0 0 260 72"
        sx={{ width: '100%', border: 1, borderColor: 'divider', borderRadius: 1, bgcolor: 'kit.card' }}
      >
        {low < 0 && high > 0 && (
          <Box component="line" x1={4} x2={256} y1={y(0)} y2={y(0)} sx={{ stroke: (t) => t.vars!.palette.kit.line }} />
        )}
        <Box component="path" d={path ?? ''} fill="none" sx={{ stroke: (t) => t.vars!.palette.kit.sea }} strokeWidth={1.75} />
      </Box>
      <Box className="figures" sx={{ fontSize: 11, color: 'text.secondary' }}>
        {figure(Math.min(...values))} to {figure(Math.max(...values))} {unit}
      </Box>
    </Box>
  );
}

function Constants({ clip }: { clip: Clip }) {
  const run = useRun();
  const [name, setName] = useState('');
  const constants = clip.constants ?? {};
  const set = (next: Record<string, number>) => run(callOf(setConstants, { clip: clip.id, constants: next }));
  return (
    <Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 1 }}>Constants of this clip</Box>
      {Object.entries(constants).map(([key, value]) => (
        <Box key={key} sx={{ display: 'flex', gap: 1, mb: 1.5, alignItems: 'center' }}>
          <NumberField label={key} value={value} onCommit={(next) => set({ ...constants, [key]: next })} />
          <Button
            size="small"
            color="inherit"
            aria-label={`Forget ${key}`}
            onClick={() => {
              const { [key]: _, ...rest } = constants;
              set(rest);
            }}
          >
            Forget
          </Button>
        </Box>
      ))}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          size="small"
          label="Name"
          value={name}
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 40, 'aria-label': 'Name of a constant' } }}
        />
        <Button
          variant="outlined"
          disabled={!/^[A-Za-z][A-Za-z0-9_]*$/.test(name) || name in constants}
          onClick={() => {
            if (set({ ...constants, [name]: 1 })) setName('');
          }}
        >
          Add
        </Button>
      </Box>
    </Box>
  );
}
