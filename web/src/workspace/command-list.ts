import { callOf, type Vec3 } from '@itchkit/core/document';
import { setHidden } from '@itchkit/core/shape';
import type { Command } from '../panels/command';
import { innermost } from '../session/ui-store';
import { STAGES, stagesFor } from '../stages/list';
import { titleOf, type CommandContext, type StageDefinition } from '../stages/stage';

export type PanelName = 'finder' | 'help' | 'history';

interface WorkspaceContext extends CommandContext {
  go(address: string): void;
  setPanel(panel: PanelName): void;
  dark: boolean;
  switchScheme(): void;
}

/** Straight down the eye would have no upright: a hair off. */
const VIEWS: { id: string; title: string; from: Vec3 }[] = [
  { id: 'front', title: 'Look from the front', from: [0, 0, 1] },
  { id: 'side', title: 'Look from the left', from: [1, 0, 0] },
  { id: 'back', title: 'Look from behind', from: [0, 0, -1] },
  { id: 'top', title: 'Look from above', from: [0, 1, 1e-3] },
];

/** “In Shape, Motion and Wiring”: where something can be done. */
function inStages(has: (stage: StageDefinition) => boolean): string {
  return `In ${new Intl.ListFormat('en-GB').format(STAGES.filter(has).map(titleOf))}`;
}

/** Every command of the workspace, with its keys. */
export function commandsOf(stage: StageDefinition, workspace: WorkspaceContext): Command[] {
  const { session, ui, rulebook, run, go, setPanel, dark, switchScheme } = workspace;
  const context: CommandContext = { session, ui, rulebook, run };
  const selection = () => ui.getState().selection.filter((id) => session.kit.parts[id]);
  const frame = (from?: Vec3) =>
    ui.setState(({ frameRequest: { nonce } }) => ({
      frameRequest: { parts: stage.framesChosen ? selection() : [], nonce: nonce + 1, ...(from ? { from } : {}) },
    }));
  const gizmo = (which: 'move' | 'turn' | 'size') => ui.setState((state) => ({ gizmo: state.gizmo === which ? null : which }));
  const pickMode = (which: 'points' | 'faces') =>
    ui.setState((state) => ({ pickMode: state.pickMode === which ? 'parts' : which, gizmo: null }));
  const hiding = () => callOf(setHidden, { parts: selection(), hidden: !selection().every((id) => session.kit.parts[id].hidden) });
  const needsPart = ui.getState().selection.length === 0 ? 'Choose a part first' : null;
  const moves = stage.bench.gizmo ? null : inStages(({ bench }) => bench.gizmo);
  const picks = stage.bench.surfaces ? null : inStages(({ bench }) => bench.surfaces);
  const { play, remove } = stage.keys(context);
  const plays = play ? null : inStages((one) => one.keys(context).play !== undefined);
  const removes = remove ? (remove.blocked ?? null) : inStages((one) => one.keys(context).remove !== undefined);

  return [
    ...stagesFor(rulebook).map((one, i): Command => ({
      id: `stage.${one.id}`,
      title: `Go to ${titleOf(one)}`,
      group: 'Stages',
      keys: [String(i + 1)],
      run: () => go(`/kits/${session.id}/${one.id}`),
    })),
    { id: 'undo', title: 'Undo', group: 'Everywhere', keys: ['Ctrl Z'], whileTaken: true, run: () => void session.undo() },
    {
      id: 'redo',
      title: 'Redo',
      group: 'Everywhere',
      keys: ['Ctrl Shift Z', 'Ctrl Y'],
      whileTaken: true,
      run: () => void session.redo(),
    },
    { id: 'find', title: 'Find any command', group: 'Everywhere', keys: ['Ctrl K'], whileTyping: true, run: () => setPanel('finder') },
    { id: 'history', title: 'Show the history', group: 'Everywhere', keys: ['Shift H'], run: () => setPanel('history') },
    { id: 'help', title: 'List the keys', group: 'Everywhere', keys: ['?'], run: () => setPanel('help') },
    { id: 'card', title: 'Go to the Card', group: 'Everywhere', keys: ['C'], run: () => focusOn('[aria-label="Card"]') },
    { id: 'ledger', title: 'Go to the Ledger', group: 'Everywhere', keys: ['L'], run: () => focusOn('[data-finding]') },
    { id: 'mend-all', title: 'Mend all safe', group: 'Everywhere', keys: [], run: () => void session.mendAll() },
    { id: 'rulebooks', title: 'Go to the rulebooks', group: 'Everywhere', keys: [], run: () => go('/rulebooks') },
    { id: 'shelf', title: 'Go to the shelf', group: 'Everywhere', keys: [], run: () => go('/') },
    { id: 'scheme', title: dark ? 'To day' : 'To night watch', group: 'Everywhere', keys: [], run: switchScheme },
    { id: 'let-go', title: 'Let go of one thing', group: 'Bench', keys: ['Esc'], run: () => ui.setState(innermost) },
    { id: 'sight', title: 'Aim on the bench by arrows', group: 'Bench', keys: ['X'], run: () => focusOn('[data-sight]') },
    { id: 'frame', title: 'Frame the selection, or everything', group: 'Bench', keys: ['F'], run: () => frame() },
    ...VIEWS.map(({ id, title, from }): Command => ({ id: `look.${id}`, title, group: 'Bench', keys: [], run: () => frame(from) })),
    { id: 'move', title: 'Move on the bench', group: 'Bench', keys: ['M'], blocked: moves, run: () => gizmo('move') },
    { id: 'turn', title: 'Turn on the bench', group: 'Bench', keys: ['T'], blocked: moves, run: () => gizmo('turn') },
    { id: 'size', title: 'Size on the bench', group: 'Bench', keys: ['Z'], blocked: moves, run: () => gizmo('size') },
    { id: 'points', title: 'Pick points on the bench', group: 'Bench', keys: ['O'], blocked: picks, run: () => pickMode('points') },
    { id: 'faces', title: 'Pick faces on the bench', group: 'Bench', keys: ['A'], blocked: picks, run: () => pickMode('faces') },
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
      title: 'Delete the chosen parts or keys',
      run: () => undefined,
      ...remove,
      blocked: removes,
      group: 'Bench',
      keys: ['Delete', 'Backspace'],
    },
    { id: 'play', title: 'Play or stop', group: 'Time', keys: ['Space'], blocked: plays, run: () => play?.() },
    ...STAGES.flatMap((one) =>
      one.commands(context).map((command) => (one === stage ? command : { ...command, blocked: `In ${titleOf(one)}` })),
    ),
  ];
}

function focusOn(what: string): void {
  document.querySelector<HTMLElement>(what)?.focus();
}
