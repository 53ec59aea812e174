import { createUiStore } from './ui-store';

test('a stretch to play is let go with its clip, and stays while anything else changes', () => {
  const ui = createUiStore();
  ui.setState({ clip: 'idle' });
  ui.setState(({ motion }) => ({ motion: { ...motion, range: [1, 2.5] } }));
  ui.setState({ time: 1.5, playing: true });
  expect(ui.getState().motion.range).toEqual([1, 2.5]);
  ui.setState({ clip: 'walk' });
  expect(ui.getState().motion.range).toBeNull();
});
