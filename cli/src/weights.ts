import { KitError, callOf, type Kit, type MemoryBlobs } from '@itchkit/core/document';
import { jointsInOrder, placingJoints, runSkinTask, setWeights, skinTask, weightsArgs } from '@itchkit/core/rig';
import { runCall } from '@itchkit/core/operations';
import { OptionError } from './convert';

export interface Weighted {
  file: string;
  ok: true;
  /** By name. */
  parts: string[];
  joints: number;
  vertices: number;
  /** Of a voxel, metres. */
  cellMetres: number;
  /** Names of joints that stand outside of the surface. */
  outside: string[];
  /** Vertices of loose pieces that no joint reaches, held as the nearest surface that one does. */
  bridged: number;
  milliseconds: number;
}

/** @throws {OptionError} */
export function checkResolution(resolution: number | undefined): void {
  if (resolution === undefined || (Number.isInteger(resolution) && resolution >= 8 && resolution <= 192)) return;
  throw new OptionError('option', `“--resolution ${resolution}” is out of range. Give a whole number from 8 to 192.`, 'resolution');
}

/**
 * Solves the weights of a kit's skinned parts, or of all with a mesh where none is skinned, for the joints it has.
 *
 * @throws {KitError} where it has no joints, or no mesh
 */
export function weightsOf(file: string, kit: Kit, blobs: MemoryBlobs, resolution?: number): { solved: Kit; result: Weighted } {
  const shown = Object.values(kit.parts).filter((part) => part.mesh !== null);
  const skinned = shown.filter((part) => part.skin !== null);
  const parts = (skinned.length > 0 ? skinned : shown).map((part) => part.id);
  const joints = jointsInOrder(kit);
  if (joints.length === 0) throw new NoJointsInFileError(file);
  const started = performance.now();
  const task = skinTask(kit, parts, blobs, joints, placingJoints(kit, joints));
  const held = runSkinTask(task, resolution === undefined ? {} : { resolution });
  const solved = runCall(kit, callOf(setWeights, weightsArgs(task, held, blobs, 'Solve the weights')), blobs).kit;
  const name = (id: string) => kit.parts[id].name;
  return {
    solved,
    result: {
      file,
      ok: true,
      parts: parts.map(name),
      joints: joints.length,
      vertices: held.weights.length / 4,
      cellMetres: Number(held.cell.toPrecision(4)),
      outside: held.outside.map((j) => name(task.joints[j])),
      bridged: held.bridged,
      milliseconds: Math.round(performance.now() - started),
    },
  };
}

class NoJointsInFileError extends KitError {
  constructor(file: string) {
    super('no-joint', `“${file}” has no skeleton: no skin names any joints. Give it one in Rig, or export it with its skin.`, file);
  }
}

export function describeWeights(out: string, bytes: number, { parts, joints, vertices, outside, bridged, milliseconds }: Weighted): string {
  const lines = [
    `Wrote ${out}: ${bytes.toLocaleString('en')} bytes. ${vertices.toLocaleString('en')} vertices of ${parts.length} parts are held by ${joints} joints; solved in ${milliseconds.toLocaleString('en')} ms.`,
  ];
  if (outside.length > 0) lines.push(`  ! Outside of the surface: ${outside.join(', ')}.`);
  if (bridged > 0) lines.push(`  · ${bridged.toLocaleString('en')} vertices of loose pieces go with the nearest surface.`);
  return `${lines.join('\n')}\n`;
}
