'use client';
import Box from '@mui/material/Box';
import type { Stage } from '@itchkit/core/rulebook';
import { useKit, useUi } from '../session/context';

/** Says on the bench whether a drag changes the model or a clip, and what is tried there. @param says What the tried operation would change. */
export function BenchSign({ stage, says }: { stage: Stage; says: string }) {
  const kit = useKit();
  const clip = useUi((state) => state.clip);
  const gizmo = useUi((state) => state.gizmo);
  const held = useUi((state) => state.held);
  const compare = useUi((state) => state.compare);
  const proposal = useUi((state) => state.proposal);
  const pickMode = useUi((state) => state.pickMode);
  const swing = useUi((state) => state.swing);
  const rig = useUi((state) => state.rig);
  const motion = useUi((state) => state.motion);
  let text: string | null = null;
  if (stage === 'motion' && proposal) text = `Tried, not done: ${says}`;
  else if (stage === 'motion' && motion.path) text = `Click the bench for the points of the path: ${motion.path.length} so far`;
  else if (stage === 'motion' && motion.recording === 'running') text = 'Recording: let the part go to end';
  else if (stage === 'motion' && motion.recording === 'ready') text = 'Drag the chosen part: time runs while you do';
  else if (stage === 'motion' && motion.asPlayed && clip && kit.clips[clip])
    text = `Clip “${kit.clips[clip].name}”, as the platform will play it`;
  else if (stage === 'motion' && held && clip && kit.clips[clip])
    text = `“${kit.parts[held.part]?.name}” is held; K writes it into the clip`;
  else if (stage === 'motion' && clip && kit.clips[clip])
    text = `Clip “${kit.clips[clip].name}”, not the model${gizmo && motion.capture ? ': moving a part writes keys' : ''}`;
  else if (stage === 'motion') text = 'Rest: no clip is open';
  else if (stage === 'shape' && held)
    text = `“${kit.parts[held.part]?.name}” swings by ${Math.hypot(...held.delta.turn).toFixed(0)}° to try its hinge; nothing is kept`;
  else if (stage === 'shape' && swing) text = `Drag “${kit.parts[swing.part]?.name}” to try its hinge`;
  else if (stage === 'shape' && compare && proposal) text = 'Left: as it is. Right: as it would be';
  else if ((stage === 'shape' || stage === 'rig') && proposal) text = `Tried, not done: ${says}`;
  else if (stage === 'rig' && rig.pose) text = `Test pose: ${rig.pose.title}. R brings back rest, which is never touched`;
  else if (stage === 'rig' && rig.fit) text = 'Proposed joints: drag any pin; nothing is made yet';
  else if (stage === 'rig' && pickMode === 'parts' && rig.mode === 'weights' && rig.brush.on) text = 'Brushing weights; Alt takes away';
  else if (stage === 'rig' && Object.keys(rig.values).length > 0) text = 'Moved to try it; nothing of it is kept';
  else if ((stage === 'shape' || stage === 'rig') && pickMode === 'points')
    text = 'Click corners, edges and faces: for pivots, hinges and measures';
  else if ((stage === 'shape' || stage === 'rig') && pickMode === 'faces') text = 'Click or brush faces; Alt lets them go';
  else if (stage === 'shape' && gizmo) text = 'Rest: moving a part changes the model';
  else if (stage === 'wiring' && held) text = `“${kit.parts[held.part]?.name}” is held in a pose that is not written yet`;
  if (!text) return null;
  return (
    <Box
      sx={{
        position: 'absolute',
        top: 8,
        left: 8,
        px: 2,
        py: 0.75,
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'kit.signal',
        borderRadius: 1,
        fontSize: 12,
        pointerEvents: 'none',
      }}
      role="status"
    >
      {text}
    </Box>
  );
}
