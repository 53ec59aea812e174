import { strFromU8 } from 'fflate';
import { emptyKit, type Blobs, type Kit, type ReadingNote, cutText } from '../document';
import { describeSource } from './describe-source';
import { invalid, truncated } from './intake-error';
import { addLoosePart, type LooseMesh } from './loose-mesh';
import { cross, subtract } from '../geometry';
import { MAX_PARTS, moreThanMost } from './part-limit';

const HEADER = 84;
const FACET = 50;

/** Whether bytes are STL: text that begins with “solid” and has facets, or binary of exactly the length that it announces. */
export function looksLikeStl(bytes: Uint8Array, fileName: string): boolean {
  if (bytes.length >= HEADER && HEADER + FACET * facetsOf(bytes) === bytes.length) return true;
  const start = strFromU8(bytes.subarray(0, 2000));
  return (start.startsWith('solid') && /\bfacet\b/.test(start)) || (/\.stl$/i.test(fileName) && bytes.length >= HEADER);
}

function facetsOf(bytes: Uint8Array): number {
  return new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
}

/** Reads STL, both kinds. Facets keep their own corners; a normal of no length is made from the corners. */
export function readStl(bytes: Uint8Array, fileName: string, blobs: Blobs): Kit {
  const kit = emptyKit(cutText(fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
  const notes: ReadingNote[] = [];
  const isText =
    strFromU8(bytes.subarray(0, 5)) === 'solid' && (bytes.length < HEADER || HEADER + FACET * facetsOf(bytes) !== bytes.length);
  const solids = isText ? readText(strFromU8(bytes), fileName) : [{ name: kit.name, mesh: readBinary(bytes, fileName) }];
  for (const { name, mesh } of solids) addLoosePart(kit, name, [mesh], blobs, notes);
  describeSource(kit, { fileName, format: 'stl', bytes, generator: null, notes }, blobs);
  return kit;
}

const empty = (): LooseMesh => ({ material: null, positions: [], normals: [], uvs: [], indices: [] });

function addFacet(mesh: LooseMesh, normal: number[], corners: number[]): void {
  const [a, b, c] = [0, 3, 6].map((at) => corners.slice(at, at + 3));
  const own = cross(subtract(b, a), subtract(c, a));
  const length = Math.hypot(...normal);
  const [from, size] = length > 1e-6 && Number.isFinite(length) ? [normal, length] : [own, Math.hypot(...own)];
  const unit = size > 0 && Number.isFinite(size) ? from.map((value) => value / size) : [0, 1, 0];
  const start = mesh.positions.length / 3;
  mesh.positions.push(...corners);
  mesh.normals.push(...unit, ...unit, ...unit);
  mesh.indices.push(start, start + 1, start + 2);
}

function readBinary(bytes: Uint8Array, fileName: string): LooseMesh {
  const facets = facetsOf(bytes);
  const need = HEADER + FACET * facets;
  if (need > bytes.length) throw truncated(fileName, bytes.length, need);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const mesh = empty();
  for (let f = 0; f < facets; f++) {
    const numbers = Array.from({ length: 12 }, (_, i) => view.getFloat32(HEADER + FACET * f + 4 * i, true));
    addFacet(mesh, numbers.slice(0, 3), numbers.slice(3));
  }
  return mesh;
}

function readText(text: string, fileName: string): { name: string; mesh: LooseMesh }[] {
  const solids: { name: string; mesh: LooseMesh }[] = [];
  let normal = [0, 0, 0];
  let corners: number[] = [];
  let closed = true;
  text.split('\n').forEach((raw, i) => {
    const line = raw.trim();
    const words = line.split(/\s+/);
    if (words[0] === 'solid') {
      closed = false;
      if (solids.length >= MAX_PARTS) throw moreThanMost(fileName, 'solids');
      solids.push({ name: cutText(line.slice(5).trim(), 200) || `solid_${solids.length + 1}`, mesh: empty() });
    } else if (words[0] === 'facet') normal = words.slice(2, 5).map(Number);
    else if (words[0] === 'vertex') corners.push(...words.slice(1, 4).map(Number));
    else if (words[0] === 'endfacet') {
      if (corners.length !== 9 || solids.length === 0) throw invalid(fileName, `line ${i + 1}`, 'a facet does not have three corners');
      addFacet(solids[solids.length - 1].mesh, normal, corners);
      corners = [];
    } else if (words[0] === 'endsolid') closed = true;
  });
  if (!closed || corners.length > 0) throw invalid(fileName, 'its end', 'it stops in the middle of a solid');
  return solids;
}
