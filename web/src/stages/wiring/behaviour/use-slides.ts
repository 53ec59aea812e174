'use client';
import { useEffect, useState } from 'react';
import { SlideMeter, type ParameterRule, type Slide } from '@itchkit/core/behaviour';
import type { Mix } from '@itchkit/core/document';
import { useKit, useOpenKit } from '../../../session/context';

/** Milliseconds that are spent at a time. */
const AT_ONCE = 12;

/** How feet slide at places of a mix, as far as that is worked out by now: in pieces, so that the page goes on. */
export function useSlides(
  mix: Mix,
  places: readonly (readonly number[])[],
  parameters: readonly ParameterRule[],
): readonly (Slide | null)[] {
  const kit = useKit();
  const { session } = useOpenKit();
  const [found, setFound] = useState<readonly (Slide | null)[]>([]);
  useEffect(() => {
    const meter = new SlideMeter(mix, kit, session.blobs, parameters);
    const list: (Slide | null)[] = [];
    let timer = setTimeout(function go() {
      const until = performance.now() + AT_ONCE;
      while (list.length < places.length && performance.now() < until) list.push(meter.at(places[list.length]));
      if (list.length < places.length) timer = setTimeout(go);
      else setFound(list);
    });
    return () => clearTimeout(timer);
  }, [mix, kit, session, places, parameters]);
  return found;
}
