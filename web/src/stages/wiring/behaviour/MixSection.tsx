'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import {
  addPeg,
  MIX_KIND_WORDS,
  mirrorCalls,
  mixedBy,
  removeMix,
  renameMix,
  setMixKind,
  unmirrored,
  type ParameterRule,
} from '@itchkit/core/behaviour';
import { callOf, count, freeName, newId, parametersOfKind, type Mix, type MixKind } from '@itchkit/core/document';
import { nameList, twinName } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { TryButton } from '../../../card/TryButton';
import { useDraft } from '../../../card/use-draft';
import { Buttons, Fold } from '../../../panels/Fold';
import { ListRow } from '../../../panels/ListRow';
import { useKit, useOpenKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { beginningMix, numbersOf } from './beginnings';
import { clipName } from './mix-parts';
import { PegFields } from './PegFields';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

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
  const oneSided = unmirrored(mix, parameters).length;
  const dropped = asked ? mixedBy(mix, asked.kind, asked.by).dropped : [];
  const kinds = (Object.keys(MIX_KIND_WORDS) as MixKind[]).filter((kind) => parametersOfKind(kind) <= numbers.length);
  return (
    <Box sx={{ display: 'grid', gap: 1.5, mt: 1 }}>
      <TextField label="Name of the mix" size="small" {...field} slotProps={{ htmlInput: taken, inputLabel: { shrink: true } }} />
      <Choice
        label="Clips lie"
        value={asked?.kind ?? mix.kind}
        options={kinds.map((kind) => [kind, MIX_KIND_WORDS[kind]] as const)}
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
        {oneSided > 0 && (
          <TryButton
            calls={() => mirrorCalls(kit, mix, parameters, mirroredName)}
            step={`Mirror ${count(oneSided, 'clip')} of “${mix.name}” to the other side`}
          >
            Mirror {count(oneSided, 'clip')} to the other side
          </TryButton>
        )}
      </Buttons>
    </Box>
  );
}

/** “step_left” becomes “step_right”; what tells no side is called mirrored. */
function mirroredName(name: string, taken: Set<string>): string {
  const twin = twinName(name);
  return freeName(twin === name ? `${name}_mirrored` : twin, taken);
}

/** A place of a mix where no clip is yet: beyond the outermost along its first value. */
function freePlace({ parameters: by, pegs }: Mix, parameters: readonly ParameterRule[]): number[] {
  const most = Math.max(...pegs.map(({ at }) => at[0]));
  const max = numbersOf(parameters).find(({ name }) => name === by[0])?.max ?? Infinity;
  const beyond = most + 1 <= max ? most + 1 : (Math.min(...pegs.map(({ at }) => at[0])) + most) / 2 + 0.01 * pegs.length;
  return by.map((_, i) => (i === 0 ? Math.round(100 * beyond) / 100 : 0));
}
