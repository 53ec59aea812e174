import Joi from 'joi';
import { CALLOUT_POINTS, calloutSchema, defineOperation, idsSchema, partOf, type Callout, type Id, type Kit, type Vec3 } from '../document';
import { circleThrough, restWorlds, transformPoint } from '../geometry';

/** Keeps a measure between points on parts; it follows them. */
export const addCallout = defineOperation<Callout>({
  id: 'shape.add-callout',
  title: (_, { kind }) => `Keep a measured ${kind}`,
  args: calloutSchema.required(),
  change(kit, callout) {
    for (const { part } of callout.points) partOf(kit, part);
    kit.callouts = [...(kit.callouts ?? []), callout];
  },
});

/** Takes measures from the bench. */
export const removeCallouts = defineOperation<{ callouts: Id[] }>({
  id: 'shape.remove-callouts',
  title: (_, { callouts }) => `Take out ${callouts.length === 1 ? 'a measure' : `${callouts.length} measures`}`,
  args: Joi.object({ callouts: idsSchema.required() }),
  change(kit, { callouts }) {
    kit.callouts = (kit.callouts ?? []).filter(({ id }) => !callouts.includes(id));
    if (kit.callouts.length === 0) delete kit.callouts;
  },
});

/** The points of a measure in the world at rest, metres. */
export function calloutPoints(kit: Kit, { points }: Callout): Vec3[] {
  const worlds = restWorlds(kit);
  return points.map(({ part, at }) => transformPoint(worlds.get(part)!, at));
}

/**
 * What a measure comes to: metres between two points, the angle in degrees at the second of three, or the radius in metres of the circle
 * through three. Null where too few points are given, or three lie in a line and have no circle.
 */
export function measure(kind: Callout['kind'], points: readonly Vec3[]): number | null {
  if (points.length < CALLOUT_POINTS[kind]) return null;
  const [a, b, c] = points;
  const side = (p: Vec3, q: Vec3) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
  if (kind === 'distance') return side(a, b);
  if (kind === 'radius') return circleThrough(a, b, c)?.radius ?? null;
  const [u, v] = [a, c].map((end) => end.map((value, axis) => value - b[axis]));
  const lengths = Math.hypot(...u) * Math.hypot(...v);
  if (lengths === 0) return null;
  return (Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / lengths))) * 180) / Math.PI;
}
