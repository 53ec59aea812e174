import { strFromU8 } from 'fflate';
import { emptyKit, type Blobs, type Id, type Kit, type ReadingNote, cutText } from '../document';
import { describeSource } from './describe-source';
import { IntakeError, invalid } from './intake-error';
import { addLoosePart, type LooseMesh } from './loose-mesh';
import { readMtl } from './mtl-reader';
import type { Companions } from './companions';
import { MAX_PARTS, moreThanMost } from './part-limit';

/** Whether bytes are OBJ: lines of it among the first, and either its name or both vertices and faces. */
export function looksLikeObj(bytes: Uint8Array, fileName: string): boolean {
  const start = strFromU8(bytes.subarray(0, 20_000), true);
  const vertices = /^\s*v\s+[-+.\d]/m.test(start);
  return vertices && (/\.obj$/i.test(fileName) || /^\s*f\s+\d/m.test(start));
}

const LEFT_OUT: Readonly<Record<string, string>> = { l: 'lines', p: 'points' };

interface Corner {
  v: number;
  t: number;
  n: number;
}

/** The triangles of one material of one group, with a row for each different corner. */
class Collector {
  readonly mesh: LooseMesh;
  private readonly rows = new Map<string, number>();
  private allNormals = true;
  private anyUvs = false;

  constructor(
    material: Id | null,
    private readonly points: number[],
    private readonly uvs: number[],
    private readonly normals: number[],
  ) {
    this.mesh = { material, positions: [], normals: [], uvs: [], indices: [] };
  }

  /** Of each triangle, in order. */
  readonly groups: number[] = [];

  add(corner: Corner): void {
    const key = `${corner.v}/${corner.t}/${corner.n}`;
    let row = this.rows.get(key);
    if (row === undefined) {
      row = this.rows.size;
      this.rows.set(key, row);
      for (let axis = 0; axis < 3; axis++) this.mesh.positions.push(this.points[3 * corner.v + axis]);
      const n = [0, 1, 2].map((axis) => this.normals[3 * corner.n + axis]);
      const length = Math.hypot(...n);
      if (corner.n < 0 || !(length > 0)) this.allNormals = false;
      this.mesh.normals.push(...n.map((value) => value / length));
      if (corner.t >= 0) this.anyUvs = true;
      // OBJ counts v from the bottom, glTF from the top.
      this.mesh.uvs.push(corner.t < 0 ? 0 : this.uvs[2 * corner.t], corner.t < 0 ? 0 : 1 - this.uvs[2 * corner.t + 1]);
    }
    this.mesh.indices.push(row);
  }

  done(smoothing: boolean): LooseMesh {
    return {
      ...this.mesh,
      ...(smoothing ? { groups: this.groups } : {}),
      normals: this.allNormals ? this.mesh.normals : [],
      uvs: this.anyUvs ? this.mesh.uvs : [],
    };
  }
}

export interface NamedMeshes {
  name: string;
  meshes: LooseMesh[];
}

/**
 * Reads OBJ: objects and groups become parts, materials primitives; polygons become fans; numbers may count back from the
 * newest vertex, lines may be continued. Lines and points are named as left out.
 *
 * @throws {IntakeError} where a face names a vertex that is not there, or a number is none
 */
export function readObj(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions): Kit {
  const kit = emptyKit(cutText(fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
  const notes: ReadingNote[] = [];
  for (const { name, meshes } of parseObj(bytes, fileName, { kit, notes, blobs, beside })) addLoosePart(kit, name, meshes, blobs, notes);
  describeSource(kit, { fileName, format: 'obj', bytes, generator: null, notes }, blobs);
  return kit;
}

/** The groups of an OBJ as loose meshes; its materials go into the kit. @throws {IntakeError} */
export function parseObj(
  bytes: Uint8Array,
  fileName: string,
  { kit, notes, blobs, beside }: { kit: Kit; notes: ReadingNote[]; blobs: Blobs; beside: Companions },
): NamedMeshes[] {
  const points: number[] = [];
  const uvs: number[] = [];
  const normals: number[] = [];
  const materials = new Map<string, Id>();
  const groups = new Map<string, Map<Id | null, Collector>>();
  let group = kit.name;
  let material: Id | null = null;
  /** Null until the file says the first one: then it does not use them. */
  let smoothing: number | null = null;
  const leftOut = new Map<string, number>();

  const lines = strFromU8(bytes)
    .replace(/\\\r?\n/g, ' ')
    .split('\n');
  lines.forEach((raw, number) => {
    const words = raw.trim().split(/\s+/);
    const where = `line ${number + 1}`;
    switch (words[0]) {
      case 'v':
        points.push(...numbers(words, 3, fileName, where));
        break;
      case 'vt':
        uvs.push(...numbers(words.length === 2 ? [...words, '0'] : words, 2, fileName, where));
        break;
      case 'vn':
        normals.push(...numbers(words, 3, fileName, where));
        break;
      case 'o':
      case 'g':
        group = cutText(words.slice(1).join(' '), 200) || kit.name;
        break;
      case 's':
        smoothing = words[1] === 'off' ? 0 : Math.trunc(Number(words[1])) || 0;
        break;
      case 'mtllib':
        readMtl(raw.trim().slice(6).trim(), beside, kit, materials, blobs, notes);
        break;
      case 'usemtl': {
        const name = words.slice(1).join(' ');
        material = materials.get(name) ?? null;
        break;
      }
      case 'f': {
        const corners = words.slice(1).map((word) => corner(word, points.length / 3, uvs.length / 2, normals.length / 3, fileName, where));
        if (corners.length < 3) throw invalid(fileName, where, 'a face has fewer than three corners');
        let byMaterial = groups.get(group);
        if (!byMaterial) groups.set(group, (byMaterial = new Map()));
        if (groups.size > MAX_PARTS) throw moreThanMost(fileName, 'groups');
        let collector = byMaterial.get(material);
        if (!collector) byMaterial.set(material, (collector = new Collector(material, points, uvs, normals)));
        for (let i = 1; i + 1 < corners.length; i++) {
          for (const one of [corners[0], corners[i], corners[i + 1]]) collector.add(one);
          // Faces before the first statement are flat (the format's default).
          collector.groups.push(smoothing ?? 0);
        }
        break;
      }
      case 'l':
      case 'p':
      case 'curv':
      case 'surf':
        leftOut.set(words[0], (leftOut.get(words[0]) ?? 0) + 1);
        break;
    }
  });
  for (const [what, count] of leftOut)
    notes.push({
      grade: 'warn',
      code: 'points-or-lines',
      message: `Left out: ${count} ${LEFT_OUT[what] ?? 'free-form curves or surfaces'}.`,
      part: null,
    });
  return [...groups].map(([name, byMaterial]) => ({ name, meshes: [...byMaterial.values()].map((one) => one.done(smoothing !== null)) }));
}

function numbers(words: string[], count: number, fileName: string, where: string): number[] {
  const values = words.slice(1, 1 + count).map(Number);
  if (values.length < count || words.slice(1, 1 + count).some((word) => !/^[-+]?(\d|\.\d|nan|inf)/i.test(word)))
    throw invalid(fileName, where, `“${words.join(' ').slice(0, 60)}” does not hold ${count} numbers`);
  return values;
}

function corner(word: string, points: number, uvs: number, normals: number, fileName: string, where: string): Corner {
  const [v, t, n] = word.split('/');
  const resolve = (text: string | undefined, count: number, optional: boolean): number => {
    if (text === undefined || text === '') {
      if (optional) return -1;
      throw invalid(fileName, where, `“${word}” names no vertex`);
    }
    const value = Number(text);
    const index = value < 0 ? count + value : value - 1;
    if (!Number.isInteger(value) || index < 0 || index >= count)
      throw new IntakeError('index-range', `“${fileName}” points at entry ${text}, which is not there (${where}). Export it again.`, where);
    return index;
  };
  return { v: resolve(v, points, false), t: resolve(t, uvs, true), n: resolve(n, normals, true) };
}
