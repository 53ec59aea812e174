'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { ownPlace, ownSpeed, removePeg, setPeg, stepsOf, type ParameterRule } from '@itchkit/core/behaviour';
import { callOf, count, type Mix, type Peg } from '@itchkit/core/document';
import { figure } from '@itchkit/core/rulebook';
import { NumberField } from '../../../card/NumberField';
import { TryButton } from '../../../card/TryButton';
import { useKit, useOpenKit, useRun, useUi } from '../../../session/context';
import { numbersOf } from './beginnings';
import { ClipChoice } from './ClipChoice';
import { clipName } from './mix-parts';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** One clip of a mix: which it is, where it has its place, how fast it is played. */
export function PegFields({ mix, peg, parameters }: { mix: Mix; peg: Peg; parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const run = useRun();
  const { session } = useOpenKit();
  const chosen = useUi((state) => state.behaviour.peg);
  const say = (change: Partial<Omit<Peg, 'id'>>) => void run(callOf(setPeg, { mix: mix.id, peg: peg.id, ...change }));
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
      <ClipChoice mix={mix} peg={peg} />
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
