'use client';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import IconButton from '@mui/material/IconButton';
import Lock from '@mui/icons-material/Lock';
import LockOpen from '@mui/icons-material/LockOpen';
import { scaleLinear } from 'd3-scale';
import { useMemo } from 'react';
import type { Id } from '@itchkit/core/document';
import type { SkinField } from '@itchkit/core/rig';
import { Section } from '../../panels/Section';
import { useKit, useSetSlice, useSetUi, useUi } from '../../session/context';

const BAR = 104;

/** How much of the surface each joint holds, as bars; a click shows it as heat on the bench, a lock keeps it as it is. */
export function SharesSection({ field, order, chosen }: { field: SkinField; order: readonly Id[]; chosen: Id | null }) {
  const kit = useKit();
  const setUi = useSetUi();
  const setRig = useSetSlice('rig');
  const locked = useUi((state) => state.rig.locked);
  const shares = useMemo(() => sharesOf(field), [field]);
  const most = Math.max(1e-6, ...shares.values());
  const bar = scaleLinear([0, most], [0, BAR]);
  return (
    <Section title="Shares by joint" aside={<span style={{ fontSize: 12 }}>of all vertices</span>}>
      <Box
        component="ul"
        tabIndex={0}
        sx={{ listStyle: 'none', m: 0, mt: 1, p: 0, maxHeight: 260, overflow: 'auto' }}
        aria-label="Shares by joint"
      >
        {order.map((id) => {
          const share = shares.get(id) ?? 0;
          const isLocked = locked.includes(id);
          return (
            <Box component="li" key={id} sx={{ display: 'flex', alignItems: 'center' }}>
              <ButtonBase
                onClick={() => setUi({ selection: [id] })}
                aria-pressed={chosen === id}
                sx={{
                  flex: 1,
                  display: 'grid',
                  gridTemplateColumns: `1fr ${BAR}px 50px`,
                  gap: 1,
                  alignItems: 'center',
                  px: 0.5,
                  py: 0.25,
                  fontSize: 12.5,
                  textAlign: 'left',
                  borderRadius: 0.5,
                  bgcolor: chosen === id ? 'kit.card' : undefined,
                  fontWeight: chosen === id ? 700 : 400,
                }}
              >
                <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                  {kit.parts[id].name}
                </Box>
                <svg width={BAR} height={10} aria-hidden>
                  <rect width={BAR} height={10} fill="currentColor" opacity={0.08} />
                  <rect width={bar(share)} height={10} fill="var(--mui-palette-kit-sea)" />
                </svg>
                <span className="figures" style={{ whiteSpace: 'nowrap' }}>
                  {(100 * share).toFixed(1)} %
                </span>
              </ButtonBase>
              <IconButton
                size="small"
                aria-pressed={isLocked}
                aria-label={`${isLocked ? 'Unlock' : 'Lock'} ${kit.parts[id].name}`}
                onClick={() => setRig({ locked: isLocked ? locked.filter((one) => one !== id) : [...locked, id] })}
              >
                {isLocked ? <Lock sx={{ fontSize: 14 }} /> : <LockOpen sx={{ fontSize: 14, opacity: 0.5 }} />}
              </IconButton>
            </Box>
          );
        })}
      </Box>
    </Section>
  );
}

function sharesOf({ rows, joints }: SkinField): Map<Id, number> {
  const width = joints.length;
  const sums = new Float64Array(width);
  for (let i = 0; i < rows.length; i++) sums[i % width] += rows[i];
  const places = Math.max(1, rows.length / Math.max(1, width));
  return new Map(joints.map((joint, j) => [joint, sums[j] / places]));
}
