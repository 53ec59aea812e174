'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import MyLocation from '@mui/icons-material/MyLocation';
import { useState } from 'react';
import { callOf, type Id } from '@itchkit/core/document';
import { MOTION_SKELETONS, rolesByName, sayMotionRoles, type JointRoles, type MotionSkeleton, type SidedRole } from '@itchkit/core/motion';
import { Choice } from '../../card/Choice';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useRun, useUi } from '../../session/context';
import { PartChoice } from '../intake/PartChoice';
import { rolesFor, roleTitle, SKELETON_TITLES } from './role-titles';

const KINDS = MOTION_SKELETONS.map((kind) => [kind, SKELETON_TITLES[kind]] as const);

/** The kind of skeleton most of whose roles are known. */
const likeliest = (roles: JointRoles): MotionSkeleton => {
  const share = (kind: MotionSkeleton) => rolesFor(kind).filter((role) => roles[role] !== undefined).length / rolesFor(kind).length;
  return [...MOTION_SKELETONS].sort((a, b) => share(b) - share(a))[0];
};

/** Which joint is for what, where names do not say it. */
export function MotionRoles({ roles }: { roles: JointRoles }) {
  const kit = useKit();
  const run = useRun();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const [kind, setKind] = useState(() => likeliest(roles));
  const wanted = rolesFor(kind);
  const known = wanted.filter((role) => roles[role] !== undefined).length;
  const say = (role: SidedRole, part: Id | null) => {
    const said = { ...kit.motionRoles, [role]: part };
    if ((rolesByName(kit)[role] ?? null) === part) delete said[role];
    run(callOf(sayMotionRoles, { roles: said }));
  };
  return (
    <Fold title="Joints" aside={<span className="figures">{`${known}/${wanted.length}`}</span>}>
      <Choice label="Skeleton" value={kind} options={KINDS} onChange={setKind} />
      <Table size="small" padding="none" aria-label="What joints are for">
        <TableHead>
          <TableRow>
            <TableCell>For</TableCell>
            <TableCell>In this kit</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {wanted.map((role) => (
            <TableRow key={role}>
              <TableCell sx={{ fontWeight: kit.motionRoles && role in kit.motionRoles ? 600 : 400 }}>{roleTitle(role)}</TableCell>
              <TableCell sx={{ whiteSpace: 'nowrap' }}>
                <PartChoice of={roleTitle(role)} value={roles[role] ?? null} none="none" onChange={(part) => say(role, part)} />
                {selection.length === 1 && selection[0] !== roles[role] && (
                  <IconButton
                    size="small"
                    title={`“${kit.parts[selection[0]].name}”, which is chosen`}
                    aria-label={`The chosen part is the ${roleTitle(role)}`}
                    onClick={() => say(role, selection[0])}
                  >
                    <MyLocation sx={{ fontSize: 16 }} />
                  </IconButton>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        Known by their names, unless you say otherwise here. A part that is chosen on the bench can be put into a row.
      </Box>
      {kit.motionRoles && (
        <Buttons>
          <Button onClick={() => run(callOf(sayMotionRoles, { roles: {} }))}>By their names again</Button>
        </Buttons>
      )}
    </Fold>
  );
}
