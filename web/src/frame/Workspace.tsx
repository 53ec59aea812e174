'use client';
import Box from '@mui/material/Box';
import { useParams } from 'next/navigation';
import type { Stage } from '@itchkit/core/rulebook';
import { Bench } from '../bench/Bench';
import { Ledger } from '../ledger/Ledger';
import { PartsTree } from '../parts/PartsTree';
import { HistoryPanel } from '../history/HistoryPanel';
import { ViewingBar } from '../history/ViewingBar';
import { OpenKitProvider } from '../session/context';
import { STAGE_VIEWS } from '../stages/views';
import { BUILT_STAGES } from '../stages/stages';
import { CommandFinder } from './CommandFinder';
import { Conflict } from './Conflict';
import { Header } from './Header';
import { KeysHelp } from './KeysHelp';
import { Opening } from './Opening';
import { Panels } from './Panels';
import { useCommands } from './use-commands';
import { useOpenedKit } from './use-opened-kit';

export function Workspace({ kitId }: { kitId: string }) {
  const opened = useOpenedKit(kitId);
  const { stage } = useParams<{ stage?: string }>();
  const current = BUILT_STAGES.find((one) => one.id === stage)?.id;
  if (!current) return null;
  if (opened.state !== 'open') return <Opening failure={opened.state === 'failed' ? opened.message : null} />;
  return (
    <OpenKitProvider session={opened.session} ui={opened.ui} trial={opened.trial}>
      <WorkspaceFrame stage={current} />
    </OpenKitProvider>
  );
}

function WorkspaceFrame({ stage }: { stage: Stage }) {
  const commands = useCommands(stage);
  const { Tools, Card, Strip } = STAGE_VIEWS[stage]!;
  return (
    <Box sx={{ height: '100vh', display: 'flex', flexDirection: 'column' }}>
      <Header stage={stage} onFind={commands.openFinder} onHelp={commands.openHelp} onHistory={commands.openHistory} />
      <ViewingBar />
      <Box component="main" sx={{ flex: 1, minHeight: 0 }}>
        <Panels
          left={<Ledger stage={stage} />}
          tools={<Tools />}
          bench={<Bench stage={stage} />}
          strip={Strip ? <Strip /> : null}
          parts={<PartsTree />}
          card={<Card />}
        />
      </Box>
      <CommandFinder open={commands.finderOpen} commands={commands.list} onClose={commands.close} />
      <KeysHelp open={commands.helpOpen} commands={commands.list} onClose={commands.close} />
      <HistoryPanel open={commands.historyOpen} onClose={commands.close} />
      <Conflict />
    </Box>
  );
}
