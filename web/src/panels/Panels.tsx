'use client';
import Box from '@mui/material/Box';
import { useEffect, type ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout, usePanelRef } from 'react-resizable-panels';
import { ToolRow } from './ToolRow';

interface PanelsProps {
  left: ReactNode;
  tools: ReactNode;
  bench: ReactNode;
  strip: ReactNode | null;
  parts: ReactNode;
  card: ReactNode;
  /** Whether the strip shows something that wants to be seen at large: it grows for that long. */
  tall: boolean;
}

function Bar({ vertical = false }: { vertical?: boolean }) {
  return (
    <Separator>
      <Box
        sx={{
          [vertical ? 'width' : 'height']: '5px',
          [vertical ? 'height' : 'width']: '100%',
          bgcolor: 'kit.line',
          opacity: 0.6,
          '&:hover': { bgcolor: 'kit.sea', opacity: 1 },
        }}
      />
    </Separator>
  );
}

/** Share of the middle that a tall strip has, per cent. */
const TALL = 55;

const shownOf = (panel: ReturnType<typeof usePanelRef>) => panel.current;

/** Makes the strip tall, and as it was again afterwards, unless a person made it another size meanwhile. */
function useTallStrip(panel: ReturnType<typeof usePanelRef>, tall: boolean): void {
  useEffect(() => {
    const { current } = panel;
    if (!tall || !current) return;
    const before = current.getSize().asPercentage;
    if (before >= TALL) return;
    current.resize(`${TALL}%`);
    return () => {
      // Where the strip went with its stage there is nothing to bring back.
      const there = shownOf(panel);
      if (there && Math.abs(there.getSize().asPercentage - TALL) < 1) there.resize(`${before}%`);
    };
  }, [panel, tall]);
}

/** Ledger, bench with its strip, parts and card. Sizes are remembered in the browser. */
export function Panels({ left, tools, bench, strip, parts, card, tall }: PanelsProps) {
  const stripPanel = usePanelRef();
  useTallStrip(stripPanel, tall);
  const columns = useDefaultLayout({ id: 'itch-kit/columns' });
  const middle = useDefaultLayout({ id: 'itch-kit/middle', panelIds: strip ? ['bench', 'strip'] : ['bench'] });
  const right = useDefaultLayout({ id: 'itch-kit/right' });
  return (
    <Group orientation="horizontal" {...columns} style={{ height: '100%' }}>
      <Panel id="ledger" defaultSize="288px" minSize="220px" maxSize="420px">
        {left}
      </Panel>
      <Bar vertical />
      <Panel id="middle" minSize="380px">
        <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
          <ToolRow>{tools}</ToolRow>
          <Group key={strip ? 'with-strip' : 'alone'} orientation="vertical" {...middle} style={{ flex: 1, minHeight: 0 }}>
            <Panel id="bench" minSize="140px">
              {bench}
            </Panel>
            {strip && <Bar />}
            {strip && (
              <Panel id="strip" panelRef={stripPanel} defaultSize="240px" minSize="120px">
                {strip}
              </Panel>
            )}
          </Group>
        </Box>
      </Panel>
      <Bar vertical />
      <Panel id="right" defaultSize="304px" minSize="240px" maxSize="460px">
        <Group orientation="vertical" {...right} style={{ height: '100%' }}>
          <Panel id="parts" defaultSize="38%" minSize="110px">
            <Box sx={{ height: '100%', bgcolor: 'kit.sheet' }}>{parts}</Box>
          </Panel>
          <Bar />
          <Panel id="card" minSize="140px">
            <Box component="section" aria-label="Card" tabIndex={0} sx={{ height: '100%', overflowY: 'auto', bgcolor: 'kit.sheet' }}>
              {card}
            </Box>
          </Panel>
        </Group>
      </Panel>
    </Group>
  );
}
