'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Checkbox from '@mui/material/Checkbox';
import Drawer from '@mui/material/Drawer';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState } from 'react';
import { callOf, freeName, handContacts, LIBRARY, missingRoles, newId, PLAIN_CHOICES, putMotion, rolesByName, runCall, BlobsOver, type Call, type LibraryMotion } from '@itchkit/core';
import { NumberField } from '../../card/NumberField';
import { Buttons } from '../../frame/Fold';
import { useKit, useOpenKit, useRulebook, useRun, useSetUi } from '../../session/context';
import { endPreview, startPreview } from '../../strip/playing';

const TRIED = 'tried-motion';
const KIND = { body: 'Bodies', 'four-legged': 'Four-legged', fins: 'Fins and wings' } as const;

/** The shipped motions: one is tried on this kit's skeleton while it is chosen, adjusted, and put into a clip. */
export function MotionLibrary({ onClose }: { onClose: () => void }) {
  const kit = useKit();
  const { session, ui } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const rulebook = useRulebook();
  const roles = useMemo(() => rolesByName(kit), [kit]);
  const fits = (motion: LibraryMotion) =>
    (motion.skeleton === 'fins' ? roles.fin_root_l : motion.skeleton === 'body' ? (roles.hips ?? roles.chest) && roles.thigh_l : roles.hind_upper_l) !== undefined;
  const [chosen, setChosen] = useState<LibraryMotion | null>(null);
  const [choices, setChoices] = useState(PLAIN_CHOICES);
  const [name, setName] = useState('');
  const taken = useMemo(() => new Set(Object.values(kit.clips).map((clip) => clip.name)), [kit]);
  const rate = rulebook?.motion?.rate ?? 30;
  const call = useMemo((): Call | null => (chosen ? callOf(putMotion, { motion: chosen.id, clip: TRIED, name: 'tried', joints: roles, choices, rate }) : null), [chosen, choices, roles, rate]);
  // It plays on the bench while it is chosen.
  useEffect(() => {
    if (!call) return;
    ui.setState({ proposal: [call], compare: false });
    startPreview(ui, TRIED);
    return () => {
      endPreview(ui);
      ui.setState({ proposal: null });
    };
  }, [call, ui]);
  const contacts = useMemo(() => {
    if (!call || chosen?.skeleton !== 'body') return [];
    const made = runCall(kit, call, new BlobsOver(session.blobs)).kit;
    return handContacts(made, made.clips[TRIED], session.blobs, roles);
  }, [call, chosen, kit, session, roles]);
  const change = (fields: Partial<typeof choices>) => setChoices((before) => ({ ...before, ...fields }));
  const spread = useRef(() => undefined as void);
  useEffect(() => {
    spread.current = () => {
      for (let armSpread = choices.armSpread; armSpread <= 60; armSpread += 2) {
        const tried = callOf(putMotion, { motion: chosen!.id, clip: TRIED, name: 'tried', joints: roles, choices: { ...choices, armSpread }, rate });
        const made = runCall(kit, tried, new BlobsOver(session.blobs)).kit;
        if (handContacts(made, made.clips[TRIED], session.blobs, roles).length === 0) return change({ armSpread });
      }
    };
  });
  const put = () => {
    if (!chosen) return;
    const clip = newId();
    const wanted = name.trim() || freeName(chosen.id, taken);
    if (run(callOf(putMotion, { motion: chosen.id, clip, name: wanted, joints: roles, choices, rate }))) {
      onClose();
      setTimeout(() => setUi({ clip, time: 0, playing: false, keys: [] }));
    }
  };
  const missing = chosen ? missingRoles(chosen, roles) : [];
  return (
    <Drawer
      anchor="right"
      open
      onClose={onClose}
      hideBackdrop
      variant="persistent"
      slotProps={{ paper: { sx: { width: 340, p: 4, gap: 3, bgcolor: 'kit.sheet' }, role: 'dialog', 'aria-label': 'Motions' } as object }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Motions
        </Typography>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </Box>
      {(Object.keys(KIND) as LibraryMotion['skeleton'][]).map((kind) => (
        <Box key={kind}>
          <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 0.5 }}>
            {KIND[kind]}
            {!LIBRARY.some((motion) => motion.skeleton === kind && fits(motion)) && ': this kit’s joints are named for none of these'}
          </Box>
          {LIBRARY.filter((motion) => motion.skeleton === kind).map((motion) => (
            <ButtonBase
              key={motion.id}
              disabled={!fits(motion)}
              aria-pressed={chosen?.id === motion.id}
              onClick={() => {
                setChosen(motion);
                setName(freeName(motion.id, taken));
              }}
              sx={{
                width: '100%',
                display: 'block',
                textAlign: 'left',
                py: 0.5,
                pl: 1,
                fontSize: 13,
                borderLeft: 3,
                borderColor: chosen?.id === motion.id ? 'kit.signal' : 'transparent',
                '&.Mui-disabled': { opacity: 0.45 },
              }}
            >
              <b>{motion.title}</b> <span className="figures">{motion.seconds} s</span>
              <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{motion.about}</Box>
            </ButtonBase>
          ))}
        </Box>
      ))}
      {chosen && (
        <Box sx={{ display: 'grid', gap: 2.5 }}>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            <NumberField label="Arms out" unit="°" step={2} min={-60} max={90} value={choices.armSpread} onCommit={(armSpread) => change({ armSpread })} />
            <NumberField label="Stride" unit="%" step={5} min={10} max={300} value={Math.round(100 * choices.stride)} onCommit={(value) => change({ stride: value / 100 })} />
            <NumberField
              label="Hips"
              unit="%"
              step={2}
              min={-60}
              max={30}
              value={Math.round(100 * choices.hipHeight)}
              onCommit={(value) => change({ hipHeight: value / 100 })}
              hint="of their height"
            />
          </Box>
          <Box>
            <FormControlLabel control={<Checkbox size="small" checked={choices.mirrored} onChange={(event) => change({ mirrored: event.target.checked })} />} label="Left for right" />
            {chosen.travel > 0 && (
              <FormControlLabel control={<Checkbox size="small" checked={!choices.inPlace} onChange={(event) => change({ inPlace: !event.target.checked })} />} label="Goes along" />
            )}
          </Box>
          {missing.length > 0 && <Box sx={{ fontSize: 12, color: 'text.secondary' }}>Not on this skeleton, and left out: {missing.map((role) => role.replace(/_/g, ' ')).join(', ')}.</Box>}
          {chosen.skeleton === 'body' && (
            <Box role="status" data-testid="contacts" sx={{ fontSize: 12.5, color: contacts.length > 0 ? 'kit.warn' : 'text.secondary' }}>
              {contacts.length === 0
                ? 'No hand comes into a leg.'
                : `A hand is in a leg in ${new Set(contacts.map(({ frame }) => frame)).size} frames: ${[...new Set(contacts.map(({ frame }) => frame))].slice(0, 12).join(', ')}; at most ${(1000 * Math.max(...contacts.map(({ depth }) => depth))).toFixed(0)} mm deep.`}
              {contacts.length > 0 && (
                <Button size="small" onClick={() => spread.current()}>
                  Spread the arms until they are clear
                </Button>
              )}
            </Box>
          )}
          <TextField label="Name of the clip" value={name} onChange={(event) => setName(event.target.value)} slotProps={{ htmlInput: { maxLength: 200 } }} />
          <Buttons>
            <Button variant="contained" onClick={put}>
              Put it on
            </Button>
          </Buttons>
        </Box>
      )}
    </Drawer>
  );
}
