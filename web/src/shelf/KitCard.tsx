'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import MoreHoriz from '@mui/icons-material/MoreHoriz';
import NextLink from 'next/link';
import { useState } from 'react';
import type { ShelfKit } from '../api';
import { formatAgo, formatCount } from '../format';
import { GradeCount } from '../ledger/GradeCount';
import { OwedMatrix } from '../ledger/OwedMatrix';
import { newestOf } from '../rulebooks';
import { FONT } from '../theme/tokens';
import { useKitActions } from './use-kit-actions';
import { Picture } from './Picture';

interface KitCardProps {
  kit: ShelfKit;
  chosen: boolean;
  onChoose: (on: boolean) => void;
}

export function KitCard({ kit, chosen, onChoose }: KitCardProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [renaming, setRenaming] = useState(false);
  const actions = useKitActions(kit);
  // The closing menu gives the keyboard back to its button; the name becomes a field only after that.
  const [renameNext, setRenameNext] = useState(false);
  const act = (run: () => void) => () => {
    setAnchor(null);
    run();
  };
  const target = kit.targets[0] && newestOf(kit.targets[0].rulebook);
  return (
    <Box
      component="li"
      data-kit={kit.name}
      sx={{
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1.5,
        overflow: 'hidden',
        position: 'relative',
        '&:hover': { borderColor: 'kit.sea' },
        '& .choose': { opacity: chosen ? 1 : 0 },
        '&:hover .choose, & .choose:focus-within': { opacity: 1 },
      }}
    >
      <Checkbox
        className="choose"
        size="small"
        checked={chosen}
        onChange={(event) => onChoose(event.target.checked)}
        slotProps={{ input: { 'aria-label': `Choose ${kit.name}` } }}
        sx={{ position: 'absolute', top: 4, left: 4, p: 0.5, zIndex: 1, bgcolor: 'kit.card', '&:hover': { bgcolor: 'kit.card' } }}
      />
      <Box
        component={NextLink}
        href={`/kits/${kit.id}/intake`}
        aria-label={`Open ${kit.name}`}
        sx={{ display: 'block', aspectRatio: '16 / 10', bgcolor: 'kit.paper', borderBottom: 1, borderColor: 'divider' }}
      >
        <Picture kit={kit} />
      </Box>
      <Box sx={{ px: 3, py: 2.5 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          {renaming ? (
            <Box
              component="input"
              aria-label="Name of the kit"
              autoFocus
              defaultValue={kit.name}
              onFocus={(event) => event.currentTarget.select()}
              onBlur={() => setRenaming(false)}
              onKeyDown={(event) => {
                if (event.key === 'Enter') void actions.rename(event.currentTarget.value).then(() => setRenaming(false));
                if (event.key === 'Escape') setRenaming(false);
              }}
              sx={{
                flex: 1,
                minWidth: 0,
                font: 'inherit',
                color: 'inherit',
                bgcolor: 'kit.sheet',
                border: 1,
                borderColor: 'kit.sea',
                borderRadius: 1,
                px: 1,
              }}
            />
          ) : (
            <Box
              component="h2"
              sx={{
                m: 0,
                flex: 1,
                fontFamily: FONT.title,
                fontSize: 15,
                fontWeight: 600,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
              }}
            >
              {kit.name}
            </Box>
          )}
          <IconButton size="small" aria-label={`What to do with ${kit.name}`} onClick={(event) => setAnchor(event.currentTarget)}>
            <MoreHoriz sx={{ fontSize: 18 }} />
          </IconButton>
        </Box>
        <Box sx={{ fontSize: 12.5, color: 'text.secondary', mb: 1.5 }}>
          {target ? `for ${target.title}` : (kit.targets[0]?.rulebook ?? 'no target')} ·{' '}
          <span className="figures">{formatCount(kit.parts)}</span> {kit.parts === 1 ? 'part' : 'parts'} ·{' '}
          <span className="figures">{formatCount(kit.triangles)}</span> {kit.triangles === 1 ? 'triangle' : 'triangles'}
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2, alignItems: 'center', fontSize: 13 }}>
          {kit.counts === null && <span>not checked yet</span>}
          {kit.counts && kit.counts.stop + kit.counts.warn + kit.counts.note === 0 && (
            <Box component="span" sx={{ color: 'kit.good', fontWeight: 600 }}>
              nothing owed
            </Box>
          )}
          {kit.counts &&
            (['stop', 'warn', 'note'] as const).map(
              (grade) => kit.counts![grade] > 0 && <GradeCount key={grade} grade={grade} count={kit.counts![grade]} />,
            )}
          <Box
            component="time"
            dateTime={kit.changedAt}
            suppressHydrationWarning
            sx={{ ml: 'auto', fontSize: 12, color: 'text.secondary', whiteSpace: 'nowrap' }}
          >
            {formatAgo(kit.changedAt)}
          </Box>
        </Box>
        {kit.targets.length > 1 && kit.owed && (
          <Box sx={{ mt: 1.5 }}>
            <OwedMatrix
              rows={kit.targets.map(({ rulebook }) => ({
                id: rulebook,
                title: newestOf(rulebook)?.title ?? rulebook,
                owed: kit.owed![rulebook] ?? {},
              }))}
            />
          </Box>
        )}
      </Box>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{
          transition: {
            onExited: () => {
              setRenaming(renameNext);
              setRenameNext(false);
            },
          },
        }}
      >
        <MenuItem onClick={act(() => setRenameNext(true))}>Rename</MenuItem>
        <MenuItem onClick={act(() => void actions.duplicate())}>Make a copy</MenuItem>
        <MenuItem component="a" href={`/api/kits/${kit.id}/archive`} download onClick={() => setAnchor(null)}>
          Export kit
        </MenuItem>
        <MenuItem component="a" href={`/api/kits/${kit.id}/archive?history=yes`} download onClick={() => setAnchor(null)}>
          Export with its revisions
        </MenuItem>
        <MenuItem onClick={act(() => void actions.remove())}>Take off the shelf</MenuItem>
      </Menu>
    </Box>
  );
}
