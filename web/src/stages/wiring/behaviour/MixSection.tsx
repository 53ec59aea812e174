'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import {
  addPeg,
  mixedBy,
  ownPlace,
  ownSpeed,
  removeMix,
  removePeg,
  renameMix,
  setMixKind,
  setPeg,
  stepsOf,
  type ParameterRule,
} from '@itchkit/core/behaviour';
import { callOf, clipsInOrder, count, newId, parametersOfKind, type Kit, type Mix, type MixKind, type Peg } from '@itchkit/core/document';
import { figure, nameList } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { useDraft } from '../../../card/use-draft';
import { Buttons, Fold } from '../../../panels/Fold';
import { ListRow } from '../../../panels/ListRow';
import { useKit, useOpenKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { beginningMix, numbersOf } from './beginnings';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

const KINDS: Record<MixKind, string> = {
  line: 'along one value',
  across: 'across two values',
  around: 'round the middle of two values',
};

const clipName = (kit: Kit, { clip }: Pick<Peg, 'clip'>) => (clip === null ? 'rest' : (kit.clips[clip]?.name ?? 'rest'));

/** The mix that is worked on: the chosen one, or the first. */
export function useMix(): Mix | undefined {
  const { mixes = [] } = useKit();
  const chosen = useUi((state) => state.behaviour.mix);
  return mixes.find(({ id }) => id === chosen) ?? mixes[0];
}

/** Clips mixed by values: which there are, and the chosen one with its clips. */
export function MixSection({ parameters }: { parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const { session } = useOpenKit();
  const set = useSetSlice('behaviour');
  const mix = useMix();
  const { mixes = [] } = kit;
  const begin = () => {
    const id = newId();
    const call = beginningMix(kit, session.blobs, parameters, id);
    if (call && run(call)) set({ mix: id, peg: null, view: 'mixes' });
  };
  return (
    <Fold title="Mixes" aside={mixes.length === 0 ? 'none' : mixes.length}>
      {mixes.length === 0 && <Box sx={small}>A mix blends clips by one or two values that the game passes in: a walk into a run.</Box>}
      {mixes.length > 0 && (
        <Box component="ul" aria-label="Mixes" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {mixes.map((one) => (
            <li key={one.id}>
              <ListRow chosen={one === mix} onClick={() => set({ mix: one.id, peg: null, view: 'mixes' })}>
                {one.name}
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  , {count(one.pegs.length, 'clip')} by {one.parameters.join(' and ')}
                </Box>
              </ListRow>
            </li>
          ))}
        </Box>
      )}
      {mix && <MixFields key={mix.id} mix={mix} parameters={parameters} />}
      <Buttons>
        <Button
          size="small"
          variant={mixes.length === 0 ? 'contained' : 'outlined'}
          disabled={numbersOf(parameters).length === 0}
          onClick={begin}
        >
          {mixes.length === 0 ? 'Mix clips by how fast they go' : 'Another mix'}
        </Button>
        {mix && <TryButton calls={() => callOf(removeMix, { mix: mix.id })}>Take the mix away</TryButton>}
      </Buttons>
    </Fold>
  );
}

function MixFields({ mix, parameters }: { mix: Mix; parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const [asked, setAsked] = useState<{ kind: MixKind; by: string[] } | null>(null);
  const { field, taken } = useDraft(mix.name, {
    take: (name) => name.trim() !== '' && void run(callOf(renameMix, { mix: mix.id, name: name.trim() })),
  });
  const numbers = numbersOf(parameters);
  const title = (name: string) => numbers.find((rule) => rule.name === name)?.title ?? name;
  const ask = (kind: MixKind, by: string[]) => {
    const wanted = parametersOfKind(kind);
    const others = [...numbers.map(({ name }) => name)].filter((name) => !by.includes(name));
    const all = [...by, ...others].slice(0, wanted);
    if (all.length < wanted) return;
    if (mixedBy(mix, kind, all).dropped.length === 0) {
      setAsked(null);
      run(callOf(setMixKind, { mix: mix.id, kind, parameters: all }));
    } else setAsked({ kind, by: all });
  };
  const dropped = asked ? mixedBy(mix, asked.kind, asked.by).dropped : [];
  const kinds = (Object.keys(KINDS) as MixKind[]).filter((kind) => parametersOfKind(kind) <= numbers.length);
  return (
    <Box sx={{ display: 'grid', gap: 1.5, mt: 1 }}>
      <TextField label="Name of the mix" size="small" {...field} slotProps={{ htmlInput: taken, inputLabel: { shrink: true } }} />
      <Choice
        label="Clips lie"
        value={asked?.kind ?? mix.kind}
        options={kinds.map((kind) => [kind, KINDS[kind]] as const)}
        onChange={(kind) => ask(kind, mix.parameters)}
      />
      {mix.parameters.map((name, i) => (
        <Choice
          key={i}
          label={i === 0 ? 'By' : 'And by'}
          value={name}
          options={[
            ...(numbers.some((rule) => rule.name === name) ? [] : [[name, `${name}, not passed in`] as const]),
            ...numbers
              .filter((rule) => rule.name === name || !mix.parameters.includes(rule.name))
              .map((rule) => [rule.name, rule.always === undefined ? rule.title : `${rule.title}, always ${rule.always} here`] as const),
          ]}
          onChange={(next) =>
            ask(
              mix.kind,
              mix.parameters.map((one, k) => (k === i ? next : one)),
            )
          }
        />
      ))}
      {asked && (
        <Box role="alert" sx={{ ...small, color: 'kit.warn' }}>
          By {asked.by.map(title).join(' and ')} {nameList(dropped.map((peg) => `“${clipName(kit, peg)}”`))} would have the place of another
          clip, and go.
          <Box sx={{ display: 'flex', gap: 1, mt: 0.5 }}>
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                run(callOf(setMixKind, { mix: mix.id, kind: asked.kind, parameters: asked.by }));
                setAsked(null);
              }}
            >
              Let {dropped.length === 1 ? 'it' : 'them'} go
            </Button>
            <Button size="small" color="inherit" onClick={() => setAsked(null)}>
              Leave it as it is
            </Button>
          </Box>
        </Box>
      )}
      {mix.pegs.map((peg) => (
        <PegFields key={peg.id} mix={mix} peg={peg} parameters={parameters} />
      ))}
      <Buttons>
        <TryButton calls={() => callOf(addPeg, { mix: mix.id, clip: null, at: freePlace(mix, parameters), speed: 1 })}>
          Add a clip
        </TryButton>
      </Buttons>
    </Box>
  );
}

/** A place of a mix where no clip is yet: beyond the outermost along its first value. */
function freePlace({ parameters: by, pegs }: Mix, parameters: readonly ParameterRule[]): number[] {
  const most = Math.max(...pegs.map(({ at }) => at[0]));
  const max = numbersOf(parameters).find(({ name }) => name === by[0])?.max ?? Infinity;
  const beyond = most + 1 <= max ? most + 1 : (Math.min(...pegs.map(({ at }) => at[0])) + most) / 2 + 0.01 * pegs.length;
  return by.map((_, i) => (i === 0 ? Math.round(100 * beyond) / 100 : 0));
}

function PegFields({ mix, peg, parameters }: { mix: Mix; peg: Peg; parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const { session } = useOpenKit();
  const chosen = useUi((state) => state.behaviour.peg);
  const say = (change: Partial<Omit<Peg, 'id'>>) => void run(callOf(setPeg, { mix: mix.id, peg: peg.id, ...change }));
  const clips = [['', 'rest'] as const, ...clipsInOrder(kit).map(({ id, name }) => [id, name] as const)];
  const name = clipName(kit, peg);
  const clip = peg.clip === null ? undefined : kit.clips[peg.clip];
  const speed = ownSpeed(kit, peg, session.blobs);
  const place = ownPlace(kit, mix, peg, session.blobs, parameters)?.map((value) => Math.round(100 * value) / 100 + 0);
  const off = place?.some((value, i) => Math.abs(value - peg.at[i]) > 0.01) ?? false;
  const steps = clip ? (peg.steps ?? stepsOf(kit, clip, session.blobs).marks) : [];
  return (
    <Box
      role="group"
      aria-label={`${name} in the mix`}
      sx={{
        display: 'grid',
        gap: 1,
        gridTemplateColumns: '1fr 1fr',
        borderTop: 1,
        borderColor: 'divider',
        pt: 1.5,
        ...(chosen === peg.id && { bgcolor: 'action.selected' }),
      }}
    >
      <Choice label="Clip" value={clip ? clip.id : ''} options={clips} onChange={(id) => say({ clip: id === '' ? null : id })} />
      <NumberField
        label={`How fast ${name} is played in the mix`}
        caption="times as fast"
        digits={3}
        min={0.01}
        max={100}
        step={0.1}
        value={peg.speed}
        onCommit={(value) => say({ speed: value })}
      />
      {mix.parameters.map((parameter, i) => {
        const rule = numbersOf(parameters).find((one) => one.name === parameter);
        return (
          <NumberField
            key={parameter}
            label={`${name} at ${rule?.title ?? parameter}`}
            caption={`at ${rule?.title ?? parameter}`}
            unit={rule?.unit}
            digits={3}
            step={0.1}
            value={peg.at[i]}
            onCommit={(value) => say({ at: peg.at.map((one, k) => (k === i ? value : one)) })}
          />
        );
      })}
      <Box sx={{ ...small, gridColumn: '1 / -1' }}>
        {speed && steps.length > 0 && `Its feet go ${figure(Math.hypot(...speed), 2)} m/s; `}
        {clip && (steps.length > 0 ? `${count(steps.length, 'step')} a round.` : 'It does not step: it keeps to its own time.')}
      </Box>
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {off && place && (
          <TryButton calls={() => callOf(setPeg, { mix: mix.id, peg: peg.id, at: place })}>
            Put it at {place.map((value) => figure(value, 2)).join(' and ')}
          </TryButton>
        )}
        {mix.pegs.length > 1 && (
          <Button size="small" color="inherit" onClick={() => run(callOf(removePeg, { mix: mix.id, peg: peg.id }))}>
            Take it out
          </Button>
        )}
      </Box>
    </Box>
  );
}
