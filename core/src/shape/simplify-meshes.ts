import type { Blobs, Id, Mesh, Primitive } from '../document';
import { weldedPlaces, weldPrimitive, wholeMesh } from '../geometry';
import { extentOf, simplifyPrimitive, type Keep, type Simplified } from './simplify-primitive';

/** How far simplifying goes: to so many triangles, to a share of what there is, or as far as an error in millimetres allows. */
export type SimplifyGoal = { triangles: number } | { share: number } | { toleranceMm: number };

/** What stays as it is in all of the meshes. */
export interface KeepIn {
  keepBorders: boolean;
  /** Whether a material shows a picture, so that seams of UVs have to hold. */
  showsPicture(material: Id | null): boolean;
}

/** Vertices a corner above which a mesh is taken to share none of them. */
const LOOSE = 0.6;

/** Where corners are not shared every edge is a seam, and nothing could be taken away: what is alike in all is made one first. */
function weldLoose(mesh: Mesh, blobs: Blobs): Mesh {
  return {
    ...mesh,
    primitives: mesh.primitives.map((primitive) =>
      primitive.attributes.POSITION.count > LOOSE * primitive.indices.count ? weldPrimitive(primitive, 0, blobs) : primitive,
    ),
  };
}

/** Vertices that stand where another primitive of the mesh has one: they stay, or a gap would open between materials. */
function seams(mesh: Mesh, blobs: Blobs): (Uint8Array | null)[] {
  if (mesh.primitives.length < 2) return [null];
  const { positions, vertexStarts } = wholeMesh(mesh, blobs);
  const places = weldedPlaces(positions);
  const owner = new Int32Array(places.length).fill(-1);
  const shared = new Uint8Array(places.length);
  mesh.primitives.forEach((_, p) => {
    for (let v = vertexStarts[p]; v < vertexStarts[p + 1]; v++) {
      const place = places[v];
      if (owner[place] < 0) owner[place] = p;
      else if (owner[place] !== p) shared[place] = 1;
    }
  });
  return mesh.primitives.map((_, p) =>
    Uint8Array.from({ length: vertexStarts[p + 1] - vertexStarts[p] }, (__, v) => shared[places[vertexStarts[p] + v]]),
  );
}

/**
 * Where several meshes are simplified together none may be off by more than this share of its own extent: small things keep their shape.
 */
const MOST_OFF = 0.08;
/** Halvings of the error that is looked for: to a two-hundredth of the greatest. */
const HALVINGS = 8;

interface Piece {
  mesh: number;
  primitive: Primitive;
  keep: Keep;
  /** How many parts show it, since triangles are counted by part. */
  copies: number;
  /** Metres in the world a metre in the mesh. */
  scale: number;
}

const countOf = (primitive: Primitive) => Math.floor(primitive.indices.count / 3);

/**
 * Simplifies some meshes together to a goal. One alone goes straight to its number of triangles; of several all are off by the same error
 * at most, and the least error that meets the goal is looked for by halving, so that each keeps its shape as well as the others do.
 *
 * @param copies How many parts show each mesh. @param scales Metres in the world a metre in each mesh.
 */
export function simplifyMeshes(
  meshes: Mesh[],
  copies: number[],
  scales: number[],
  goal: SimplifyGoal,
  { keepBorders, showsPicture }: KeepIn,
  blobs: Blobs,
): { meshes: Mesh[]; error: number } {
  const welded = meshes.map((mesh) => weldLoose(mesh, blobs));
  const pieces = welded.flatMap((mesh, m): Piece[] => {
    const locks = seams(mesh, blobs);
    return mesh.primitives.map((primitive, p) => ({
      mesh: m,
      primitive,
      keep: { borders: keepBorders, uvs: showsPicture(primitive.material), locked: locks[p] ?? null },
      copies: copies[m],
      scale: scales[m] || 1,
    }));
  });
  const before = pieces.reduce((sum, { primitive, copies: n }) => sum + countOf(primitive) * n, 0);
  const toTriangles = (budget: number) => {
    if (pieces.length > 1) return toBudget(pieces, budget, blobs);
    return pieces.map(({ primitive, copies: n, keep }) => simplifyPrimitive(primitive, Math.max(4, budget / n), Infinity, keep, blobs));
  };
  const made =
    'toleranceMm' in goal
      ? withinError(pieces, goal.toleranceMm / 1000, Infinity, blobs)
      : toTriangles('triangles' in goal ? goal.triangles : Math.round(goal.share * before));
  return {
    meshes: meshes.map((mesh, m) => ({
      ...mesh,
      primitives: made.filter((_, i) => pieces[i].mesh === m).map(({ primitive }) => primitive),
    })),
    error: Math.max(0, ...made.map(({ error }, i) => error * pieces[i].scale)),
  };
}

/** As few triangles as an error in metres of the world allows. @param mostShare Of a piece's own extent. */
function withinError(pieces: Piece[], metres: number, mostShare: number, blobs: Blobs): Simplified[] {
  return pieces.map(({ primitive, keep, scale }) => {
    const extent = extentOf(primitive, blobs);
    return simplifyPrimitive(primitive, Math.min(countOf(primitive), 4), Math.min(metres / scale, mostShare * extent), keep, blobs);
  });
}

function toBudget(pieces: Piece[], budget: number, blobs: Blobs): Simplified[] {
  const total = (made: Simplified[]) => made.reduce((sum, { primitive }, i) => sum + countOf(primitive) * pieces[i].copies, 0);
  if (total(pieces.map(({ primitive }) => ({ primitive, error: 0 }))) <= budget)
    return pieces.map(({ primitive }) => ({ primitive, error: 0 }));
  let low = 0;
  let high = Math.max(...pieces.map(({ primitive, scale }) => MOST_OFF * scale * extentOf(primitive, blobs)));
  let best = withinError(pieces, high, MOST_OFF, blobs);
  for (let i = 0; i < HALVINGS && total(best) <= budget; i++) {
    const middle = (low + high) / 2;
    const tried = withinError(pieces, middle, MOST_OFF, blobs);
    if (total(tried) <= budget) {
      best = tried;
      high = middle;
      if (total(tried) >= 0.99 * budget) break;
    } else low = middle;
  }
  return giveBack(pieces, best, budget, total, blobs);
}

/** What an error leaves below the budget is given back to all alike: counts jump where an error lets a whole edge loop go. */
function giveBack(pieces: Piece[], best: Simplified[], budget: number, total: (made: Simplified[]) => number, blobs: Blobs): Simplified[] {
  const now = total(best);
  if (now >= 0.97 * budget || now > budget) return best;
  const before = pieces.reduce((sum, { primitive, copies }) => sum + countOf(primitive) * copies, 0);
  const share = (budget - now) / (before - now);
  const more = pieces.map(({ primitive, keep }, i) => {
    const kept = countOf(best[i].primitive);
    return simplifyPrimitive(primitive, Math.floor(kept + share * (countOf(primitive) - kept)), best[i].error + 1e-12, keep, blobs);
  });
  return total(more) <= budget ? more : best;
}
