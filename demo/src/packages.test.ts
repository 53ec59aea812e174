import brinework from '@itchkit/rulebooks/brinework';
import cubbin from '@itchkit/rulebooks/cubbin';
import emberfold from '@itchkit/rulebooks/emberfold';
import glasswink from '@itchkit/rulebooks/glasswink';
import lanternlot from '@itchkit/rulebooks/lanternlot';
import plotwick from '@itchkit/rulebooks/plotwick';
import { MemoryBlobs, type Blobs, type Kit } from '@itchkit/core/document';
import { furthestOf, plainPose, plainVertices, ThreePlayer } from '@itchkit/core/oracles';
import { checkRulebook, type Rulebook } from '@itchkit/core/rulebook';
import { writeGlb } from '@itchkit/core/ship';
import { brassDiver, foghornCabinet, hillTramHaltMoving, lanternRayMoving, nightWatchKeeperMoving, sluiceCraneFinished } from '.';

type Build = (rulebook: Rulebook, blobs: Blobs) => Promise<Kit>;

/** Every demo kit as another program plays its file: at rest, and at six times of each clip that no step falls on. */
test.each<[string, object, Build]>([
  ['sluice crane', brinework, sluiceCraneFinished],
  ['foghorn cabinet', lanternlot, foghornCabinet],
  ['hill tram halt', plotwick, hillTramHaltMoving],
  ['lantern ray', cubbin, lanternRayMoving],
  ['night watch keeper', emberfold, nightWatchKeeperMoving],
  ['brass diver', glasswink, brassDiver],
])('%s: the written file plays within a millimetre of the kit', async (_, book, build) => {
  const blobs = new MemoryBlobs();
  const kit = await build(checkRulebook(book), blobs);
  const { bytes, nodes } = await writeGlb(kit, blobs);
  const player = await ThreePlayer.of(bytes);
  const inFile = (clip: string | null, time: number) => new Map([...player.at(clip, time)].map(([node, points]) => [nodes[node], points]));
  const rest = plainVertices(kit, blobs, plainPose(kit, blobs, null, 0));
  expect(furthestOf(rest, inFile(null, 0))).toBeLessThan(1e-5);
  for (const clip of Object.values(kit.clips))
    for (const share of [0.041, 0.237, 0.383, 0.611, 0.793, 0.967]) {
      const time = share * clip.lengthSeconds;
      const made = plainVertices(kit, blobs, plainPose(kit, blobs, clip, time));
      const off = furthestOf(made, inFile(clip.name, time));
      if (!(off < 0.001)) throw new Error(`“${clip.name}” at ${time} s is off by ${1000 * off} mm`);
    }
});
