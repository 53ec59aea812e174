'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { callOf, type Vec3 } from '@itchkit/core/document';
import { removeParts, setHidden } from '@itchkit/core/shape';
import { removeKeys } from '@itchkit/core/motion';
import type { Stage } from '@itchkit/core/rulebook';
import { useOpenKit, useRulebook, useRun, useUi } from '../session/context';
import { motionCommands } from '../stages/motion/motion-commands';
import { useToolContext } from '../stages/motion/use-tool-context';
import { rigCommands } from '../stages/rig/rig-commands';
import { paintCommands } from '../stages/shape/paint-commands';
import { shapeCommands } from '../stages/shape/shape-commands';
import { stagesFor } from '../stages/stages';
import { keyHere, stepFrame, stepKey, togglePlay } from '../strip/playing';
import { isTyping, matchesKey, type Command } from './command';

/** Straight down the eye would have no upright: a hair off. */
const VIEWS: { id: string; title: string; from: Vec3 }[] = [
  { id: 'front', title: 'Look from the front', from: [0, 0, 1] },
  { id: 'side', title: 'Look from the left', from: [1, 0, 0] },
  { id: 'back', title: 'Look from behind', from: [0, 0, -1] },
  { id: 'top', title: 'Look from above', from: [0, 1, 1e-3] },
];

/** Every command of the workspace, with its keys. */
export function useCommands(stage: Stage) {
  const { session, ui, trial } = useOpenKit();
  const router = useRouter();
  const run = useRun();
  const toolContext = useToolContext();
  const rulebook = useRulebook();
  const selected = useUi((state) => state.selection.length);
  // What commands are blocked by changes with these.
  useUi((state) => state.keys);
  useUi((state) => state.clip);
  useUi((state) => state.motion);
  const [panel, setPanel] = useState<'finder' | 'help' | 'history' | null>(null);

  const selection = () => ui.getState().selection.filter((id) => session.kit.parts[id]);
  const frame = () =>
    ui.setState({ frameRequest: { parts: stage === 'trial' ? [] : selection(), nonce: ui.getState().frameRequest.nonce + 1 } });
  const gizmo = (which: 'move' | 'turn' | 'size') => ui.setState({ gizmo: ui.getState().gizmo === which ? null : which });
  const pickMode = (which: 'points' | 'faces') =>
    ui.setState({ pickMode: ui.getState().pickMode === which ? 'parts' : which, gizmo: null });
  const hiding = () => callOf(setHidden, { parts: selection(), hidden: !selection().every((id) => session.kit.parts[id].hidden) });
  const needsPart = selected === 0 ? 'Choose a part first' : null;
  const moves = stage === 'shape' || stage === 'motion' || stage === 'wiring' ? null : 'In Shape, Motion and Wiring';
  const inMotion = stage === 'motion' ? null : 'In Motion';
  const picks = stage === 'shape' || stage === 'rig' ? null : 'In Shape and Rig';
  const plays = stage === 'motion' || stage === 'trial' ? null : 'In Motion and Trial';

  const list: Command[] = [
    ...stagesFor(rulebook).map(({ id, title }, i): Command => ({
      id: `stage.${id}`,
      title: `Go to ${title}`,
      group: 'Stages',
      keys: [String(i + 1)],
      run: () => router.push(`/kits/${session.id}/${id}`),
    })),
    { id: 'undo', title: 'Undo', group: 'Everywhere', keys: ['Ctrl Z'], run: () => void session.undo() },
    { id: 'redo', title: 'Redo', group: 'Everywhere', keys: ['Ctrl Shift Z', 'Ctrl Y'], run: () => void session.redo() },
    { id: 'find', title: 'Find any command', group: 'Everywhere', keys: ['Ctrl K'], whileTyping: true, run: () => setPanel('finder') },
    { id: 'history', title: 'Show the history', group: 'Everywhere', keys: ['Shift H'], run: () => setPanel('history') },
    { id: 'help', title: 'List the keys', group: 'Everywhere', keys: ['?'], run: () => setPanel('help') },
    {
      id: 'card',
      title: 'Go to the Card',
      group: 'Everywhere',
      keys: ['C'],
      run: () => document.querySelector<HTMLElement>('[aria-label="Card"]')?.focus(),
    },
    {
      id: 'ledger',
      title: 'Go to the Ledger',
      group: 'Everywhere',
      keys: ['L'],
      run: () => document.querySelector<HTMLElement>('[data-finding]')?.focus(),
    },
    { id: 'mend-all', title: 'Mend all safe', group: 'Everywhere', keys: [], run: () => void session.mendAllSafe() },
    { id: 'rulebooks', title: 'Go to the rulebooks', group: 'Everywhere', keys: [], run: () => router.push('/rulebooks') },
    { id: 'shelf', title: 'Go to the shelf', group: 'Everywhere', keys: [], run: () => router.push('/') },
    {
      id: 'let-go',
      title: 'Let go',
      group: 'Bench',
      keys: ['Esc'],
      run: () => ui.setState({ selection: [], gizmo: null, held: null, keys: [], pickMode: 'parts', picked: [], faces: null }),
    },
    { id: 'frame', title: 'Frame the selection, or everything', group: 'Bench', keys: ['F'], run: frame },
    ...VIEWS.map(({ id, title, from }): Command => ({
      id: `look.${id}`,
      title,
      group: 'Bench',
      keys: [],
      run: () =>
        ui.setState({ frameRequest: { parts: stage === 'trial' ? [] : selection(), nonce: ui.getState().frameRequest.nonce + 1, from } }),
    })),
    { id: 'move', title: 'Move on the bench', group: 'Bench', keys: ['M'], blocked: moves, run: () => gizmo('move') },
    { id: 'turn', title: 'Turn on the bench', group: 'Bench', keys: ['T'], blocked: moves, run: () => gizmo('turn') },
    { id: 'size', title: 'Size on the bench', group: 'Bench', keys: ['Z'], blocked: moves, run: () => gizmo('size') },
    { id: 'points', title: 'Pick points on the bench', group: 'Bench', keys: ['O'], blocked: picks, run: () => pickMode('points') },
    { id: 'faces', title: 'Pick faces on the bench', group: 'Bench', keys: ['A'], blocked: picks, run: () => pickMode('faces') },
    {
      id: 'pivot',
      title: 'Set the pivot',
      group: 'Bench',
      keys: ['P'],
      blocked: stage === 'shape' ? needsPart : 'In Shape',
      run: () => document.querySelector<HTMLElement>('[data-pivot-anchor="0,0,0"]')?.focus(),
    },
    {
      id: 'hide',
      title: 'Hide or show the selection',
      group: 'Bench',
      keys: ['H'],
      blocked: needsPart,
      calls: hiding,
      run: () => run(hiding()),
    },
    {
      id: 'delete',
      title: stage === 'motion' ? 'Delete the chosen keys' : 'Delete the chosen parts',
      group: 'Bench',
      keys: ['Delete', 'Backspace'],
      blocked: stage === 'shape' ? needsPart : inMotion,
      ...(stage === 'shape' ? { calls: () => callOf(removeParts, { parts: selection() }) } : {}),
      run: () => {
        const { clip, keys } = ui.getState();
        if (stage === 'motion' && clip && keys.length > 0 && run(callOf(removeKeys, { clip, keys }))) ui.setState({ keys: [] });
        else if (stage === 'shape' && selection().length > 0 && run(callOf(removeParts, { parts: selection() })))
          ui.setState({ selection: [] });
      },
    },
    { id: 'play', title: 'Play or stop', group: 'Time', keys: ['Space'], blocked: plays, run: () => togglePlay(stage, session, ui, trial) },
    {
      id: 'key',
      title: 'Key the selection here',
      group: 'Time',
      keys: ['K'],
      blocked: inMotion ?? needsPart,
      run: () => keyHere(session, ui, run),
    },
    { id: 'frame-back', title: 'A frame back', group: 'Time', keys: [','], blocked: inMotion, run: () => stepFrame(session, ui, -1) },
    { id: 'frame-on', title: 'A frame on', group: 'Time', keys: ['.'], blocked: inMotion, run: () => stepFrame(session, ui, 1) },
    { id: 'key-back', title: 'To the previous key', group: 'Time', keys: ['['], blocked: inMotion, run: () => stepKey(session, ui, -1) },
    { id: 'key-on', title: 'To the next key', group: 'Time', keys: [']'], blocked: inMotion, run: () => stepKey(session, ui, 1) },
    ...shapeCommands({ stage, kit: () => session.kit, blobs: session.blobs, ui, rulebook, run }),
    ...paintCommands({ stage, kit: session.kit, parts: selection(), run }),
    ...motionCommands({ stage, session, ui, context: toolContext, run }),
    ...rigCommands({ stage, kit: () => session.kit, ui, run }),
  ];

  const latest = useRef(list);
  useEffect(() => {
    latest.current = list;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (document.querySelector('[role="dialog"], [role="menu"]')) return;
      // Enter and Space belong to the control that has the keyboard.
      if (event.key === ' ' && event.target instanceof HTMLElement && event.target.closest('button, a, [role="button"], [role="slider"]'))
        return;
      const command = latest.current.find((one) => matchesKey(event, one.keys));
      if (!command || command.blocked || (isTyping(event.target) && !command.whileTyping)) return;
      event.preventDefault();
      command.run();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return {
    list,
    finderOpen: panel === 'finder',
    helpOpen: panel === 'help',
    historyOpen: panel === 'history',
    openHistory: () => setPanel('history'),
    openFinder: () => setPanel('finder'),
    openHelp: () => setPanel('help'),
    close: () => setPanel(null),
  };
}
