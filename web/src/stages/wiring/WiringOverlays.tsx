'use client';
import { useEffect, useMemo } from 'react';
import { sizeOf } from '@itchkit/core/geometry';
import type { OverlayProps } from '../../bench/bench-stage';
import { poseKit, REST } from '@itchkit/core/trial';
import { useKit, useOpenKit, useRulebook, useUi } from '../../session/context';
import { GroundsOverlays } from './grounds/GroundsOverlays';
import { boundLevers, inView } from './levers';
import { linkLines, linkMarks } from './link-marks';
import { useProbe } from './use-probe';
import { wayMarks } from './wiring-marks';

/** Draws which way the chosen part goes where its variable rises, beside the way that it should go. */
export function WiringOverlays(props: OverlayProps) {
  const { view, bounds, tokens } = props;
  const kit = useKit();
  const rulebook = useRulebook();
  const id = useUi((state) => state.binding);
  const levers = useMemo(() => boundLevers(kit, rulebook), [kit, rulebook]);
  const found = inView(levers, id);
  const probe = useProbe(found?.lever, found?.binding);
  useEffect(() => {
    view.setOverlay('way', probe ? wayMarks(probe, 0.16 * Math.max(0.1, ...sizeOf(bounds)), tokens) : null);
    return () => view.setOverlay('way', null);
  }, [view, probe, bounds, tokens]);
  useLinkMarks(view, tokens);
  return rulebook?.grounds ? <GroundsOverlays {...props} rulebook={rulebook} /> : null;
}

/** The link of the chosen part, as the levers have it. */
function useLinkMarks(view: OverlayProps['view'], tokens: OverlayProps['tokens']): void {
  const kit = useKit();
  const { session } = useOpenKit();
  const rulebook = useRulebook();
  const selection = useUi((state) => state.selection);
  const levers = useUi((state) => state.wiring.levers);
  const link = kit.links?.find(({ parts }) => parts.some((id) => selection.includes(id)));
  const variables = rulebook?.variables;
  useEffect(() => {
    const lines =
      link && variables ? linkLines(kit, link, (poser) => poseKit(poser, kit, session.blobs, { ...REST, levers }, variables)) : null;
    view.setOverlay('link', lines ? linkMarks(lines, tokens) : null);
    return () => view.setOverlay('link', null);
  }, [view, kit, session, link, levers, variables, tokens]);
}
