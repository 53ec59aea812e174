import { useState, type PointerEvent } from 'react';
import type { Clip, KeyTrack } from '@itchkit/core/document';
import { useOpenKit } from '../session/context';
import { keysWithin } from './chosen-keys';
import type { Row } from './rows';
import { useTimeScale } from './time-scale';

interface Corner {
  x: number;
  y: number;
}

/** A box drawn over the rows chooses the keys in it; with Shift they come to those chosen. A plain click lets go. */
export function useBoxChoice(rows: readonly Row[], rowHeight: number, clip: Clip) {
  const { ui } = useOpenKit();
  const scale = useTimeScale();
  const [drag, setDrag] = useState<{ from: Corner; to: Corner } | null>(null);
  const at = (event: PointerEvent<HTMLElement>): Corner => {
    const own = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - own.left, y: event.clientY - own.top };
  };
  const choose = ({ from, to }: { from: Corner; to: Corner }, add: boolean) => {
    const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
    const crossed = rows.filter(
      (row, i) => row.kind === 'track' && row.track.kind === 'keys' && (i + 1) * rowHeight > top && i * rowHeight < bottom,
    );
    const tracks = crossed.map((row) => (row as { track: KeyTrack }).track);
    const [start, end] = [scale.seconds(Math.min(from.x, to.x)), scale.seconds(Math.max(from.x, to.x))];
    const found = keysWithin(tracks, start, Math.min(end, clip.lengthSeconds));
    ui.setState((state) => ({ keys: add ? [...state.keys, ...found] : found }));
  };
  const isSmall = (one: { from: Corner; to: Corner }) => Math.hypot(one.to.x - one.from.x, one.to.y - one.from.y) < 4;
  const shown = drag && !isSmall(drag);
  return {
    box: shown
      ? {
          left: Math.min(drag.from.x, drag.to.x),
          top: Math.min(drag.from.y, drag.to.y),
          width: Math.abs(drag.to.x - drag.from.x),
          height: Math.abs(drag.to.y - drag.from.y),
        }
      : null,
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      const corner = at(event);
      if (event.button !== 0 || corner.x < scale.labels || (event.target as Element).closest('button')) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      setDrag({ from: corner, to: corner });
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => drag && setDrag({ ...drag, to: at(event) }),
    onPointerUp: (event: PointerEvent<HTMLElement>) => {
      if (!drag) return;
      const done = { ...drag, to: at(event) };
      setDrag(null);
      if (!isSmall(done)) choose(done, event.shiftKey);
      else if (!event.shiftKey) ui.setState({ keys: [] });
    },
    onPointerCancel: () => setDrag(null),
  };
}
