'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { OwnNumbers, valuesAtStart, type Values } from '@itchkit/core/behaviour';
import type { Rulebook } from '@itchkit/core/rulebook';
import { Empty } from '../../../panels/Section';
import { useKit, useSetSlice, useUi } from '../../../session/context';
import { BehaviourMap } from './BehaviourMap';
import { BenchBody } from './BenchBody';
import { MixPicture } from './MixPicture';
import { useMix } from './MixSection';
import { PassageTable } from './PassageTable';
import type { BehaviourUi } from './behaviour-state';
import { ValueField } from './ValueField';
import { Toggles } from '../../../panels/Toggles';

/** All passages, layer by layer, in the order in which they are looked at; beside them what is passed in, and what comes of it. */
export function BehaviourStrip({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const own = useUi((state) => state.behaviour);
  const { parameters } = rulebook.behaviours!;
  const numbers = new OwnNumbers(kit.derived, parameters);
  const values: Values = numbers.with({ ...valuesAtStart(parameters), ...own.values });
  const layers = kit.behaviour?.layers ?? [];
  const mix = useMix();
  const set = useSetSlice('behaviour');
  const views: [BehaviourUi['view'], string][] = [
    ['passages', 'Passages'],
    ['map', 'Route map'],
    ...(mix ? [['mixes', mix.name] as [BehaviourUi['view'], string]] : []),
  ];
  const view = views.some(([one]) => one === own.view) ? own.view : 'passages';
  return (
    <Box component="section" aria-label="Behaviour" sx={{ height: '100%', display: 'flex', bgcolor: 'kit.sheet', minWidth: 0 }}>
      {own.playing && <BenchBody rules={rulebook.behaviours!} />}
      <Box sx={{ flex: '1 1 66%', minWidth: 0, display: 'flex', flexDirection: 'column' }}>
        {layers.length > 0 && (
          <Box sx={{ display: 'flex', gap: 2, px: 2.5, pt: 1.5, flex: 'none' }}>
            <Toggles label="What stands here" value={view} options={views} onChange={(next) => set({ view: next })} />
            {view === 'passages' && (
              <TextField
                size="small"
                placeholder="find a clip, value or state"
                value={own.search}
                onChange={(event) => set({ search: event.target.value })}
                slotProps={{ htmlInput: { 'aria-label': 'Find passages', sx: { py: 0.4, fontSize: 12.5 } } }}
                sx={{ flex: 1, maxWidth: 240 }}
              />
            )}
          </Box>
        )}
        <Box sx={{ flex: 1, minHeight: 0, overflow: view === 'map' ? 'hidden' : 'auto', px: view === 'map' ? 0 : 2.5, pb: 1 }}>
          {view === 'mixes' && mix && <MixPicture mix={mix} parameters={parameters} values={values} />}
          {view === 'map' && <BehaviourMap layers={layers} parameters={parameters} values={values} />}
          {view === 'passages' &&
            layers.map((layer) => <PassageTable key={layer.id} layer={layer} parameters={parameters} values={values} />)}
          {layers.length === 0 && <Empty>Nothing says what plays when. Begin with a layer, on the right; its passages stand here.</Empty>}
        </Box>
      </Box>
      <Box
        role="group"
        aria-label="What if"
        sx={{
          flex: '0 0 230px',
          overflowY: 'auto',
          borderLeft: 1,
          borderColor: 'divider',
          px: 2,
          py: 1.5,
          display: 'grid',
          gap: 2.25,
          alignContent: 'start',
        }}
      >
        <Box sx={{ fontWeight: 600, fontSize: 13 }}>What if the game passes in</Box>
        {layers.length > 0 && (
          <Button
            size="small"
            variant={own.playing ? 'contained' : 'outlined'}
            aria-pressed={own.playing}
            onClick={() => set({ playing: !own.playing })}
          >
            {own.playing ? 'Play it no more' : 'Play it on the bench'}
          </Button>
        )}
        {parameters.map((rule) => (
          <ValueField key={rule.name} rule={rule} value={values[rule.name]} />
        ))}
      </Box>
    </Box>
  );
}
