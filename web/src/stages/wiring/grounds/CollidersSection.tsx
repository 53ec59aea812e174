'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import Close from '@mui/icons-material/Close';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMemo, useState } from 'react';
import { callOf, type Collider } from '@itchkit/core/document';
import { fitColliders, fitOf, joinColliders, ownPoints, removeColliders } from '@itchkit/core/grounds';
import { figure, type Rulebook } from '@itchkit/core/rulebook';
import { TryButton } from '../../../card/TryButton';
import { Buttons, Fold } from '../../../panels/Fold';
import { useKit, useOpenKit, useRun, useSetUi, useUi } from '../../../session/context';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };
const SHAPES = [
  ['box', 'A box'],
  ['capsule', 'A capsule'],
  ['hull', 'A hull'],
] as const;

/** What visitors can’t walk through: fitted to the chosen parts, and how well each fits. */
export function CollidersSection({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const shown = selection.filter((id) => kit.parts[id].mesh !== null);
  const [snaps, setSnaps] = useState(false);
  const colliders = kit.colliders ?? [];
  const own = colliders.filter(({ part }) => selection.includes(part));
  const half = rulebook.tileMetres / 2;
  return (
    <Fold title="Colliders" aside={colliders.length || 'none'}>
      {shown.length === 0 && <Box sx={small}>Choose parts that visitors should not walk through, and fit a shape to each.</Box>}
      {shown.length > 0 && (
        <>
          <Box sx={small}>About {shown.length === 1 ? `“${kit.parts[shown[0]].name}”` : `each of ${shown.length} parts`}:</Box>
          <Buttons>
            {SHAPES.map(([shape, title]) => (
              <TryButton
                key={shape}
                calls={() => callOf(fitColliders, { parts: shown, shape, snap: snaps && shape === 'box' ? half : null })}
              >
                {title}
              </TryButton>
            ))}
          </Buttons>
          <FormControlLabel
            control={<Checkbox size="small" checked={snaps} onChange={(_, on) => setSnaps(on)} />}
            label={`Boxes on half tiles (${half} m)`}
            sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
          />
        </>
      )}
      {own.length > 1 && (
        <Buttons>
          <TryButton calls={() => callOf(joinColliders, { colliders: own.map(({ id }) => id) })}>Make one of these {own.length}</TryButton>
        </Buttons>
      )}
      {colliders.length > 0 && (
        <Box component="ul" aria-label="Colliders" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {colliders.map((one) => (
            <ColliderLine key={one.id} collider={one} />
          ))}
        </Box>
      )}
    </Fold>
  );
}

/** A collider: what it is for, the share of it that is inside, and how far it stands out. */
function ColliderLine({ collider }: { collider: Collider }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const part = kit.parts[collider.part];
  const fit = useMemo(
    () => (part.mesh === null ? null : fitOf(collider, ownPoints(kit, session.blobs, collider.part))),
    [kit, session, collider, part],
  );
  return (
    <Box component="li" sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 12.5 }}>
      <Box
        component="button"
        type="button"
        onClick={() => setUi({ selection: [collider.part] })}
        sx={{ border: 0, bgcolor: 'transparent', p: 0, font: 'inherit', color: 'inherit', cursor: 'pointer', flex: 1, textAlign: 'left' }}
      >
        {part.name}, {collider.shape}
        {fit && (
          <Box component="span" className="figures" sx={{ color: 'text.secondary' }}>
            {' '}
            {figure(100 * fit.inside, 0)} % inside, stands {figure(1000 * fit.beyond, 0)} mm out
          </Box>
        )}
      </Box>
      <Tooltip title="Take it away">
        <IconButton
          size="small"
          aria-label={`Take the ${collider.shape} of ${part.name} away`}
          onClick={() => run(callOf(removeColliders, { colliders: [collider.id] }))}
        >
          <Close sx={{ fontSize: 16 }} />
        </IconButton>
      </Tooltip>
    </Box>
  );
}
