'use client';
import Checkbox from '@mui/material/Checkbox';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Layers from '@mui/icons-material/Layers';
import { useState } from 'react';
import { overlaysOf } from '@itchkit/core/motion';
import { useKit, useSetSlice, useUi } from '../../session/context';
import { ToolButton } from '../../bench/BenchTools';

/** Which overlays run along with the clip that plays. */
export function OverlayMenu() {
  const kit = useKit();
  const setMotion = useSetSlice('motion');
  const open = useUi((state) => state.clip);
  const quiet = useUi((state) => state.motion.quiet);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const overlays = overlaysOf(kit).filter(({ id }) => id !== open);
  if (overlays.length === 0) return null;
  const on = overlays.filter(({ id }) => !quiet.includes(id));
  return (
    <>
      <ToolButton
        label={`Overlays ${on.length}/${overlays.length}`}
        hint="Which overlays run along with this clip"
        icon={<Layers sx={{ fontSize: 16 }} />}
        onClick={(event) => setAnchor(event.currentTarget)}
      />
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {overlays.map(({ id, name, overlay }) => {
          const runs = !quiet.includes(id);
          return (
            <MenuItem
              key={id}
              role="menuitemcheckbox"
              aria-checked={runs}
              dense
              onClick={() => setMotion({ quiet: runs ? [...quiet, id] : quiet.filter((one) => one !== id) })}
              sx={{ pl: 1 }}
            >
              <Checkbox
                size="small"
                checked={runs}
                tabIndex={-1}
                disableRipple
                slotProps={{ input: { 'aria-hidden': true, tabIndex: -1 } }}
              />
              {name}, {overlay?.place} it
            </MenuItem>
          );
        })}
        {overlays.length > 1 && <Divider />}
        {overlays.length > 1 && (
          <MenuItem dense onClick={() => setMotion({ quiet: on.length > 0 ? overlays.map(({ id }) => id) : [] })}>
            {on.length > 0 ? 'None of them' : 'All of them'}
          </MenuItem>
        )}
      </Menu>
    </>
  );
}
