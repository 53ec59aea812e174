import { strFromU8 } from 'fflate';
import { emptyKit, type Blobs, type Kit, type ReadingNote, cutText } from '../document';
import { describeSource } from './describe-source';
import { IntakeError, invalid, truncated } from './intake-error';
import { addLoosePart, type LooseMesh } from './loose-mesh';

const TYPES: Record<string, { bytes: number; read: (view: DataView, at: number, little: boolean) => number }> = {
  char: { bytes: 1, read: (v, at) => v.getInt8(at) },
  uchar: { bytes: 1, read: (v, at) => v.getUint8(at) },
  short: { bytes: 2, read: (v, at, little) => v.getInt16(at, little) },
  ushort: { bytes: 2, read: (v, at, little) => v.getUint16(at, little) },
  int: { bytes: 4, read: (v, at, little) => v.getInt32(at, little) },
  uint: { bytes: 4, read: (v, at, little) => v.getUint32(at, little) },
  float: { bytes: 4, read: (v, at, little) => v.getFloat32(at, little) },
  double: { bytes: 8, read: (v, at, little) => v.getFloat64(at, little) },
};
const ALIASES: Record<string, string> = {
  int8: 'char',
  uint8: 'uchar',
  int16: 'short',
  uint16: 'ushort',
  int32: 'int',
  uint32: 'uint',
  float32: 'float',
  float64: 'double',
};
const MAX_ROWS = 30_000_000;

interface Property {
  name: string;
  type: string;
  /** Type of the count, for lists. */
  countType: string | null;
}

interface Element {
  name: string;
  count: number;
  properties: Property[];
}

type Row = Record<string, number | number[]>;

/** Whether bytes begin as PLY does. */
export function looksLikePly(bytes: Uint8Array): boolean {
  return /^ply\s/.test(strFromU8(bytes.subarray(0, 4)));
}

/** Reads PLY: text and both binary orders (Turk, “The PLY polygon file format”, 1994). Polygons become fans. */
export function readPly(bytes: Uint8Array, fileName: string, blobs: Blobs): Kit {
  const kit = emptyKit(cutText(fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
  const notes: ReadingNote[] = [];
  addLoosePart(kit, kit.name, [parsePly(bytes, fileName, notes)], blobs, notes);
  describeSource(kit, { fileName, format: 'ply', bytes, generator: null, notes }, blobs);
  return kit;
}

/** The mesh of a PLY. @throws {IntakeError} */
export function parsePly(bytes: Uint8Array, fileName: string, notes: ReadingNote[]): LooseMesh {
  const { format, elements, start } = readHeader(bytes, fileName);
  const next =
    format === 'ascii' ? textRows(bytes.subarray(start), fileName) : binaryRows(bytes, start, format === 'binary_little_endian', fileName);
  const mesh: LooseMesh = { material: null, positions: [], normals: [], uvs: [], indices: [] };
  for (const element of elements) {
    for (let i = 0; i < element.count; i++) {
      const row = next(element);
      if (element.name === 'vertex') addVertex(mesh, row);
      else if (element.name === 'face') addFace(mesh, (row.vertex_indices ?? row.vertex_index) as number[] | undefined, fileName, i);
    }
    if (element.name !== 'vertex' && element.name !== 'face' && element.count > 0)
      notes.push({ grade: 'note', code: 'element', message: `Left out: ${element.count} entries of “${element.name}”.`, part: null });
  }
  const vertices = mesh.positions.length / 3;
  if (mesh.indices.some((index) => !(index >= 0 && index < vertices)))
    throw new IntakeError('index-range', `“${fileName}” points at a vertex that is not there. Export it again.`, 'face');
  return mesh;
}

function readHeader(bytes: Uint8Array, fileName: string): { format: string; elements: Element[]; start: number } {
  const head = strFromU8(bytes.subarray(0, 65536), true);
  const end = /end_header\r?\n/.exec(head);
  if (!end) throw invalid(fileName, 'its header', 'its header has no end');
  let format = '';
  const elements: Element[] = [];
  for (const line of head.slice(0, end.index).split(/\r?\n/)) {
    const words = line.trim().split(/\s+/);
    if (words[0] === 'format') format = words[1] ?? '';
    else if (words[0] === 'element') {
      const count = Number(words[2]);
      if (words.length < 3) throw invalid(fileName, 'its header', `“${line.trim().slice(0, 60)}” is not an element`);
      if (!Number.isInteger(count) || count < 0 || count > MAX_ROWS)
        throw invalid(fileName, `element ${words[1]}`, `it announces ${words[2]} entries`);
      if (elements.some((one) => one.name === words[1])) throw invalid(fileName, `element ${words[1]}`, 'it is announced twice');
      elements.push({ name: words[1], count, properties: [] });
    } else if (words[0] === 'property') {
      const list = words[1] === 'list';
      const name = (type: string) => ALIASES[type] ?? type;
      const property: Property = list
        ? { name: words[4], type: name(words[3]), countType: name(words[2]) }
        : { name: words[2], type: name(words[1]), countType: null };
      if (!TYPES[property.type] || (property.countType !== null && !TYPES[property.countType]) || elements.length === 0)
        throw invalid(fileName, 'its header', `“${line.trim()}” is not a property`);
      elements[elements.length - 1].properties.push(property);
    }
  }
  if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format))
    throw invalid(fileName, 'format', `“${format}” is not a format of PLY`);
  const vertex = elements.find((one) => one.name === 'vertex');
  if (!vertex || !['x', 'y', 'z'].every((axis) => vertex.properties.some((one) => one.name === axis)))
    throw invalid(fileName, 'its header', 'its vertices have no x, y and z');
  for (const one of elements)
    if (one.properties.length === 0 && one.count > 0) throw invalid(fileName, `element ${one.name}`, 'it has entries without properties');
  return { format, elements, start: end.index + end[0].length };
}

function textRows(bytes: Uint8Array, fileName: string): (element: Element) => Row {
  const words = strFromU8(bytes).split(/\s+/);
  let at = words[0] === '' ? 1 : 0;
  const number = () => {
    if (at >= words.length || words[at] === '') throw truncated(fileName, bytes.length, bytes.length + 1);
    return Number(words[at++]);
  };
  return (element) => readRow(element, number, number, () => words.length - at);
}

function binaryRows(bytes: Uint8Array, start: number, little: boolean, fileName: string): (element: Element) => Row {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = start;
  const read = (type: string) => {
    const { bytes: size, read: get } = TYPES[type];
    if (at + size > bytes.length) throw truncated(fileName, bytes.length, at + size);
    const value = get(view, at, little);
    at += size;
    return value;
  };
  return (element) => readRow(element, read, read, () => bytes.length - at);
}

function readRow(element: Element, count: (type: string) => number, value: (type: string) => number, left: () => number): Row {
  const row: Row = {};
  for (const { name, type, countType } of element.properties) {
    if (countType === null) row[name] = value(type);
    else {
      // A count larger than what is left can't be honest; reading on finds the end and says so.
      const length = Math.min(Math.max(0, count(countType)), left() + 1);
      row[name] = Array.from({ length }, () => value(type));
    }
  }
  return row;
}

function addVertex(mesh: LooseMesh, row: Row): void {
  mesh.positions.push(row.x as number, row.y as number, row.z as number);
  if (row.nx !== undefined) mesh.normals.push(...unit(row.nx as number, row.ny as number, row.nz as number));
  const u = row.u ?? row.s ?? row.texture_u;
  const v = row.v ?? row.t ?? row.texture_v;
  // PLY counts v from the bottom, glTF from the top.
  if (u !== undefined && v !== undefined) mesh.uvs.push(u as number, 1 - (v as number));
}

function unit(x: number, y: number, z: number): [number, number, number] {
  const length = Math.hypot(x, y, z);
  return length > 0 && Number.isFinite(length) ? [x / length, y / length, z / length] : [0, 1, 0];
}

function addFace(mesh: LooseMesh, corners: number[] | undefined, fileName: string, face: number): void {
  if (!corners) throw invalid(fileName, `face ${face}`, 'it has no list of vertices');
  for (let i = 1; i + 1 < corners.length; i++) mesh.indices.push(corners[0], corners[i], corners[i + 1]);
}
