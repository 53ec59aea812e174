import { brassDiver, hillTramHaltMoving, lanternRayMoving, periscopeDiver } from '@itchkit/demo';
import {
  BlobsOver,
  checkKit,
  KitError,
  MemoryBlobs,
  patchKit,
  clipsInOrder,
  type Blobs,
  type Clip,
  type Kit,
  type Patch,
} from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { allKeys, compileClip, sampleClip } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';
import { newestOf } from '../../rulebooks';
import { beginValues, type ToolContext } from './motion-tool';
import { MOTION_TOOLS } from './tool-list';

const BUILDS = [
  ['Hill tram halt', 'plotwick', hillTramHaltMoving],
  ['Lantern ray', 'cubbin', lanternRayMoving],
  ['Brass diver', 'emberfold', brassDiver],
  ['Periscope diver', 'cubbin', periscopeDiver],
] as const;

/** All numbers of a pose at a time: not one of them may be none. */
function poseAt(kit: Kit, clip: Clip, blobs: Blobs, time: number): number[] {
  const poser = new Poser(flattenParts(kit));
  sampleClip(compileClip(clip, poser.flat, blobs), time, poser.pose);
  poser.update();
  return [...poser.world];
}

describe.each(BUILDS)('%s: every tool, as its fields begin, does its work or says why not, and can be undone', (_, id, build) => {
  const rulebook = newestOf(id)!;
  let kit: Kit;
  const blobs = new MemoryBlobs();
  beforeAll(async () => {
    kit = await build(rulebook, blobs);
  });

  test.each(MOTION_TOOLS.map((tool) => [tool.title, tool] as const))('%s', (__, tool) => {
    for (const clip of clipsInOrder(kit)) {
      const moved = [...new Set(clip.tracks.map(({ part }) => part))];
      const one = clip.tracks.find((track) => track.kind === 'keys');
      const choices: Pick<ToolContext, 'keys' | 'parts'>[] = [
        { keys: allKeys(clip.tracks), parts: [] },
        { keys: allKeys(clip.tracks.filter(({ part }) => part === moved[0])), parts: moved.slice(0, 1) },
        { keys: one?.kind === 'keys' ? [{ track: one.id, time: one.keys[0].time }] : [], parts: moved.slice(0, 2) },
      ];
      for (const chosen of choices) {
        const context: ToolContext = { kit, blobs, clip, time: Math.min(clip.lengthSeconds, 0.5), rulebook, ...chosen };
        const why = tool.blocked?.(context) ?? null;
        if (why !== null) {
          expect(why).toMatch(/^[A-Z].{8,}$/);
          continue;
        }
        const over = new BlobsOver(blobs);
        let now = kit;
        const back: Patch[][] = [];
        try {
          for (const call of [tool.calls(context, beginValues(tool, context))].flat()) {
            const applied = runCall(now, call, over);
            now = checkKit(applied.kit);
            back.push(applied.inverse);
          }
        } catch (error) {
          if (!(error instanceof KitError)) throw error;
          expect(error.message).toMatch(/[.!?]$/);
        }
        for (const made of Object.values(now.clips).filter((one) => one !== kit.clips[one.id]))
          for (const u of [0, 0.3, 1]) expect(poseAt(now, made, over, u * made.lengthSeconds).every(Number.isFinite)).toBe(true);
        expect(back.reverse().reduce((before, inverse) => patchKit(before, inverse), now)).toEqual(kit);
      }
    }
  });
});
