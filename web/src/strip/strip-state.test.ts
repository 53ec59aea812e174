import { createUiStore } from '../session/ui-store';
import { stripSlice } from './strip-state';

test('a stretch to play is let go with its clip, and stays while anything else changes', () => {
  const ui = createUiStore([stripSlice]);
  ui.setState({ clip: 'idle' });
  ui.setState(({ strip }) => ({ strip: { ...strip, range: [1, 2.5] } }));
  ui.setState({ time: 1.5, playing: true });
  expect(ui.getState().strip.range).toEqual([1, 2.5]);
  ui.setState({ clip: 'walk' });
  expect(ui.getState().strip.range).toBeNull();
});

test('two workspaces have slices of their own', () => {
  const [a, b] = [createUiStore([stripSlice]), createUiStore([stripSlice])];
  a.setState(({ strip }) => ({ strip: { ...strip, folded: ['part'] } }));
  expect(b.getState().strip.folded).toEqual([]);
});
