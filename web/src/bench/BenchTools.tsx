'use client';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import ToggleButton from '@mui/material/ToggleButton';
import Tooltip from '@mui/material/Tooltip';
import CenterFocusStrong from '@mui/icons-material/CenterFocusStrong';
import OpenWith from '@mui/icons-material/OpenWith';
import RotateRight from '@mui/icons-material/RotateRight';
import AspectRatio from '@mui/icons-material/AspectRatio';
import Man from '@mui/icons-material/Man';
import Straighten from '@mui/icons-material/Straighten';
import type { MouseEvent, ReactNode } from 'react';
import { useOpenKit, useSetUi, useUi } from '../session/context';
import type { Gizmo } from '../session/ui-store';

/** A word with its icon that stays pressed. */
export function Toggle({
  on,
  onChange,
  label,
  keys,
  icon,
}: {
  on: boolean;
  onChange: () => void;
  label: string;
  keys?: string;
  icon: ReactNode;
}) {
  return (
    <Tooltip title={keys ? `${label} (${keys})` : label} describeChild>
      <ToggleButton
        value={label}
        selected={on}
        onChange={onChange}
        size="small"
        sx={{
          border: 0,
          px: 0.5,
          py: 0.5,
          gap: 0.75,
          whiteSpace: 'nowrap',
          textTransform: 'none',
          fontWeight: 500,
          color: 'text.primary',
          '&.Mui-selected': { bgcolor: 'kit.card', boxShadow: (t) => `inset 0 -2px 0 ${t.vars!.palette.kit.signal}` },
        }}
      >
        {icon}
        {label}
      </ToggleButton>
    </Tooltip>
  );
}

interface ToolButtonProps {
  label: string;
  name?: string;
  hint: string;
  icon: ReactNode;
  disabled?: boolean;
  onClick: (event: MouseEvent<HTMLElement>) => void;
}

/** A word with its icon in the row of tools. @param name What it is called where the word alone would not say. */
export function ToolButton({ label, name, hint, icon, disabled, onClick }: ToolButtonProps) {
  return (
    <Tooltip title={hint} describeChild>
      <span>
        <Button
          color="inherit"
          aria-label={name}
          startIcon={icon}
          disabled={disabled}
          onClick={onClick}
          sx={{ px: 0.5, py: 0.5, fontWeight: 500, whiteSpace: 'nowrap', '& .MuiButton-startIcon': { mr: 0.75 } }}
        >
          {label}
        </Button>
      </span>
    </Tooltip>
  );
}

const GIZMOS: { id: Gizmo; label: string; keys: string; icon: ReactNode }[] = [
  { id: 'move', label: 'Move', keys: 'M', icon: <OpenWith sx={{ fontSize: 17 }} /> },
  { id: 'turn', label: 'Turn', keys: 'T', icon: <RotateRight sx={{ fontSize: 17 }} /> },
  { id: 'size', label: 'Size', keys: 'Z', icon: <AspectRatio sx={{ fontSize: 17 }} /> },
];

/** Handles on the bench for the one chosen part. */
export function GizmoTools() {
  const gizmo = useUi((state) => state.gizmo);
  const setUi = useSetUi();
  return (
    <>
      {GIZMOS.map(({ id, label, keys, icon }) => (
        <Toggle
          key={id}
          on={gizmo === id}
          onChange={() => setUi({ gizmo: gizmo === id ? null : id })}
          label={label}
          keys={keys}
          icon={icon}
        />
      ))}
      <Divider orientation="vertical" flexItem sx={{ mx: 0.5 }} />
    </>
  );
}

/** What is drawn around the kit. */
export function ViewTools({ callouts: offersCallouts = false }: { callouts?: boolean }) {
  const { ui } = useOpenKit();
  const person = useUi((state) => state.person);
  const callouts = useUi((state) => state.callouts);
  const setUi = useSetUi();
  return (
    <>
      <Button
        color="inherit"
        startIcon={<CenterFocusStrong sx={{ fontSize: 17 }} />}
        sx={{ fontWeight: 500, px: 1, '& .MuiButton-startIcon': { mr: 0.75 } }}
        onClick={() => setUi({ frameRequest: { parts: ui.getState().selection, nonce: ui.getState().frameRequest.nonce + 1 } })}
      >
        Frame
      </Button>
      <Toggle on={person} onChange={() => setUi({ person: !person })} label="Person" icon={<Man sx={{ fontSize: 17 }} />} />
      {offersCallouts && (
        <Toggle on={callouts} onChange={() => setUi({ callouts: !callouts })} label="Sizes" icon={<Straighten sx={{ fontSize: 17 }} />} />
      )}
    </>
  );
}
