import { useEffect, useRef } from 'react';
import { stickOfPads, type Stick } from './stick';

/** A stick has moved where it did by more than this; pads tremble. */
const TREMBLES = 0.03;

/** Hears the left stick of a pad that is plugged in, whenever it moves. Looks once a frame, and only while there is one. */
export function usePad(onStick: (stick: Stick) => void): void {
  const hear = useRef(onStick);
  useEffect(() => {
    hear.current = onStick;
  });
  useEffect(() => {
    let handle = 0;
    let last: Stick = { x: 0, y: 0 };
    const look = () => {
      const pads = navigator.getGamepads();
      const stick = stickOfPads(pads);
      if (Math.abs(stick.x - last.x) > TREMBLES || Math.abs(stick.y - last.y) > TREMBLES) {
        last = stick;
        hear.current(stick);
      }
      handle = pads.some((pad) => pad?.connected) ? requestAnimationFrame(look) : 0;
    };
    const begin = () => {
      if (handle === 0) look();
    };
    // One that was there before the page says nothing until a button of it is pressed.
    begin();
    window.addEventListener('gamepadconnected', begin);
    return () => {
      window.removeEventListener('gamepadconnected', begin);
      cancelAnimationFrame(handle);
    };
  }, []);
}
