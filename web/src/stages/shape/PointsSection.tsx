'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { CALLOUT_POINTS, callOf, figure, newId, type Axis, type Callout, type Kit, type Part, type Vec3 } from '@itchkit/core/document';
import { restWorlds, ringOfEdge } from '@itchkit/core/geometry';
import { addCallout, measure, movePivot, setHingeAxis, turnsToLine } from '@itchkit/core/shape';
import { measureText } from '../../bench/point-marks';
import { inOwnAxes, inWorld } from '../../bench/snap-point';
import { OwnAxisChoice } from '../../card/OwnAxisChoice';
import { TryButton } from '../../card/TryButton';
import { Buttons } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { useKit, useOpenKit, useRun, useSetSlice, useSetUi, useUi } from '../../session/context';
import type { PickedPoint } from '../../session/ui-store';

const KINDS: Record<PickedPoint['kind'], string> = {
  vertex: 'corner',
  edge: 'middle of an edge',
  face: 'middle of a face',
  ring: 'middle of a ring',
};

/** The line that a hinge would lie along: between two points, or along the one that has a direction. */
export function lineOf(kit: Kit, picked: readonly PickedPoint[]): [Vec3, Vec3] | null {
  const worlds = restWorlds(kit);
  const places = picked.filter(({ part }) => worlds.has(part)).map((point) => inWorld(worlds.get(point.part)!, point));
  if (places.length >= 2) return [places[0].at, places[1].at];
  if (places.length === 0 || !places[0].along) return null;
  const [{ at, along }] = places;
  const length = Math.hypot(...along!);
  return length > 0 ? [at, at.map((value, axis) => value + along![axis] / length) as Vec3] : null;
}

/** What picked points are good for: the pivot of the chosen part, its hinge, measures. */
export function PointsSection({ part }: { part: Part | null }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const setShape = useSetSlice('shape');
  const { enqueueSnackbar } = useSnackbar();
  const picked = useUi((state) => state.picked).filter((point) => kit.parts[point.part]);
  const worlds = restWorlds(kit);
  const last = picked.at(-1);
  const line = lineOf(kit, picked);
  const turns = part && line && turnsToLine(kit, part.id, line);
  const nearest = (turns?.indexOf(Math.min(...turns)) ?? 1) as Axis;
  // The one that has to turn least stands first: numbers at rest stay none where they can.
  const [chosen, setChosen] = useState<Axis | null>(null);
  const axis = chosen ?? nearest;
  const points = picked.map((point) => inWorld(worlds.get(point.part)!, point).at);
  const kinds = (Object.keys(CALLOUT_POINTS) as Callout['kind'][]).filter((kind) => picked.length >= CALLOUT_POINTS[kind]);

  const toRing = () => {
    const mesh = last && kit.parts[last.part].mesh;
    const ring = mesh ? ringOfEdge(kit.meshes[mesh], last.face, last.edge, session.blobs) : null;
    if (!last || !ring)
      return void enqueueSnackbar('That edge is no rim that closes. Pick an edge of a hole, or of a shaft’s end.', { variant: 'warning' });
    setUi({ picked: [...picked.slice(0, -1), { ...last, kind: 'ring', at: ring.centre, along: ring.normal, radius: ring.radius }] });
  };

  return (
    <Section title="Picked points" aside={<span style={{ fontSize: 12 }}>{picked.length} of 3</span>}>
      {picked.length === 0 && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Click a corner, an edge or a face on the bench.</Box>}
      <Box component="ol" sx={{ m: 0, mb: 2, pl: 4, fontSize: 12.5, lineHeight: 1.7 }}>
        {picked.map((point, i) => (
          <li key={i}>
            {KINDS[point.kind]} of {kit.parts[point.part].name}
            <Box className="figures" sx={{ color: 'text.secondary' }}>
              {points[i].map((value) => value.toFixed(4)).join(', ')} m{point.radius !== undefined && `, r ${point.radius.toFixed(4)}`}
            </Box>
          </li>
        ))}
      </Box>
      <Box sx={{ display: 'grid', gap: 2 }}>
        {last?.kind === 'edge' && (
          <Button variant="outlined" onClick={toRing}>
            Take the whole ring of that edge
          </Button>
        )}
        {part && part.skin === null && last && (
          <TryButton
            calls={() => callOf(movePivot, { part: part.id, to: inOwnAxes(worlds.get(part.id)!, points.at(-1)!)! })}
            onDone={() => setUi({ picked: [] })}
          >
            Pivot of “{part.name}” to point {picked.length}
          </TryButton>
        )}
        {part && part.skin === null && line && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1.5, alignItems: 'start' }}>
            <OwnAxisChoice
              part={part.id}
              value={axis}
              onChange={setChosen}
              note={(one) => (turns![one] < 1e-3 ? 'lies along it' : `turns by ${figure(turns![one], 1)}°`)}
            />
            <TryButton
              calls={() => callOf(setHingeAxis, { part: part.id, axis, from: line[0], to: line[1], either: true })}
              onDone={() => {
                setUi({ picked: [] });
                setShape({ hinge: { part: part.id, axis } });
              }}
            >
              Hinge along {picked.length >= 2 ? '1 to 2' : 'its line'}
            </TryButton>
          </Box>
        )}
        {kinds.length > 0 && (
          <Buttons>
            {kinds.map((kind) => {
              const value = measure(kind, points);
              return (
                value !== null && (
                  <Button
                    key={kind}
                    variant="outlined"
                    title="Keep this measure on the bench"
                    onClick={() =>
                      run(
                        callOf(addCallout, {
                          id: newId(),
                          kind,
                          points: picked.slice(0, CALLOUT_POINTS[kind]).map(({ part: on, at }) => ({ part: on, at })),
                        }),
                      )
                    }
                  >
                    Keep {kind} {measureText(kind, value)}
                  </Button>
                )
              );
            })}
          </Buttons>
        )}
        {picked.length > 0 && (
          <Box>
            <Button onClick={() => setUi({ picked: [] })}>Let go of them</Button>
          </Box>
        )}
      </Box>
    </Section>
  );
}
