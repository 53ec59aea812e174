import { callOf } from '@itchkit/core/document';
import { removeParts } from '@itchkit/core/shape';
import type { CommandContext, StageDefinition } from '../stage';
import { paintCommands } from './paint-commands';
import { shapeBench } from './shape-bench';
import { shapeCommands } from './shape-commands';
import { ShapeCard } from './ShapeCard';
import { shapeSlice } from './shape-state';
import { ShapeTools } from './ShapeTools';

const chosenParts = ({ session, ui }: CommandContext) => ui.getState().selection.filter((id) => session.kit.parts[id]);

export const shape: StageDefinition = {
  id: 'shape',
  neededBy: () => true,
  Tools: ShapeTools,
  Card: ShapeCard,
  Strip: null,
  bench: shapeBench,
  framesChosen: true,
  keys: (context) => ({
    remove: {
      title: 'Delete the chosen parts',
      blocked: chosenParts(context).length === 0 ? 'Choose a part first' : null,
      calls: () => callOf(removeParts, { parts: chosenParts(context) }),
      run: () => void context.run(callOf(removeParts, { parts: chosenParts(context) })),
    },
  }),
  commands: (context) => [
    {
      id: 'pivot',
      title: 'Set the pivot',
      group: 'Bench',
      keys: ['P'],
      blocked: chosenParts(context).length === 0 ? 'Choose a part first' : null,
      run: () => document.querySelector<HTMLElement>('[data-pivot-anchor="0,0,0"]')?.focus(),
    },
    ...shapeCommands(context),
    ...paintCommands({ kit: context.session.kit, parts: chosenParts(context), run: context.run }),
  ],
  slices: [shapeSlice],
};
