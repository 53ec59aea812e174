'use client';
import Box from '@mui/material/Box';
import { useParams } from 'next/navigation';
import { Bench } from '../bench/Bench';
import { Ledger } from '../ledger/Ledger';
import { PartsTree } from '../parts/PartsTree';
import { HistoryPanel } from '../history/HistoryPanel';
import { ViewingBar } from '../history/ViewingBar';
import { LearnLine } from '../learn/LearnLine';
import { OpenKitProvider, useUi } from '../session/context';
import { Strip as ClipStrip } from '../strip/Strip';
import { STAGES } from '../stages/list';
import type { StageDefinition } from '../stages/stage';
import { AskTarget } from './AskTarget';
import { CommandFinder } from './CommandFinder';
import { Conflict } from './Conflict';
import { Header } from './Header';
import { KeysHelp } from './KeysHelp';
import { Opening } from './Opening';
import { Panels } from '../panels/Panels';
import { useCommands } from './use-commands';
import { useOpenedKit } from './use-opened-kit';

export function Workspace({ kitId }: { kitId: string }) {
  const opened = useOpenedKit(kitId);
  const { stage } = useParams<{ stage?: string }>();
  const current = STAGES.find((one) => one.id === stage);
  if (!current) return null;
  if (opened.state !== 'open') return <Opening failure={opened.state === 'failed' ? opened.message : null} />;
  return (
    <OpenKitProvider session={opened.session} ui={opened.ui}>
      <WorkspaceFrame stage={current} />
    </OpenKitProvider>
  );
}

function WorkspaceFrame({ stage }: { stage: StageDefinition }) {
  const commands = useCommands(stage);
  const { Tools, Card, Strip } = stage;
  const tall = useUi((state) => state.strip.curves) && Strip === ClipStrip;
  return (
    <Box sx={{ height: '100vh', display: 'flex', flexDirection: 'column' }}>
      <Header stage={stage.id} onFind={commands.openFinder} onHelp={commands.openHelp} onHistory={commands.openHistory} />
      <ViewingBar />
      <Box component="main" sx={{ flex: 1, minHeight: 0 }}>
        <Panels
          left={<Ledger stage={stage.id} />}
          tools={<Tools />}
          bench={<Bench stage={stage.bench} />}
          strip={Strip ? <Strip /> : null}
          parts={<PartsTree />}
          card={<Card />}
          tall={tall}
        />
      </Box>
      <CommandFinder open={commands.finderOpen} commands={commands.list} onClose={commands.close} />
      <KeysHelp open={commands.helpOpen} commands={commands.list} onClose={commands.close} />
      <HistoryPanel open={commands.historyOpen} onClose={commands.close} />
      <Conflict />
      <AskTarget />
      <LearnLine stage={stage.id} />
    </Box>
  );
}
