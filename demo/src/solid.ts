/** Simple solids in metres: flat arrays with normals and UVs, every face with its own corners. */
export interface Solid {
  positions: number[];
  normals: number[];
  uvs: number[];
  indices: number[];
}

type Point = readonly [number, number, number];

export function join(...solids: Solid[]): Solid {
  const out: Solid = { positions: [], normals: [], uvs: [], indices: [] };
  for (const solid of solids) {
    const start = out.positions.length / 3;
    out.positions.push(...solid.positions);
    out.normals.push(...solid.normals);
    out.uvs.push(...solid.uvs);
    out.indices.push(...solid.indices.map((index) => index + start));
  }
  return out;
}

export function move(solid: Solid, [x, y, z]: Point): Solid {
  const by = [x, y, z];
  return { ...solid, positions: solid.positions.map((value, i) => value + by[i % 3]) };
}

/** Turned about an axis through the origin: 0 for x, 1 for y, 2 for z. */
export function turn(solid: Solid, axis: 0 | 1 | 2, degrees: number): Solid {
  const sin = Math.sin((degrees * Math.PI) / 180);
  const cos = Math.cos((degrees * Math.PI) / 180);
  const [j, k] = [(axis + 1) % 3, (axis + 2) % 3];
  const rotate = (values: number[]) => {
    const out = values.slice();
    for (let i = 0; i < values.length; i += 3) {
      out[i + j] = cos * values[i + j] - sin * values[i + k];
      out[i + k] = sin * values[i + j] + cos * values[i + k];
    }
    return out;
  };
  return { ...solid, positions: rotate(solid.positions), normals: rotate(solid.normals) };
}

function quad(corners: [Point, Point, Point, Point], normal: Point, u: number, v: number): Solid {
  return {
    positions: corners.flatMap((corner) => [...corner]),
    normals: [0, 1, 2, 3].flatMap(() => [...normal]),
    uvs: [0, v, u, v, u, 0, 0, 0],
    indices: [0, 1, 2, 0, 2, 3],
  };
}

/** A box about the origin; one texture tile a metre. */
export function box(width: number, height: number, depth: number): Solid {
  const [x, y, z] = [width / 2, height / 2, depth / 2];
  return join(
    quad(
      [
        [-x, -y, z],
        [x, -y, z],
        [x, y, z],
        [-x, y, z],
      ],
      [0, 0, 1],
      width,
      height,
    ),
    quad(
      [
        [x, -y, -z],
        [-x, -y, -z],
        [-x, y, -z],
        [x, y, -z],
      ],
      [0, 0, -1],
      width,
      height,
    ),
    quad(
      [
        [x, -y, z],
        [x, -y, -z],
        [x, y, -z],
        [x, y, z],
      ],
      [1, 0, 0],
      depth,
      height,
    ),
    quad(
      [
        [-x, -y, -z],
        [-x, -y, z],
        [-x, y, z],
        [-x, y, -z],
      ],
      [-1, 0, 0],
      depth,
      height,
    ),
    quad(
      [
        [-x, y, z],
        [x, y, z],
        [x, y, -z],
        [-x, y, -z],
      ],
      [0, 1, 0],
      width,
      depth,
    ),
    quad(
      [
        [-x, -y, -z],
        [x, -y, -z],
        [x, -y, z],
        [-x, -y, z],
      ],
      [0, -1, 0],
      width,
      depth,
    ),
  );
}

/**
 * A solid turned about the y axis from a profile of [radius, height] points, bottom to top.
 * Each band of the profile has its own normals, smooth around, sharp between bands.
 */
export function lathe(profile: [number, number][], segments: number): Solid {
  const bands: Solid[] = [];
  for (let b = 0; b + 1 < profile.length; b++) {
    const [r0, y0] = profile[b];
    const [r1, y1] = profile[b + 1];
    const slope = Math.hypot(r1 - r0, y1 - y0);
    const [outward, upward] = [(y1 - y0) / slope, (r0 - r1) / slope];
    const band: Solid = { positions: [], normals: [], uvs: [], indices: [] };
    for (let s = 0; s <= segments; s++) {
      const angle = (2 * Math.PI * s) / segments;
      const [x, z] = [Math.sin(angle), Math.cos(angle)];
      for (const [r, y] of [
        [r0, y0],
        [r1, y1],
      ]) {
        band.positions.push(r * x, y, r * z);
        band.normals.push(outward * x, upward, outward * z);
        band.uvs.push((s / segments) * Math.max(1, Math.round(6 * Math.max(r0, r1))), y);
      }
    }
    for (let s = 0; s < segments; s++) {
      const [a, c] = [2 * s, 2 * s + 2];
      if (r0 > 0) band.indices.push(a, c, c + 1);
      if (r1 > 0) band.indices.push(a, c + 1, a + 1);
    }
    bands.push(band);
  }
  return join(...bands);
}

/** A closed cylinder along y, standing on the origin. */
export function cylinder(radius: number, height: number, segments: number): Solid {
  return lathe(
    [
      [0, 0],
      [radius, 0],
      [radius, height],
      [0, height],
    ],
    segments,
  );
}

/** A ring along y between two radii. */
export function ring(inner: number, outer: number, height: number, segments: number): Solid {
  return lathe(
    [
      [inner, height],
      [inner, 0],
      [outer, 0],
      [outer, height],
      [inner, height],
    ],
    segments,
  );
}

/** A round bar from one point to another. */
export function bar(from: Point, to: Point, radius: number, segments: number): Solid {
  const d = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const length = Math.hypot(...d);
  const bearing = (Math.atan2(d[0], d[2]) * 180) / Math.PI;
  const dip = (Math.acos(d[1] / length) * 180) / Math.PI;
  return move(turn(turn(cylinder(radius, length, segments), 0, dip), 1, bearing), from);
}

/** A girder of four booms along +z with zigzag lacing, from z = 0 to `length`. */
export function girder(width: number, height: number, length: number, bays: number, segments: number): Solid {
  const [x, y] = [width / 2, height / 2];
  const corners: [number, number][] = [
    [-x, -y],
    [x, -y],
    [x, y],
    [-x, y],
  ];
  const pieces: Solid[] = corners.map(([cx, cy]) => bar([cx, cy, 0], [cx, cy, length], 0.05, segments));
  for (let bay = 0; bay < bays; bay++) {
    const [z0, z1] = [(length * bay) / bays, (length * (bay + 1)) / bays];
    corners.forEach((a, side) => {
      const b = corners[(side + 1) % 4];
      const [from, to] = bay % 2 === 0 ? [a, b] : [b, a];
      pieces.push(bar([from[0], from[1], z0], [to[0], to[1], z1], 0.025, Math.max(4, Math.round(segments * 0.6))));
    });
  }
  return join(...pieces);
}
