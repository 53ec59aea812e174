'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { freeName, newId, type Call, type Id } from '@itchkit/core/document';
import { AS_IT_IS } from '@itchkit/core/motion';
import { Buttons } from '../../../panels/Fold';
import { SideDrawer } from '../../../panels/SideDrawer';
import { useKit, useOpenKit, useRun } from '../../../session/context';
import { callsFor, hasMatch, titleOf, type Fit, type MotionSource } from '../../motion/motion-source';
import { Elsewhere } from '../../motion/MotionSources';

const TRIED = 'tried-clip';

interface Props {
  /** Frames a second of the clip that is made. */
  rate: number;
  mixIn: (clip: Id) => Call;
  onClose: () => void;
}

/** A clip of another kit or of a file, put on this skeleton and mixed in; what is chosen is played on the bench. */
export function ClipFromElsewhere({ rate, mixIn, onClose }: Props) {
  const kit = useKit();
  const { ui } = useOpenKit();
  const run = useRun();
  const [chosen, setChosen] = useState<MotionSource | null>(null);
  const callsTo = (source: MotionSource, id: Id, name: string): Call[] => {
    const fit: Fit = { choices: AS_IT_IS, pinned: source.kind === 'taken' && source.planted.length > 0 };
    return [...callsFor(kit, source, fit, rate, id, name), mixIn(id)];
  };
  const choose = (source: MotionSource) => {
    setChosen(source);
    ui.setState({ proposal: hasMatch(source) ? callsTo(source, TRIED, TRIED) : null, compare: false });
  };
  useEffect(() => () => ui.setState({ proposal: null }), [ui]);
  const take = () => {
    if (!chosen) return;
    ui.setState({ proposal: null });
    const name = freeName(titleOf(chosen), new Set(Object.values(kit.clips).map((clip) => clip.name)));
    if (run(callsTo(chosen, newId(), name), `Mix “${name}” in`)) onClose();
  };
  return (
    <SideDrawer title="A clip to mix in" onClose={onClose}>
      <Elsewhere chosen={chosen} onChoose={choose} />
      {chosen && !hasMatch(chosen) && (
        <Box role="alert" sx={{ fontSize: 13 }}>
          Nothing in “{titleOf(chosen)}” moves a part of this kit. Say in Motion which joints are which, or choose another.
        </Box>
      )}
      <Buttons>
        <Button variant="contained" disabled={!chosen || !hasMatch(chosen)} onClick={take}>
          Mix it in
        </Button>
      </Buttons>
    </SideDrawer>
  );
}
