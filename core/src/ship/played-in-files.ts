import { BlobsOver, clipsInOrder, partsInOrder, type Blobs, type Clip, type Id, type Kit } from '../document';
import { flattenParts, MeasuredVertices, Poser } from '../geometry';
import { readGltf } from '../intake';
import { poseOfClip, timesBetween, trackTimes } from '../motion';
import { awayFromSteps } from './bake';
import type { PackageFile } from './package-files';

/** How near a clip in a written file is to the clip that was made. */
export interface PlayedInFile {
  clip: string;
  path: string;
  /** The greatest way that a vertex is off, in the kit's unit. */
  length: number;
  /** Of the vertex that is furthest off. */
  part: Id | null;
}

/** Looks a clip at most. */
const MOST_LOOKS = 1500;

/**
 * Reads the files with clips back and measures, between all their keys, how far each vertex is from where the kit has it. A clip's file
 * without meshes moves the kit's own vertices.
 *
 * @param kit In the space of the files.
 */
export async function playedInFiles(kit: Kit, files: readonly PackageFile[], blobs: Blobs): Promise<PlayedInFile[]> {
  const vertices = new MeasuredVertices(kit, blobs);
  const nodes = partsInOrder(kit).map(({ id }) => id);
  const out: PlayedInFile[] = [];
  for (const { path, holds, bytes } of files) {
    if (holds !== 'model' && holds !== 'clip') continue;
    const own = new BlobsOver(blobs);
    const { kit: written, partOfNode } = await readGltf(bytes, path, own);
    const nodeOf = new Map(nodes.map((id, node) => [id, partOfNode[node]!]));
    for (const clip of clipsInOrder(kit)) {
      const there = Object.values(written.clips).find(({ name }) => name === clip.name);
      if (there) out.push({ clip: clip.name, path, ...furthestBetween(kit, clip, blobs, written, there, own, nodeOf, vertices) });
    }
  }
  return out;
}

function furthestBetween(
  kit: Kit,
  clip: Clip,
  blobs: Blobs,
  written: Kit,
  there: Clip,
  own: Blobs,
  nodeOf: ReadonlyMap<Id, Id>,
  vertices: MeasuredVertices,
): Pick<PlayedInFile, 'length' | 'part'> {
  const [made, played] = [poseOfClip(kit, clip, blobs), poseOfClip(written, there, own)];
  const rest = new Poser(flattenParts(kit));
  const [a, b] = [new Float64Array(3 * vertices.count), new Float64Array(3 * vertices.count)];
  const times = [...new Set([0, clip.lengthSeconds, ...there.tracks.flatMap((track) => [...trackTimes(track, own)])])].sort(
    (x, y) => x - y,
  );
  const looks = awayFromSteps(clip, blobs, timesBetween(times, 0)).filter((time) => time < clip.lengthSeconds);
  const every = Math.ceil(looks.length / MOST_LOOKS);
  const out: Pick<PlayedInFile, 'length' | 'part'> = { length: 0, part: null };
  looks.forEach((time, i) => {
    if (i % every !== 0) return;
    const [first, second] = [made(time), played(time)];
    vertices.place(first, a);
    vertices.place(
      {
        worldOf: (id) => second.worldOf(nodeOf.get(id)!),
        weightsOf: (id) => {
          const weights = second.weightsOf(nodeOf.get(id)!);
          // A clip's own file has no meshes, and so no weights.
          return weights.length > 0 ? weights : rest.weightsOf(id);
        },
      },
      b,
    );
    vertices.eachDifference(a, b, (part, _, length) => {
      if (length > out.length) Object.assign(out, { length, part });
    });
  });
  return out;
}
