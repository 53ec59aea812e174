import { callOf } from '@itchkit/core/document';
import { removeKeys } from '@itchkit/core/motion';
import { Strip } from '../../strip/Strip';
import { keyHere, playOpenClip, stepFrame, stepKey } from '../../strip/playing';
import { stripSlice } from '../../strip/strip-state';
import type { StageDefinition } from '../stage';
import { motionBench } from './motion-bench';
import { motionCommands } from './motion-commands';
import { MotionCard } from './MotionCard';
import { motionSlice } from './motion-state';
import { MotionTools } from './MotionTools';

export const motion: StageDefinition = {
  id: 'motion',
  neededBy: () => true,
  Tools: MotionTools,
  Card: MotionCard,
  Strip,
  bench: motionBench,
  framesChosen: true,
  keys: ({ session, ui, run }) => ({
    play: () => playOpenClip(session, ui),
    remove: {
      title: 'Delete the chosen keys',
      blocked: null,
      run: () => {
        const { clip, keys } = ui.getState();
        if (clip && keys.length > 0) run(callOf(removeKeys, { clip, keys }));
      },
    },
  }),
  commands(context) {
    const { session, ui, run } = context;
    const noPart = ui.getState().selection.length === 0 ? 'Choose a part first' : null;
    const inTime = (id: string, title: string, key: string, doIt: () => void, blocked: string | null = null) => ({
      id,
      title,
      group: 'Time',
      keys: [key],
      blocked,
      run: doIt,
    });
    return [
      inTime('key', 'Key the selection here', 'K', () => keyHere(session, ui, run), noPart),
      inTime('frame-back', 'A frame back', ',', () => stepFrame(session, ui, -1)),
      inTime('frame-on', 'A frame on', '.', () => stepFrame(session, ui, 1)),
      inTime('key-back', 'To the previous key', '[', () => stepKey(session, ui, -1)),
      inTime('key-on', 'To the next key', ']', () => stepKey(session, ui, 1)),
      ...motionCommands(context),
    ];
  },
  slices: [stripSlice, motionSlice],
};
