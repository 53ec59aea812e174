'use client';
import { useEffect, useMemo, useRef } from 'react';
import { callOf, newId, partsInOrder, type Vec3 } from '@itchkit/core/document';
import { addKnot, moveKnots, onGrid, setFootprint, sweptParts, tileHeights } from '@itchkit/core/grounds';
import { roleOf, type Rulebook } from '@itchkit/core/rulebook';
import type { OverlayProps } from '../../../bench/bench-stage';
import { useKit, useOpenKit, useRun, useSession, useSetSlice, useUi } from '../../../session/context';
import { sitterMarks } from '../../../bench/sitter-marks';
import { colliderMarks, heightMarks, shellMarks, tileMarks, walkwayMarks } from './grounds-marks';
import { walkwayTool, type WayWork } from './walkway-tool';

/** Draws tiles, seats, colliders and the walkway, and takes the pointer on them. */
export function GroundsOverlays({ view, tokens, rulebook }: OverlayProps & { rulebook: Rulebook }): null {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const set = useSetSlice('grounds');
  const own = useUi((state) => state.grounds);
  const findings = useSession((state) => state.findings);
  const tile = rulebook.tileMetres;

  const footprint = kit.grounds?.footprint ?? null;
  const drawn = useMemo(
    () => (footprint && own.tiles ? { ...onGrid({ ...own.tiles, holes: [] }, tile), holes: footprint.holes } : footprint),
    [footprint, own.tiles, tile],
  );
  useEffect(() => {
    view.setOverlay('tiles', drawn ? tileMarks(drawn, tile, tokens) : null);
    return () => view.setOverlay('tiles', null);
  }, [view, drawn, tile, tokens]);

  const shell = useMemo(
    () => (own.shell ? [...sweptParts(kit, session.blobs, Object.values(kit.clips)).values()].map(({ bounds }) => bounds) : null),
    [own.shell, kit, session],
  );
  useEffect(() => {
    view.setOverlay('shell', shell ? shellMarks(shell, tokens) : null);
    return () => view.setOverlay('shell', null);
  }, [view, shell, tokens]);

  const heights = useMemo(
    () => (own.heights && footprint ? tileHeights(kit, session.blobs, footprint, tile) : null),
    [own.heights, kit, session, footprint, tile],
  );
  useEffect(() => {
    view.setOverlay('heights', heights ? heightMarks(heights, tile, tokens) : null);
    return () => view.setOverlay('heights', null);
  }, [view, heights, tile, tokens]);

  const seats = useMemo(() => partsInOrder(kit).filter((part) => roleOf(rulebook, part) === 'seat'), [kit, rulebook]);
  useEffect(() => {
    for (const { id, name } of seats) view.setOverlay(`seat ${id}`, sitterMarks(name.replace(/^.*?(\d+)$/, '$1'), tokens), id);
    return () => seats.forEach(({ id }) => view.setOverlay(`seat ${id}`, null));
  }, [view, seats, tokens]);

  const { colliders } = kit;
  useEffect(() => {
    for (const one of colliders ?? []) view.setOverlay(`collider ${one.id}`, colliderMarks(one, tokens), one.part);
    return () => colliders?.forEach(({ id }) => view.setOverlay(`collider ${id}`, null));
  }, [view, colliders, tokens]);

  const faulty = useMemo(
    () => new Set(findings.filter(({ check }) => check === 'grounds.ropes').map(({ id }) => id.slice(id.indexOf('/') + 1))),
    [findings],
  );
  const { walkway } = kit;
  useEffect(() => {
    view.setOverlay('walkway', walkway ? walkwayMarks(walkway, { chosen: own.knots, faulty, dragged: own.dragged }, tokens) : null);
    return () => view.setOverlay('walkway', null);
  }, [view, walkway, own.knots, own.dragged, faulty, tokens]);

  const glows = kit.grounds?.glows;
  useEffect(() => {
    if (!own.night && Object.keys(own.paints).length === 0) return;
    view.setLook({ night: own.night, glows: own.night ? (glows ?? []) : [], paints: own.paints });
    return () => view.setLook(null);
  }, [view, own.night, own.paints, glows, kit.materials]);

  const work = useRef<WayWork | null>(null);
  useEffect(() => {
    work.current = {
      walkway,
      footprint,
      ui: own,
      set,
      put(at: Vec3, joined) {
        const id = newId();
        if (run(callOf(addKnot, { id, at, joined: walkway?.knots.some((knot) => knot.id === joined) ? joined : null })))
          set({ knots: [id] });
      },
      move: (knot, at) => void run(callOf(moveKnots, { places: { [knot]: at } })),
      tiles: (next) => void run(callOf(setFootprint, { footprint: next, tile })),
    };
  });
  useEffect(() => {
    view.setTool(walkwayTool(() => work.current!));
    return () => view.setTool(null);
  }, [view]);
  return null;
}
