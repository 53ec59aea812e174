'use client';
import Box from '@mui/material/Box';
import { useMemo } from 'react';
import type { Id, Quat, Vec3 } from '@itchkit/core/document';
import { conjugateQuat, flattenParts, multiplyQuats, Poser, turnNearest } from '@itchkit/core/geometry';
import type { Variable } from '@itchkit/core/rulebook';
import { useTrial, type InTrial } from '../trial-state';
import { poseKit, REST } from '@itchkit/core/trial';

const shown = (value: number, digits: number) => (Number(value.toFixed(digits)) + 0).toFixed(digits);

/** What a part of the running trial does, measured from its posed placement: offset and turn against rest, in the platform's axes. */
export function Readout({ loaded, part, variables }: { loaded: InTrial; part: Id; variables: readonly Variable[] }) {
  const levers = useTrial((state) => state.levers);
  const clip = useTrial((state) => state.clip);
  const time = useTrial((state) => state.time);
  const poser = useMemo(() => new Poser(flattenParts(loaded.kit)), [loaded]);
  poseKit(poser, loaded.kit, loaded.blobs, { ...REST, clip, time, levers }, variables);
  const { name, rotation, translation, turnOrder } = loaded.kit.parts[part];
  const at = poser.flat.indexOf.get(part)!;
  const posed = [...poser.rotation.subarray(4 * at, 4 * at + 4)] as Quat;
  // A rotation can be read in many turns; the one nearest to what the table asks for keeps whole rounds.
  const asked = [...poser.pose.turn.subarray(3 * at, 3 * at + 3)] as Vec3;
  const turn = turnNearest(multiplyQuats(conjugateQuat(rotation), posed), turnOrder, asked);
  const offset = translation.map((value, axis) => poser.translation[3 * at + axis] - value);
  return (
    <Box
      sx={{ fontSize: 12 }}
      data-readout={name}
      data-turn={turn.map((value) => shown(value, 3)).join(' ')}
      data-offset={offset.map((value) => shown(value, 4)).join(' ')}
    >
      <Box component="span" sx={{ fontWeight: 600 }}>
        {name}
      </Box>{' '}
      <Box component="span" className="figures" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
        {turn.some((value) => Math.abs(value) > 5e-4) && `${turn.map((value) => shown(value, 1)).join(' ')}° `}
        {offset.some((value) => Math.abs(value) > 5e-5) && `${offset.map((value) => shown(value, 3)).join(' ')} m`}
      </Box>
    </Box>
  );
}
