'use client';
import Box from '@mui/material/Box';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef } from 'react';
import type { Vec3 } from '@itchkit/core/document';
import { atLevel, CANONICAL, kitBounds } from '@itchkit/core/geometry';
import { unitOf } from '@itchkit/core/intake';
import type { Stage } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRulebook, useRun, useSession, useSetUi, useUi, useTrial } from '../session/context';
import { poseForRig, poseKit, REST, type PoseSource } from '../session/pose';
import { DAY, NIGHT } from '../theme/tokens';
import { playedOnce } from '../strip/use-as-played';
import { BenchView } from './bench-view';
import { BenchSign } from './BenchSign';
import { movedCalls } from './moved';
import { proposedOnce } from './proposed';
import { surfacePicks } from './surface-picks';
import { useBenchOverlays } from './use-bench-overlays';
import { useMotionBench } from './use-motion-bench';
import { useRigBench } from './use-rig-bench';

/** The 3D view of a stage: the kit at rest, under a clip or its levers, or the package in the trial. */
export function Bench({ stage }: { stage: Stage }) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<BenchView | null>(null);
  const { session, ui, trial } = useOpenKit();
  const { mode, systemMode } = useColorScheme();
  const tokens = (mode === 'system' ? systemMode : mode) === 'dark' ? NIGHT : DAY;
  const kit = useKit();
  const proposal = useUi((state) => state.proposal);
  const compare = useUi((state) => state.compare);
  const level = useUi((state) => (stage === 'shape' ? state.level : null));
  const {
    kit: shown,
    blobs: shownBlobs,
    says,
  } = useMemo(() => proposedOnce(level === null ? kit : atLevel(kit, level), proposal, session.blobs), [kit, level, proposal, session]);
  const clipId = useUi((state) => state.clip);
  const asPlayed = useUi((state) => stage === 'motion' && state.motion.asPlayed);
  /** In Motion, with the clip as the platform will play it in the place of the one that was made. */
  const { kit: posed, blobs: posedBlobs } = useMemo(() => {
    const clip = clipId === null ? undefined : shown.clips[clipId];
    if (!asPlayed || !clip) return { kit: shown, blobs: shownBlobs };
    const { played, blobs } = playedOnce(shown, clip, shownBlobs);
    return { kit: { ...shown, clips: { ...shown.clips, [clip.id]: played.clip } }, blobs };
  }, [shown, shownBlobs, clipId, asPlayed]);
  const rulebook = useRulebook();
  const revision = useSession((state) => state.revision);
  const saved = useSession((state) => state.save === 'saved');
  const selection = useUi((state) => state.selection);
  const gizmo = useUi((state) => state.gizmo);
  const person = useUi((state) => state.person);
  const callouts = useUi((state) => state.callouts);
  const frameRequest = useUi((state) => state.frameRequest);
  const loaded = useTrial((state) => state.loaded);
  const trialBlobs = useTrial((state) => state.blobs);
  const setUi = useSetUi();
  const run = useRun();
  const inTrial = stage === 'trial' && loaded !== null && trialBlobs !== null;
  const bounds = useMemo(() => kitBounds(kit, session.blobs), [kit, session]);

  const latest = useRef({ stage, run, kit });
  useEffect(() => {
    latest.current = { stage, run, kit };
  });

  useEffect(() => {
    const made = new BenchView(holder.current!, DAY, {
      pick: (id, additive) => {
        if (latest.current.stage === 'trial') return;
        const before = ui.getState().selection;
        const next = id === null ? [] : additive ? (before.includes(id) ? before.filter((one) => one !== id) : [...before, id]) : [id];
        setUi({ selection: next, held: null });
      },
      ...surfacePicks({ ui, kit: () => latest.current.kit, blobs: session.blobs }),
      swung: (degrees) => {
        const { swing } = ui.getState();
        if (!swing) return;
        const turn = [0, 1, 2].map((i) => (i === swing.axis ? (degrees ?? 0) : 0)) as Vec3;
        setUi({ held: degrees === null ? null : { part: swing.part, delta: { offset: [0, 0, 0], turn, size: [1, 1, 1] } } });
      },
      moved: (id, placement, done) => movedCalls(id, placement, done, { ...latest.current, ui }),
    });
    view.current = made;
    return () => {
      view.current = null;
      made.dispose();
    };
  }, [ui, setUi, session]);

  // What is tried or picked belongs to the stage it was begun in.
  useEffect(() => setUi({ held: null, pickMode: 'parts', picked: [], faces: null, level: null, swing: null }), [stage, setUi]);

  useEffect(() => view.current?.setTokens(tokens), [tokens]);

  // The kit, and how it stands: again at every change of the document, of the time, of a lever.
  useEffect(() => {
    const made = view.current;
    if (!made) return;
    made.setKit(inTrial ? loaded.kit : shown, inTrial ? trialBlobs : shownBlobs, inTrial ? loaded.manifest.space : CANONICAL);
    const variables = rulebook?.variables ?? [];
    const pose = () => {
      if (!made.poser) return;
      const source = inTrial ? trialSource(trial.getState()) : stageSource(stage, ui.getState());
      if (stage === 'rig' && !inTrial) poseForRig(made.poser, shown, ui.getState().rig);
      else poseKit(made.poser, inTrial ? loaded.kit : posed, inTrial ? trialBlobs : posedBlobs, source, variables);
      made.posed();
    };
    pose();
    const stops = [ui.subscribe(pose), trial.subscribe(pose)];
    return () => stops.forEach((stop) => stop());
  }, [shown, shownBlobs, posed, posedBlobs, ui, trial, stage, inTrial, loaded, trialBlobs, rulebook]);

  useEffect(() => {
    const platform = rulebook?.space ?? CANONICAL;
    view.current?.setGround(
      {
        bounds,
        tileMetres: rulebook?.tileMetres ?? 1,
        unit: { metres: platform.metresPerUnit, short: rulebook?.unit.short ?? unitOf(1).short },
        forward: platform.forward,
        person,
      },
      callouts && (stage === 'intake' || stage === 'shape'),
    );
  }, [bounds, rulebook, person, callouts, stage, tokens]);

  useEffect(
    () =>
      view.current?.setSelection(
        stage === 'trial' ? [] : selection.filter((id) => kit.parts[id]),
        stage === 'shape' || stage === 'motion' || stage === 'wiring' ? gizmo : null,
      ),
    [selection, gizmo, stage, kit, tokens],
  );

  useBenchOverlays(view, stage, bounds, tokens);
  useRigBench(view, stage, bounds, tokens);
  useMotionBench(view, stage, bounds, tokens);

  useEffect(() => view.current?.setBefore(compare && proposal !== null ? kit : null, session.blobs), [compare, proposal, kit, session]);

  useEffect(() => view.current?.setJoints(stage === 'intake' || stage === 'motion' || stage === 'rig'), [stage]);

  useEffect(() => view.current?.frame(frameRequest.parts, frameRequest.from), [frameRequest]);
  const size = kit.source?.space.metresPerUnit;
  useEffect(() => view.current?.frame([]), [size]);

  useEffect(() => {
    if (!saved) return;
    const timer = setTimeout(() => {
      if (stage === 'trial' || stage === 'motion' || stage === 'wiring') return;
      void view.current?.thumbnail().then((png) => png && session.reportThumbnail(revision, png));
    }, 1500);
    return () => clearTimeout(timer);
  }, [saved, revision, session, stage]);

  return (
    <Box sx={{ position: 'relative', height: '100%', minHeight: 0, overflow: 'hidden', bgcolor: 'kit.paper' }}>
      <Box
        ref={holder}
        data-testid="bench"
        role="img"
        aria-label="Bench: the kit in three dimensions. Parts lists the same parts."
        sx={{ position: 'absolute', inset: 0 }}
      />
      <BenchSign stage={stage} says={says} />
    </Box>
  );
}

function stageSource(
  stage: Stage,
  state: {
    clip: string | null;
    preview: string | null;
    time: number;
    levers: Record<string, number>;
    held: PoseSource['held'];
    motion: { quiet: readonly string[] };
  },
): PoseSource {
  if (state.preview !== null) return { ...REST, clip: state.preview, time: state.time };
  if (stage === 'motion') return { ...REST, clip: state.clip, time: state.time, held: state.held, quiet: state.motion.quiet };
  // A hinge that is tried.
  if (stage === 'shape') return { ...REST, held: state.held };
  if (stage === 'wiring') return { ...REST, levers: state.levers, held: state.held };
  return REST;
}

function trialSource(state: { clip: string | null; time: number; levers: Record<string, number> }): PoseSource {
  return { ...REST, clip: state.clip, time: state.time, levers: state.levers };
}
