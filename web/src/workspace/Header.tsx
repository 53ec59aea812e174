'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import Redo from '@mui/icons-material/Redo';
import Search from '@mui/icons-material/Search';
import Undo from '@mui/icons-material/Undo';
import HelpOutlined from '@mui/icons-material/HelpOutlined';
import History from '@mui/icons-material/History';
import NextLink from 'next/link';
import type { Stage } from '@itchkit/core/rulebook';
import { useOpenKit, useSession } from '../session/context';
import { KitName } from './KitName';
import { OthersSign } from './OthersSign';
import { Mark } from '../panels/Mark';
import { RouteRibbon } from './RouteRibbon';
import { SaveSign } from './SaveSign';
import { SchemeSwitch } from '../panels/SchemeSwitch';
import { TargetMenu } from './TargetMenu';

export function Header({
  stage,
  onFind,
  onHelp,
  onHistory,
}: {
  stage: Stage;
  onFind: () => void;
  onHelp: () => void;
  onHistory: () => void;
}) {
  const { session } = useOpenKit();
  const undo = useSession((state) => state.undo.at(-1)?.title);
  const redo = useSession((state) => state.redo.at(-1)?.title);
  return (
    <Box
      component="header"
      sx={{
        height: 56,
        flex: 'none',
        display: 'grid',
        gridTemplateColumns: '1fr auto 1fr',
        alignItems: 'center',
        px: 3,
        gap: 4,
        bgcolor: 'kit.sheet',
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minWidth: 0 }}>
        <Tooltip title="To the shelf">
          <IconButton component={NextLink} href="/" aria-label="To the shelf" size="small">
            <Mark />
          </IconButton>
        </Tooltip>
        <KitName />
        <SaveSign />
        <OthersSign />
        <Tooltip title={undo ? `Undo: ${undo}` : 'Nothing to undo'}>
          <span>
            <IconButton size="small" aria-label="Undo" disabled={!undo} onClick={() => session.undo()}>
              <Undo sx={{ fontSize: 18 }} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={redo ? `Redo: ${redo}` : 'Nothing to redo'}>
          <span>
            <IconButton size="small" aria-label="Redo" disabled={!redo} onClick={() => session.redo()}>
              <Redo sx={{ fontSize: 18 }} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="History (Shift H)">
          <IconButton size="small" aria-label="History" onClick={onHistory}>
            <History sx={{ fontSize: 18 }} />
          </IconButton>
        </Tooltip>
      </Box>
      <RouteRibbon stage={stage} />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, justifyContent: 'flex-end', minWidth: 0 }}>
        <TargetMenu />
        <Button onClick={onFind} startIcon={<Search />} color="inherit">
          Find
        </Button>
        <Tooltip title="Keys">
          <IconButton size="small" aria-label="Keys" onClick={onHelp}>
            <HelpOutlined sx={{ fontSize: 19 }} />
          </IconButton>
        </Tooltip>
        <SchemeSwitch />
      </Box>
    </Box>
  );
}
