'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import { freeName, newId, type Call, type Id } from '@itchkit/core/document';
import { AS_IT_IS, rolesOf } from '@itchkit/core/motion';
import { Buttons } from '../../panels/Fold';
import { SideDrawer } from '../../panels/SideDrawer';
import { useKit, useOpenKit, useRulebook, useRun, useSetUi } from '../../session/context';
import { endPreview, startPreview } from '../../strip/playing';
import { callsFor, hasMatch, titleOf, type Fit, type MotionSource } from './motion-source';
import { MotionFit } from './MotionFit';
import { MotionRoles } from './MotionRoles';
import { MotionSources } from './MotionSources';

const TRIED = 'tried-motion';
const IN_PLACE: Fit = { choices: { ...AS_IT_IS, inPlace: true }, pinned: false };

/** What is chosen below a long list is scrolled to. */
const intoView = (own: HTMLElement | null) => own?.scrollIntoView({ block: 'nearest' });

/** Motions that ship, of another kit, or of a file: one is tried on this kit's skeleton while it is chosen, fitted, and put into a clip. */
export function MotionLibrary({ onClose }: { onClose: () => void }) {
  const kit = useKit();
  const { ui } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const rulebook = useRulebook();
  const roles = useMemo(() => rolesOf(kit), [kit]);
  const [chosen, setChosen] = useState<MotionSource | null>(null);
  const [fit, setFit] = useState<Fit>(IN_PLACE);
  const [name, setName] = useState('');
  // What was put on is in view once the drawer is closed.
  const [put, setPut] = useState<{ clip: Id; name: string } | null>(null);
  const close = () => {
    onClose();
    if (put) setTimeout(() => setUi({ clip: put.clip, time: 0, playing: false, keys: [] }));
  };
  const taken = useMemo(() => new Set(Object.values(kit.clips).map((clip) => clip.name)), [kit]);
  const rate = rulebook?.motion?.rate ?? 30;
  const calls = useMemo((): Call[] | null => chosen && callsFor(kit, chosen, fit, rate, TRIED, 'tried'), [chosen, fit, kit, rate]);
  // It plays on the bench while it is chosen.
  useEffect(() => {
    if (!calls) return;
    ui.setState({ proposal: calls, compare: false });
    startPreview(ui, TRIED);
    return () => {
      endPreview(ui);
      ui.setState({ proposal: null });
    };
  }, [calls, ui]);
  const choose = (source: MotionSource) => {
    if (source.kind !== chosen?.kind)
      setFit(source.kind === 'library' ? IN_PLACE : { choices: AS_IT_IS, pinned: source.planted.length > 0 });
    setChosen(source);
    setName(freeName(source.kind === 'library' ? source.motion.id : source.clip.name, taken));
  };
  const putOn = () => {
    if (!chosen) return;
    const clip = newId();
    const wanted = name.trim() || freeName(titleOf(chosen), taken);
    const step = chosen.kind === 'taken' ? `Put “${chosen.clip.name}” of “${chosen.from}” on the skeleton as “${wanted}”` : undefined;
    if (!run(callsFor(kit, chosen, fit, rate, clip, wanted), step)) return;
    setPut({ clip, name: wanted });
    setName(freeName(wanted, new Set([...taken, wanted])));
  };
  return (
    <SideDrawer title="Motions" onClose={close}>
      <Box role="status" sx={{ fontSize: 13, color: 'kit.good', mt: put ? 0 : -3 }}>
        {put && `“${put.name}” is on. Choose another one, or close.`}
      </Box>
      <MotionRoles roles={roles} />
      <MotionSources roles={roles} chosen={chosen} onChoose={choose} />
      {chosen && calls && (
        <Box ref={intoView} sx={{ display: 'grid', gap: 2.5, borderTop: 1, borderColor: 'kit.line', pt: 3 }}>
          <Typography variant="h3">{titleOf(chosen)}</Typography>
          <MotionFit source={chosen} fit={fit} calls={calls} tried={TRIED} roles={roles} rate={rate} onFit={setFit} onSource={setChosen} />
          <TextField
            label="Name of the clip"
            value={name}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
          <Buttons>
            <Button variant="contained" disabled={!hasMatch(chosen)} onClick={putOn}>
              Put it on
            </Button>
          </Buttons>
        </Box>
      )}
    </SideDrawer>
  );
}
