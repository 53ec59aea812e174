'use client';
import Divider from '@mui/material/Divider';
import ListSubheader from '@mui/material/ListSubheader';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import AccountTreeOutlined from '@mui/icons-material/AccountTreeOutlined';
import DriveFileRenameOutline from '@mui/icons-material/DriveFileRenameOutline';
import { useState } from 'react';
import { callOf, newId, type Id, type Role, type Vec3 } from '@itchkit/core/document';
import { restBounds, restWorlds, isEmptyBounds } from '@itchkit/core/geometry';
import { dissolveParents, insertParent, setRole } from '@itchkit/core/shape';
import { fittingName, roleOf } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRulebook, useRun, useUi } from '../../session/context';
import { useTrying } from '../../card/TryButton';
import { ToolButton } from '../../bench/BenchTools';
import { RenameMany } from './RenameMany';

const PLACES = ['At the middle of their bounds', 'At the bottom of their bounds', 'At the first one’s pivot', 'At the origin'] as const;

/** Names of many, and parents above and below. */
export function HierarchyTools() {
  const kit = useKit();
  const rulebook = useRulebook();
  const { session } = useOpenKit();
  const run = useRun();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const [renaming, setRenaming] = useState(false);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);

  const placeOf = (place: (typeof PLACES)[number]): Vec3 => {
    if (place === 'At the origin') return [0, 0, 0];
    const world = restWorlds(kit).get(selection[0])!;
    const pivot: Vec3 = [world[12], world[13], world[14]];
    const bounds = restBounds(kit, session.blobs, selection);
    if (place === 'At the first one’s pivot' || isEmptyBounds(bounds)) return pivot;
    const middle = (axis: number) => (bounds.min[axis] + bounds.max[axis]) / 2;
    return [middle(0), place === 'At the bottom of their bounds' ? bounds.min[1] : middle(1), middle(2)];
  };
  const { trying, stop } = useTrying();
  const close = () => {
    stop();
    setAnchor(null);
  };
  const inserting = (place: (typeof PLACES)[number], id: Id) => {
    const name = (rulebook && fittingName(rulebook, 'carrier', null)) ?? 'carrier';
    return callOf(insertParent, { id, parts: selection, name, at: placeOf(place) });
  };
  const insert = (place: (typeof PLACES)[number]) => {
    close();
    run(inserting(place, newId()));
  };
  const rolesByName = () => {
    if (!rulebook) return [];
    const byRole = new Map<Role, Id[]>();
    for (const part of Object.values(kit.parts)) {
      const role = roleOf(rulebook, part);
      if (part.role === null && role !== null) byRole.set(role, [...(byRole.get(role) ?? []), part.id]);
    }
    return [...byRole].map(([role, parts]) => callOf(setRole, { parts, role }));
  };
  const writeRoles = () => {
    close();
    const calls = rolesByName();
    if (calls.length > 0) run(calls, 'Write the roles that names tell');
  };
  const dissolve = () => {
    close();
    run(callOf(dissolveParents, { parts: selection }));
  };

  return (
    <>
      <ToolButton
        label="Names"
        hint="Rename many parts at once"
        icon={<DriveFileRenameOutline sx={{ fontSize: 18 }} />}
        onClick={() => setRenaming(true)}
      />
      <ToolButton
        label="Parents"
        hint="A parent above the chosen parts, or the chosen parents out; roles by name"
        icon={<AccountTreeOutlined sx={{ fontSize: 17 }} />}
        onClick={(event) => setAnchor(event.currentTarget)}
      />
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
        <ListSubheader sx={{ lineHeight: 2.4 }}>Insert one above the chosen parts</ListSubheader>
        {PLACES.map((place) => (
          <MenuItem
            key={place}
            disabled={selection.length === 0}
            {...trying(() => inserting(place, 'inserted'))}
            onClick={() => insert(place)}
          >
            {place}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem {...trying(rolesByName)} onClick={writeRoles}>
          Write the roles that names tell, for all parts
        </MenuItem>
        <MenuItem disabled={selection.length === 0} {...trying(() => callOf(dissolveParents, { parts: selection }))} onClick={dissolve}>
          Dissolve the chosen parents; what they carry stays where it is
        </MenuItem>
      </Menu>
      {renaming && <RenameMany onClose={() => setRenaming(false)} />}
    </>
  );
}
