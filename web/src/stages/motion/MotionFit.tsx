'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMemo, type ReactNode } from 'react';
import { BlobsOver, KitError, type Call, type Id } from '@itchkit/core/document';
import { handContacts, legsOf, missingRoles, type FitChoices, type JointRoles } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';
import { NumberField } from '../../card/NumberField';
import { Fold } from '../../panels/Fold';
import { useKit, useOpenKit } from '../../session/context';
import { ClipPairs } from '../intake/ClipPairs';
import { callsFor, hasMatch, type Fit, type MotionSource } from './motion-source';
import { roleTitle } from './role-titles';

/** Arms are spread no further than this to be clear of the legs, degrees. */
const WIDEST = 60;

interface Props {
  source: MotionSource;
  fit: Fit;
  /** What puts it on as it is fitted now, into the clip `tried`. */
  calls: Call[];
  tried: Id;
  roles: JointRoles;
  rate: number;
  onFit: (fit: Fit) => void;
  onSource: (source: MotionSource) => void;
}

/** How a motion is fitted to the body: arms, steps, hips, sides, feet, and hands that come into legs. */
export function MotionFit({ source, fit, calls, tried, roles, rate, onFit, onSource }: Props) {
  const kit = useKit();
  const { session } = useOpenKit();
  const { choices } = fit;
  const change = (fields: Partial<FitChoices>) => onFit({ ...fit, choices: { ...choices, ...fields } });
  const hasLegs = useMemo(() => legsOf(kit, roles).length > 0, [kit, roles]);
  const hasArms = roles.upper_arm_l !== undefined || roles.upper_arm_r !== undefined;
  const contactsWith = useMemo(() => {
    return (made: Call[]) => {
      const blobs = new BlobsOver(session.blobs);
      const result = made.reduce((before, call) => runCall(before, call, blobs).kit, kit);
      return handContacts(result, result.clips[tried], blobs, roles);
    };
  }, [kit, session, roles, tried]);
  const contacts = useMemo(() => {
    if (roles.hand_l === undefined && roles.hand_r === undefined) return null;
    try {
      return contactsWith(calls);
    } catch (error) {
      if (error instanceof KitError) return null;
      throw error;
    }
  }, [calls, contactsWith, roles]);
  /** The least spread, to a degree or two, at which no hand comes into a leg. */
  const spread = () => {
    const wider = (armSpread: number): Fit => ({ ...fit, choices: { ...choices, armSpread } });
    const clear = (armSpread: number) => contactsWith(callsFor(kit, source, wider(armSpread), rate, tried, 'tried')).length === 0;
    let [inside, out] = [choices.armSpread, WIDEST];
    if (clear(WIDEST))
      while (out - inside > 2) {
        const middle = Math.round((inside + out) / 2);
        if (clear(middle)) out = middle;
        else inside = middle;
      }
    onFit(wider(out));
  };
  const travels = source.kind === 'taken' || source.motion.travel > 0;
  const nothing = source.kind === 'taken' && !hasMatch(source);
  const missing = source.kind === 'library' ? missingRoles(source.motion, roles) : [];
  const without = source.kind === 'taken' ? Object.values(source.pairs).filter((part) => part === null).length : 0;
  return (
    <>
      {source.kind === 'taken' && (
        <Fold
          title="Matches"
          aside={<span className="figures">{`${Object.keys(source.pairs).length - without}/${Object.keys(source.pairs).length}`}</span>}
        >
          <ClipPairs source={source.source} pairs={source.pairs} onChange={(pairs) => onSource({ ...source, pairs })} />
        </Fold>
      )}
      {nothing && <Small>None of its moving parts has found one here by name or by what it is for. Choose them in the table.</Small>}
      {without > 0 && !nothing && (
        <Small>
          {without === 1
            ? '1 moving part has found none here; its motion is left out.'
            : `${without} moving parts have found none here; their motion is left out.`}
        </Small>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
        {hasArms && (
          <NumberField
            label="Arms out"
            unit="°"
            step={2}
            min={-60}
            max={90}
            value={choices.armSpread}
            onCommit={(armSpread) => change({ armSpread })}
          />
        )}
        {hasLegs && (
          <>
            <NumberField
              label="Stride"
              unit="%"
              step={5}
              min={10}
              max={300}
              value={Math.round(100 * choices.stride)}
              onCommit={(value) => change({ stride: value / 100 })}
            />
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
          </>
        )}
        {source.kind === 'taken' && (
          <NumberField
            label="Size of the moves"
            unit="×"
            step={0.05}
            min={0.0001}
            max={1000}
            digits={4}
            value={source.scale}
            onCommit={(scale) => onSource({ ...source, scale })}
          />
        )}
      </Box>
      <Box>
        <Check label="Left for right" on={choices.mirrored} onChange={(mirrored) => change({ mirrored })} />
        {travels && hasLegs && <Check label="Goes along" on={!choices.inPlace} onChange={(along) => change({ inPlace: !along })} />}
        {source.kind === 'taken' && hasLegs && source.planted.length > 0 && (
          <Check label="Feet pinned where they stand" on={fit.pinned} onChange={(pinned) => onFit({ ...fit, pinned })} />
        )}
      </Box>
      {missing.length > 0 && <Small>Not on this skeleton, and left out: {missing.map(roleTitle).join(', ')}.</Small>}
      {contacts && (
        <Box role="status" data-testid="contacts" sx={{ fontSize: 12.5, color: contacts.length > 0 ? 'kit.warn' : 'text.secondary' }}>
          {contacts.length === 0
            ? 'No hand comes into a leg.'
            : `A hand is in a leg in ${new Set(contacts.map(({ frame }) => frame)).size} frames: ${[...new Set(contacts.map(({ frame }) => frame))].slice(0, 12).join(', ')}; at most ${(1000 * Math.max(...contacts.map(({ depth }) => depth))).toFixed(0)} mm deep.`}
          {contacts.length > 0 && (
            <Button size="small" onClick={spread}>
              Spread the arms until they are clear
            </Button>
          )}
        </Box>
      )}
    </>
  );
}

const Small = ({ children }: { children: ReactNode }) => <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{children}</Box>;

function Check({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <FormControlLabel
      sx={{ display: 'flex' }}
      control={<Checkbox size="small" checked={on} onChange={(event) => onChange(event.target.checked)} />}
      label={label}
    />
  );
}
