import {
  emptyKit,
  newId,
  putArray,
  type Accessor,
  type Blobs,
  type Clip,
  type Id,
  type Kit,
  type Primitive,
  type ReadingNote,
  cutText,
} from '../document';
import { smoothNormals } from '../geometry';
import { cleanPath, type Companions } from './companions';
import { describeSource } from './describe-source';
import { numberedFrame } from './formats';
import { IntakeError, invalid } from './intake-error';
import { addLoosePart, type LooseMesh } from './loose-mesh';
import { unitNotSaid } from './unit-not-said';
import { parseObj, type NamedMeshes } from './obj-reader';
import { looksLikePly, parsePly } from './ply-reader';

const RATE = 30;
const MAX_FRAMES = 2000;

export interface FrameFile {
  path: string;
  data: Uint8Array;
}

interface Frame extends FrameFile {
  group: string;
  number: number;
}

/** Files that are numbered frames by their names: groups of two at least, with one unnumbered file for rest at most; null otherwise. */
export function framesAmong(files: FrameFile[]): { rest: FrameFile | null; groups: Map<string, Frame[]> } | null {
  const groups = new Map<string, Frame[]>();
  const others: FrameFile[] = [];
  for (const file of files) {
    const found = numberedFrame(file.path.slice(file.path.lastIndexOf('/') + 1));
    if (!found) others.push(file);
    else {
      const group = found.group || 'clip';
      groups.set(group, [...(groups.get(group) ?? []), { ...file, group, number: found.number }]);
    }
  }
  if (others.length > 1 || groups.size === 0 || [...groups.values()].some((frames) => frames.length < 2)) return null;
  for (const frames of groups.values()) frames.sort((a, b) => a.number - b.number);
  return { rest: others[0] ?? null, groups };
}

/**
 * Reads numbered mesh frames of equal topology: the rest mesh (the unnumbered file, or the first frame) with a morph target
 * for every other frame, and a clip for every group of names at 30 frames a second.
 *
 * @throws {IntakeError} where a frame differs in vertices or triangles, or two have the same number
 */
export function readFrames(
  found: { rest: FrameFile | null; groups: Map<string, Frame[]> },
  fileName: string,
  bytes: Uint8Array,
  blobs: Blobs,
  besideOf: (path: string) => Companions,
): Kit {
  const kit = emptyKit(cutText(fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
  const notes: ReadingNote[] = [unitNotSaid('A set of mesh frames')];
  const frames = [...found.groups.values()].flat();
  if (frames.length > MAX_FRAMES)
    throw new IntakeError(
      'too-large',
      `“${fileName}” holds ${frames.length.toLocaleString('en')} frames; ${MAX_FRAMES.toLocaleString('en')} can be taken in. Leave some out.`,
      fileName,
    );
  checkNumbers(found.groups);
  const rest = found.rest ?? frames[0];
  const restMeshes = parse(rest, kit, notes, blobs, besideOf);
  const targets = frames.filter((frame) => frame.path !== rest.path);
  const names = targets.map((frame) => frame.path.slice(frame.path.lastIndexOf('/') + 1).replace(/\.[^.]*$/, ''));
  for (const frame of targets) {
    const throwaway = { kit: emptyKit('frame'), notes: [] };
    addTargets(restMeshes, parse(frame, throwaway.kit, throwaway.notes, blobs, besideOf), frame, rest);
  }
  for (const { name, meshes } of restMeshes) {
    const part = addLoosePart(kit, name, meshes, blobs, notes);
    if (!part) continue;
    const mesh = kit.meshes[part.mesh!];
    mesh.targets = names.map((target) => ({ name: cutText(target, 200), weight: 0 }));
    mesh.primitives = mesh.primitives.map((primitive) => withTargetNormals(primitive, blobs));
    for (const group of found.groups.values()) addFrameTrack(kit, part.id, group, targets, blobs);
  }
  describeSource(kit, { fileName, format: 'frames', bytes, generator: null, notes }, blobs);
  return kit;
}

function checkNumbers(groups: Map<string, Frame[]>): void {
  for (const [group, frames] of groups) {
    frames.forEach((frame, i) => {
      if (i > 0 && frame.number === frames[i - 1].number)
        throw invalid(cleanPath(frame.path), `frame ${frame.number} of “${group}”`, `“${frames[i - 1].path}” has the same number`);
      if (frame.number - frames[0].number > 3600 * RATE - 1)
        throw invalid(cleanPath(frame.path), `frame ${frame.number} of “${group}”`, 'its number is more than an hour after the first');
    });
  }
}

function parse(frame: FrameFile, kit: Kit, notes: ReadingNote[], blobs: Blobs, besideOf: (path: string) => Companions): NamedMeshes[] {
  const name = frame.path.slice(frame.path.lastIndexOf('/') + 1);
  if (looksLikePly(frame.data)) return [{ name: kit.name, meshes: [parsePly(frame.data, name, notes)] }];
  return parseObj(frame.data, name, { kit, notes, blobs, beside: besideOf(frame.path) });
}

/** Adds to each mesh at rest what a frame differs by. */
function addTargets(rest: NamedMeshes[], frame: NamedMeshes[], file: FrameFile, restFile: FrameFile): void {
  const a = rest.flatMap((one) => one.meshes);
  const b = frame.flatMap((one) => one.meshes);
  const count = (meshes: LooseMesh[]) =>
    `${meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0)} vertices and ${meshes.reduce((sum, mesh) => sum + mesh.indices.length / 3, 0)} triangles`;
  const equal =
    a.length === b.length &&
    a.every(
      (mesh, i) =>
        mesh.positions.length === b[i].positions.length &&
        mesh.indices.length === b[i].indices.length &&
        mesh.indices.every((index, k) => index === b[i].indices[k]),
    );
  if (!equal) {
    throw new IntakeError(
      'topology',
      `The frames do not fit together: “${file.path}” has ${count(b)}, “${restFile.path}” has ${count(a)}${count(a) === count(b) ? ', in another order' : ''}. Export all frames from the same mesh.`,
      file.path,
    );
  }
  a.forEach((mesh, i) =>
    (mesh.targets ??= []).push(
      mesh.positions.map((value, k) => (Number.isFinite(b[i].positions[k] - value) ? b[i].positions[k] - value : 0)),
    ),
  );
}

/** What a target adds to the normals: the difference of the normals that both shapes have by their triangles. */
function withTargetNormals(primitive: Primitive, blobs: Blobs): Primitive {
  const before = smoothNormals(primitive, [], blobs);
  return {
    ...primitive,
    targets: primitive.targets!.map((target, i): Record<string, Accessor> => {
      const weights = primitive.targets!.map((_, k) => (k === i ? 1 : 0));
      const after = smoothNormals(primitive, weights, blobs);
      return {
        ...target,
        NORMAL: putArray(
          blobs,
          after.map((value, k) => value - before[k]),
          3,
        ),
      };
    }),
  };
}

function addFrameTrack(kit: Kit, part: Id, group: Frame[], targets: Frame[], blobs: Blobs): void {
  const name = cutText(group[0].group, 200);
  let clip = Object.values(kit.clips).find((one) => one.name === name);
  if (!clip) {
    const last = (group.at(-1)!.number - group[0].number) / RATE;
    const made: Clip = {
      id: newId(),
      name,
      order: Object.keys(kit.clips).length,
      lengthSeconds: last,
      rate: RATE,
      loop: 'loop',
      tracks: [],
    };
    kit.clips[made.id] = clip = made;
  }
  const values = new Float32Array(group.length * targets.length);
  group.forEach((frame, row) => {
    const target = targets.findIndex((one) => one.path === frame.path);
    if (target >= 0) values[row * targets.length + target] = 1;
  });
  clip.tracks.push({
    kind: 'samples',
    id: newId(),
    part,
    property: 'weights',
    interpolation: 'straight',
    times: putArray(
      blobs,
      Float32Array.from(group, (frame) => (frame.number - group[0].number) / RATE),
      1,
    ),
    values: putArray(blobs, values, targets.length),
  });
}
