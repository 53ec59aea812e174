import type { Key } from '@itchkit/core/document';
import { threadPath } from './thread';

test('a thread has one piece between each two beads, and ends where they stand', () => {
  const keys: Key[] = (['hold', 'straight', 'curve', 'bounce', 'hold'] as const).map((easing, time) => ({ time, value: 0, easing }));
  const path = threadPath(keys, (seconds) => 100 * seconds, 20);
  expect(path.match(/M/g)).toHaveLength(4);
  for (const x of [100, 200, 300, 400]) expect(path).toMatch(new RegExp(`[HL ,]${x}(?!\\d)`));
  expect(threadPath(keys.slice(0, 1), (seconds) => seconds, 20)).toBe('');
});
