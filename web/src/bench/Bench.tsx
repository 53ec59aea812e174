'use client';
import Box from '@mui/material/Box';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Vec3 } from '@itchkit/core/document';
import { CANONICAL, kitBounds } from '@itchkit/core/geometry';
import { unitOf } from '@itchkit/core/intake';
import { useKit, useOpenKit, useRulebook, useRun, useSession, useSetUi, useUi } from '../session/context';
import { proposedOnce } from '../session/proposed';
import { DAY, NIGHT } from '../theme/tokens';
import type { BenchStage, Shown } from './bench-stage';
import { BenchView } from './bench-view';
import { BenchSight } from './BenchSight';
import { BenchSign } from './BenchSign';
import { SurfaceMarks } from './SurfaceMarks';
import { surfacePicks } from './surface-picks';

/** The 3D view of a stage: the kit at rest, under a clip or its levers, or whatever else the stage shows. */
export function Bench({ stage }: { stage: BenchStage }) {
  const holder = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<BenchView | null>(null);
  const { session, ui } = useOpenKit();
  const { mode, systemMode } = useColorScheme();
  const tokens = (mode === 'system' ? systemMode : mode) === 'dark' ? NIGHT : DAY;
  const kit = useKit();
  const proposal = useUi((state) => state.proposal);
  const compare = useUi((state) => state.compare);
  const tried = useMemo(() => proposedOnce(kit, proposal, session.blobs), [kit, proposal, session]);
  const key = useUi((state) => stage.other?.key(state) ?? null);
  const rulebook = useRulebook();
  const shown = useMemo((): Shown => {
    return key === null || !stage.other ? tried : stage.other.shown(tried.kit, tried.blobs, key as never, rulebook);
  }, [tried, key, stage, rulebook]);
  const revision = useSession((state) => state.revision);
  const saved = useSession((state) => state.save === 'saved');
  const selection = useUi((state) => state.selection);
  const gizmo = useUi((state) => state.gizmo);
  const pickMode = useUi((state) => state.pickMode);
  const person = useUi((state) => state.person);
  const callouts = useUi((state) => state.callouts);
  const frameRequest = useUi((state) => state.frameRequest);
  const setUi = useSetUi();
  const run = useRun();
  const bounds = useMemo(() => kitBounds(kit, session.blobs), [kit, session]);

  const latest = useRef({ stage, run, kit });
  useEffect(() => {
    latest.current = { stage, run, kit };
  });

  useEffect(() => {
    const made = new BenchView(holder.current!, DAY, {
      pick: (id, additive) => {
        if (!latest.current.stage.chooses) return;
        const before = ui.getState().selection;
        const others = before.filter((one) => one !== id);
        const kept = additive && id !== null ? others : [];
        const goes = id === null || (additive && others.length < before.length);
        setUi({ selection: goes ? kept : [...kept, id], held: null });
      },
      ...surfacePicks({ ui, kit: () => latest.current.kit, blobs: session.blobs }),
      swung: (degrees) => {
        const { swing } = ui.getState();
        if (!swing) return;
        const turn = [0, 1, 2].map((i) => (i === swing.axis ? (degrees ?? 0) : 0)) as Vec3;
        setUi({ held: degrees === null ? null : { part: swing.part, delta: { offset: [0, 0, 0], turn, size: [1, 1, 1] } } });
      },
      moved: (id, placement, done) => {
        const { stage: now, kit: whole, run: change } = latest.current;
        if (whole.parts[id]) now.moved?.(id, placement, done, { kit: whole, run: change, ui });
      },
    });
    setView(made);
    return () => {
      setView(null);
      made.dispose();
    };
  }, [ui, setUi, session]);

  // What is tried or picked belongs to the stage it was begun in.
  useEffect(() => setUi({ held: null, pickMode: 'parts', picked: [], faces: null, swing: null }), [stage, setUi]);

  useEffect(() => view?.setTokens(tokens), [view, tokens]);

  // The kit, and how it stands: again at every change of the document, of the time, of a lever.
  useEffect(() => {
    if (!view) return;
    view.setKit(shown.kit, shown.blobs, shown.space ?? CANONICAL);
    const variables = rulebook?.variables ?? [];
    const pose = () => {
      if (!view.poser) return;
      stage.pose(view.poser, shown, ui.getState(), variables);
      view.posed();
    };
    pose();
    return ui.subscribe(pose);
  }, [view, shown, ui, stage, rulebook]);

  useEffect(() => {
    const platform = rulebook?.space ?? CANONICAL;
    view?.setGround(
      {
        bounds,
        tileMetres: rulebook?.tileMetres ?? 1,
        unit: { metres: platform.metresPerUnit, short: rulebook?.unit.short ?? unitOf(1).short },
        forward: platform.forward,
        person,
      },
      callouts && stage.sizes,
    );
  }, [view, bounds, rulebook, person, callouts, stage, tokens]);

  useEffect(
    () => view?.setSelection(stage.chooses ? selection.filter((id) => kit.parts[id]) : [], stage.gizmo ? gizmo : null),
    [view, selection, gizmo, stage, kit, tokens],
  );
  useEffect(() => view?.setPickMode(stage.surfaces ? pickMode : 'parts'), [view, stage, pickMode]);
  useEffect(() => view?.setBefore(compare && proposal !== null ? kit : null, session.blobs), [view, compare, proposal, kit, session]);
  useEffect(() => view?.setJoints(stage.joints), [view, stage]);
  useEffect(() => view?.frame(frameRequest.parts, frameRequest.from), [view, frameRequest]);
  const size = kit.source?.space.metresPerUnit;
  useEffect(() => view?.frame([]), [view, size]);

  useEffect(() => {
    if (!saved || !view) return;
    const timer = setTimeout(() => {
      if (stage.pictured) void view.thumbnail().then((png) => png && session.reportThumbnail(revision, png));
    }, 1500);
    return () => clearTimeout(timer);
  }, [view, saved, revision, session, stage]);

  return (
    <Box sx={{ position: 'relative', height: '100%', minHeight: 0, overflow: 'hidden', bgcolor: 'kit.paper' }}>
      <Box
        ref={holder}
        data-testid="bench"
        role="img"
        aria-label="Bench: the kit in three dimensions. Parts lists the same parts."
        sx={{ position: 'absolute', inset: 0 }}
      />
      {view && stage.surfaces && <SurfaceMarks view={view} bounds={bounds} tokens={tokens} />}
      {view && stage.Overlays && <stage.Overlays view={view} bounds={bounds} tokens={tokens} />}
      {view && <BenchSight view={view} />}
      <BenchSign stage={stage} says={tried.says} />
    </Box>
  );
}
