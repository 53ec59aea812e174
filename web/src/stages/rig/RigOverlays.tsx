'use client';
import { useEffect, useMemo, useRef } from 'react';
import { callOf, jointsOf, putArray, type Blobs, type Id, type Vec3 } from '@itchkit/core/document';
import { invertMatrix, restWorlds, sizeOf, transformPoint } from '@itchkit/core/geometry';
import {
  assemblyTree,
  bodyMotions,
  dragBody,
  headOf,
  middleAlong,
  moveJoint,
  pinsMoved,
  setWeights,
  keepStrongest,
  twinHead,
} from '@itchkit/core/rig';
import { useKit, useOpenKit, useRun, useSetSlice, useSetUi, useUi } from '../../session/context';
import type { RigState } from './rig-state';
import type { Tokens } from '../../theme/tokens';
import { onFacingPlane, sightAt, type BenchTool, type ToolPoint } from '../../bench/bench-tool';
import type { OverlayProps } from '../../bench/bench-stage';
import type { BenchView } from '../../bench/bench-view';
import { BrushStroke } from './brush-stroke';
import { HeatLook } from './heat-look';
import { brushRing, couplingMarks, crossedMarks, pinMarks } from './rig-marks';

/** Pixels within which a head is taken hold of. */
const REACH = 12;

/** What Rig draws on the bench and what the pointer does there: pins and heads are dragged, weights brushed, bodies pulled. */
export function RigOverlays({ view, bounds, tokens }: OverlayProps): null {
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const setRig = useSetSlice('rig');
  const setUi = useSetUi();
  const rig = useUi((state) => state.rig);
  const selection = useUi((state) => state.selection);
  const reach = 0.5 * Math.max(0.1, ...sizeOf(bounds));
  const joints = useMemo(() => jointsOf(kit), [kit]);
  const joint = selection.find((id) => joints.has(id)) ?? null;

  // What is proposed and tried belongs to Rig.
  useEffect(
    () => () => {
      setRig({ pose: null, crossed: null, values: {}, brush: { ...ui.getState().rig.brush, on: false } });
      for (const name of ['pins', 'couplings', 'crossed', 'brush']) view.setOverlay(name, null);
    },
    [view, setRig, ui],
  );

  const pins = useMemo(() => (rig.fit ? pinsMoved(rig.fit.fit.pins, rig.fit.moved, rig.fit.mirrored) : null), [rig.fit]);
  useEffect(() => view.setOverlay('pins', pins ? pinMarks(pins, tokens) : null), [view, pins, tokens]);
  useEffect(
    () => view.setOverlay('couplings', rig.mode === 'bodies' && kit.couplings ? couplingMarks(kit, null, reach / 3, tokens) : null),
    [view, rig.mode, kit, reach, tokens],
  );

  const crossed = rig.pose === null ? null : rig.crossed;
  useEffect(() => view.setOverlay('crossed', crossed?.length ? crossedMarks(crossed, tokens) : null), [view, crossed, tokens]);

  // Heat of the chosen joint while weights are looked at; with none chosen, which joint holds what.
  const heat = useRef<HeatLook | null>(null);
  const weighs = rig.mode === 'weights' && joints.size > 0;
  useEffect(() => {
    if (!weighs) return;
    const look = new HeatLook(tokens.stop);
    look.show(view.painted, kit, session.blobs, joint);
    heat.current = look;
    view.draw();
    return () => {
      heat.current = null;
      look.dispose();
      view.draw();
    };
  }, [view, weighs, joint, kit, session, tokens]);

  const latest = useRef({ kit, joint, pins, run, rig });
  useEffect(() => {
    latest.current = { kit, joint, pins, run, rig };
  });

  const picking = useUi((state) => state.pickMode !== 'parts');
  const wanted = picking ? null : toolOf(rig);
  useEffect(() => {
    if (wanted === null) return;
    const state = () => latest.current;
    const tool = {
      pins: () => pinTool(state, setRig),
      heads: () => headTool(state, (id) => setUi({ selection: [id] })),
      brush: () => brushTool(view, state, session.blobs, tokens),
      bodies: () => bodyTool(state, setRig),
    }[wanted]();
    view.setTool(tool);
    return () => {
      view.setTool(null);
      view.setOverlay('brush', null);
    };
  }, [view, wanted, session, setRig, setUi, tokens]);
  return null;
}

/** What the pointer holds in Rig. */
function toolOf({ mode, fit, brush }: RigState): 'pins' | 'heads' | 'brush' | 'bodies' | null {
  if (fit) return 'pins';
  if (mode === 'weights' && brush.on) return 'brush';
  if (mode === 'bodies') return 'bodies';
  return mode === 'joints' || mode === 'weights' ? 'heads' : null;
}

type SetRig = (change: Partial<RigState>) => void;

interface Latest {
  kit: ReturnType<typeof useKit>;
  joint: Id | null;
  pins: ReturnType<typeof pinsMoved> | null;
  run: ReturnType<typeof useRun>;
  rig: RigState;
}

/**
 * A proposed joint is put elsewhere: in the plane that faces the eye, and there into the middle of the solid along the sight, unless Alt is
 * held.
 */
function pinTool(latest: () => Latest, setRig: SetRig): BenchTool {
  let key: string | null = null;
  let depth: Vec3 = [0, 0, 0];
  return {
    down(at) {
      const near = latest()
        .pins?.map((pin) => ({ pin, off: at.pixelsTo(pin.at) }))
        .sort((a, b) => a.off - b.off)[0];
      if (!near || near.off > REACH) return false;
      key = near.pin.key;
      depth = near.pin.at;
      return true;
    },
    move(at) {
      const { fit } = latest().rig;
      if (key === null || !fit) return;
      let to = onFacingPlane(at, depth);
      if (!at.alt) {
        const { from, direction } = sightAt(at);
        const near = Math.hypot(...to.map((value, axis) => value - from[axis]));
        const middle = middleAlong(fit.fit.solid, from, direction, near);
        if (middle !== null) to = from.map((value, axis) => value + middle * direction[axis]) as Vec3;
      }
      // A pin of the middle stays in the middle.
      if (fit.mirrored && !/[+-]$/.test(key)) to = [0, to[1], to[2]];
      setRig({ fit: { ...fit, moved: { ...fit.moved, [key]: to } } });
    },
    up() {
      key = null;
    },
  };
}

/** The head of a joint is chosen by a click, and put elsewhere by a drag; the mesh and what hangs below stay. */
function headTool(latest: () => Latest, choose: (id: Id) => void): BenchTool {
  let held: { id: Id; from: Vec3; to: Vec3; moved: boolean } | null = null;
  return {
    down(at) {
      const { kit } = latest();
      const worlds = restWorlds(kit);
      const near = [...jointsOf(kit)].map((id) => ({ id, off: at.pixelsTo(headOf(worlds, id)) })).sort((a, b) => a.off - b.off)[0];
      if (!near || near.off > REACH) return false;
      choose(near.id);
      const head = headOf(worlds, near.id);
      held = { id: near.id, from: head, to: head, moved: false };
      return true;
    },
    move(at) {
      const { rig } = latest();
      if (!held || rig.mode !== 'joints') return;
      held.to = onFacingPlane(at, held.from);
      held.moved = held.moved || at.pixelsTo(held.from) > 4;
    },
    up() {
      const { kit, run, rig } = latest();
      if (held?.moved) {
        const twin = rig.symmetric ? twinHead(kit, held.id) : null;
        const tidy = held.to.map((value) => Number(value.toFixed(5)) + 0) as Vec3;
        // A joint of the middle stays there while both sides are edited alike.
        run(
          callOf(moveJoint, {
            joint: held.id,
            at: twin === held.id ? [0, tidy[1], tidy[2]] : tidy,
            ...(twin !== null && twin !== held.id ? { twin } : {}),
          }),
        );
      }
      held = null;
    },
  };
}

function brushTool(view: BenchView, latest: () => Latest, blobs: Blobs, tokens: Tokens): BenchTool {
  let stroke: BrushStroke | null = null;
  const stamp = (at: ToolPoint) => {
    const { joint, rig } = latest();
    if (!stroke || !at.hit || joint === null) return;
    const { mode, radius, strength, through } = rig.brush;
    const { direction } = sightAt(at);
    const settings = {
      joint,
      mode: at.alt && mode === 'add' ? ('take' as const) : mode,
      radius,
      strength,
      symmetric: rig.symmetric,
      locked: rig.locked,
    };
    stroke.to(at.hit.point, settings, through ? null : (direction.map((value) => -value) as Vec3));
    view.draw();
  };
  const ring = (at: ToolPoint) =>
    view.setOverlay('brush', at.hit ? brushRing(at.hit.point, at.hit.normal, latest().rig.brush.radius, tokens) : null);
  return {
    down(at) {
      const { kit, joint } = latest();
      if (!at.hit || joint === null || !kit.parts[at.hit.part]?.skin) return false;
      if (!view.poser) return false;
      stroke = new BrushStroke(kit, blobs, view.painted, view.poser);
      stamp(at);
      return true;
    },
    move(at) {
      stamp(at);
      ring(at);
    },
    up() {
      if (stroke?.changed) {
        const { joints, spans, rows, placeOf, positions } = stroke.painted;
        const held = keepStrongest(rows, joints.length, placeOf, positions.length / 3, 4);
        latest().run(
          callOf(setWeights, {
            joints,
            spans,
            held: { joints: putArray(blobs, held.joints, 4), weights: putArray(blobs, held.weights, 4) },
            how: 'Brush the weights',
          }),
        );
      }
      stroke = null;
    },
    hover: ring,
  };
}

/** A body is pulled: the assembly moves as its couplings let it. Nothing of it is kept. */
function bodyTool(latest: () => Latest, setRig: SetRig): BenchTool {
  let held: { body: Id; grabbed: Vec3; at: Vec3 } | null = null;
  return {
    down(at) {
      const { kit, rig } = latest();
      const body = at.hit && kit.bodies?.find(({ parts }) => parts.includes(at.hit!.part));
      if (!at.hit || !body || body.anchored || !assemblyTree(kit).by.has(body.id)) return false;
      const back = invertMatrix(bodyMotions(kit, rig.values).get(body.id)!);
      held = { body: body.id, grabbed: back ? transformPoint(back, at.hit.point) : at.hit.point, at: at.hit.point };
      return true;
    },
    move(at) {
      const { kit, rig } = latest();
      if (held) setRig({ values: dragBody(kit, rig.values, held.body, held.grabbed, onFacingPlane(at, held.at)) });
    },
    up() {
      held = null;
    },
  };
}
