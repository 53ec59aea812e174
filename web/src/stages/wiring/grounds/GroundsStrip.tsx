'use client';
import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import { callOf, clipsInOrder, type GroundsState } from '@itchkit/core/document';
import { setState, statePlays, type StatePlay } from '@itchkit/core/grounds';
import { figure, type Rulebook } from '@itchkit/core/rulebook';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { useKit, useRun } from '../../../session/context';

/** What plays in each state of the platform, and the one timeline that the package has of it. */
export function GroundsStrip({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const rules = rulebook.grounds!;
  const plays = statePlays(kit, rules);
  const rate = rulebook.motion?.rate ?? 30;
  const moving = plays.filter(({ clip }) => clip !== null);
  // In the order in which they are baked: what goes over takes its time before the state, and what comes back after it.
  const spans = plays.map((play, i) => (play.clip ? play.to - play.from : 0) + play.over + (i > 0 ? plays[0].over : 0));
  const whole = spans.reduce((sum, seconds) => sum + seconds, 0);
  const left = kit.clips && clipsInOrder(kit).filter((clip) => !clip.overlay && !moving.some((play) => play.clip?.id === clip.id));
  return (
    <Box component="section" aria-label="States" sx={{ height: '100%', overflow: 'auto', bgcolor: 'kit.sheet', px: 2.5, py: 1.5 }}>
      <Box sx={{ display: 'grid', gap: 1.5, minWidth: 610 }}>
        {plays.map((play) => (
          <StateRow key={play.rule.name} play={play} said={kit.grounds?.states.find(({ state }) => state === play.rule.name)} />
        ))}
      </Box>
      {whole > 0 && <TimelineBar plays={plays} spans={spans} whole={whole} />}
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', mt: 0.75 }}>
        {whole > 0
          ? `${figure(whole, 2)} s, ${Math.round(whole * rate)} frames at ${rate} a second in the package`
          : 'Nothing plays yet: it stands as it was built'}
        {left.length > 0 && `; ${left.map(({ name }) => `“${name}”`).join(', ')} ${left.length === 1 ? 'stays' : 'stay'} behind`}
      </Box>
    </Box>
  );
}

function StateRow({ play: { rule, clip, from, to, over }, said }: { play: StatePlay; said: GroundsState | undefined }) {
  const kit = useKit();
  const run = useRun();
  const say = (change: Partial<GroundsState>) =>
    void run(callOf(setState, { state: rule.name, clip: clip?.id ?? null, from, to: said?.to ?? null, over, ...change }));
  const options = [['', 'nothing'] as const, ...clipsInOrder(kit).map(({ id, name }) => [id, name] as const)];
  return (
    <Box
      role="group"
      aria-label={rule.title}
      sx={{ display: 'grid', gridTemplateColumns: '130px 150px repeat(3, 96px) 1fr', gap: 1.5, alignItems: 'center' }}
    >
      <Box>
        <Box sx={{ fontWeight: 600, fontSize: 13 }}>{rule.title}</Box>
        <Box sx={{ fontSize: 11.5, color: 'text.secondary', lineHeight: 1.3 }}>{rule.about}</Box>
      </Box>
      <Choice
        label={`${rule.title} plays`}
        value={clip?.id ?? ''}
        options={options}
        onChange={(id) => say({ clip: id === '' ? null : id, from: 0, to: null })}
      />
      <NumberField
        label={`${rule.title} begins`}
        caption="from"
        unit="s"
        digits={3}
        min={0}
        step={0.1}
        disabled={!clip}
        value={clip ? from : null}
        onCommit={(value) => value < to && say({ from: value })}
      />
      <NumberField
        label={`${rule.title} ends`}
        caption="to"
        unit="s"
        digits={3}
        min={0}
        step={0.1}
        disabled={!clip}
        value={clip ? to : null}
        onCommit={(value) => value > from && say({ to: clip && value >= clip.lengthSeconds ? null : value })}
      />
      <NumberField
        label={`Goes over into ${rule.title} in`}
        caption="goes over in"
        unit="s"
        digits={2}
        min={0}
        max={60}
        step={0.1}
        value={over}
        onCommit={(value) => say({ over: value })}
      />
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{rule.kind === 'rides' ? 'visitors are carried' : 'visitors get on and off'}</Box>
    </Box>
  );
}

const [WIDTH, HEIGHT] = [900, 26];

/** The one timeline: a stretch for each state, hatched where one goes over into the next. */
function TimelineBar({ plays, spans, whole }: { plays: StatePlay[]; spans: number[]; whole: number }) {
  const x = scaleLinear([0, whole], [0, WIDTH]);
  const starts = spans.map((_, i) => spans.slice(0, i).reduce((sum, seconds) => sum + seconds, 0));
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={plays.map(({ rule }, i) => `${rule.title} ${figure(spans[i], 2)} s`).join(', ')}
      sx={{ width: '100%', height: HEIGHT, mt: 2, display: 'block' }}
    >
      {plays.map(({ rule, clip, from, to, over }, i) => (
        <g key={rule.name}>
          <Box
            component="rect"
            x={x(starts[i])}
            y={2}
            width={Math.max(0, x(spans[i]) - 2)}
            height={HEIGHT - 4}
            sx={{ fill: 'currentColor', opacity: 0.12 }}
          />
          {clip && (
            <Box
              component="rect"
              x={x(starts[i] + over)}
              y={6}
              width={Math.max(1, x(to - from) - 2)}
              height={HEIGHT - 12}
              sx={{ fill: 'var(--mui-palette-kit-sea, #0E5A6B)', opacity: rule.kind === 'rides' ? 1 : 0.6 }}
            />
          )}
        </g>
      ))}
    </Box>
  );
}
