import plotwick from '@itchkit/rulebooks/plotwick';
import { checkKit, MemoryBlobs, type Blobs, type Id, type Kit } from '@itchkit/core/document';
import { flattenParts, Poser, posedVertices, transformPoint } from '@itchkit/core/geometry';
import { statePlays, tilesAcross } from '@itchkit/core/grounds';
import { compileClip, sampleClip } from '@itchkit/core/motion';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { packKit, readPackage, unzipFiles, type LoadedPackage } from '@itchkit/core/ship';
import validator from 'gltf-validator';
import { openPlot, Park, poseKit, REST } from '@itchkit/core/trial';
import { hillTramHaltFinished, hillTramHaltOnTiles, tideCarouselFinished } from '.';

const rulebook = checkRulebook(plotwick);
const made = new Map<string, { kit: Kit; blobs: MemoryBlobs; loaded: LoadedPackage; read: Blobs; files: Record<string, Uint8Array> }>();

beforeAll(async () => {
  for (const build of [hillTramHaltFinished, tideCarouselFinished]) {
    const blobs = new MemoryBlobs();
    const kit = checkKit(await build(rulebook, blobs));
    const read = new MemoryBlobs();
    const { bytes } = await packKit(kit, rulebook, blobs, []);
    made.set(build.name, { kit, blobs, loaded: await readPackage(bytes, read), read, files: unzipFiles(bytes) });
  }
});

test('the halt on its tiles has the faults that it is there to show', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await hillTramHaltOnTiles(rulebook, blobs));
  const rules = new Set(runChecks({ kit, rulebook, blobs }).map(({ rule }) => rule));
  for (const rule of ['seats-upright', 'seats-ride', 'states-played', 'way-there', 'facts-said']) expect([...rules]).toContain(rule);
});

describe.each(['hillTramHaltFinished', 'tideCarouselFinished'])('%s', (name) => {
  test('owes nothing, and takes the tiles that it is to take', () => {
    const { kit, blobs } = made.get(name)!;
    expect(runChecks({ kit, rulebook, blobs }).map(({ message }) => message)).toEqual([]);
    expect(tilesAcross(kit.grounds!.footprint!, rulebook.tileMetres)).toEqual(name.startsWith('hill') ? [3, 2] : [3, 3]);
    const { low, high } = kit.grounds!.footprint!;
    const poser = new Poser(flattenParts(kit));
    // Every vertex at every frame, by nothing but the poser.
    for (const clip of Object.values(kit.clips)) {
      const compiled = compileClip(clip, poser.flat, blobs);
      for (let frame = 0; frame <= clip.lengthSeconds * clip.rate; frame++) {
        poser.reset();
        sampleClip(compiled, frame / clip.rate, poser.pose);
        poser.update();
        for (const part of Object.values(kit.parts)) {
          const vertices = posedVertices(kit, blobs, part, (id) => poser.worldOf(id));
          for (let v = 0; v < vertices.length; v += 3) {
            const out = Math.max(low[0] - vertices[v], vertices[v] - high[0], low[2] - vertices[v + 2], vertices[v + 2] - high[2]);
            if (out > 1e-3) throw new Error(`${part.name} is ${out} m out at frame ${frame}`);
          }
        }
      }
    }
  });

  test('its file is sound glTF', async () => {
    const { files } = made.get(name)!;
    const glbs = Object.keys(files).filter((path) => path.endsWith('.glb'));
    expect(glbs).toHaveLength(1);
    const { issues } = (await validator.validateBytes(files[glbs[0]])) as { issues: { numErrors: number; numWarnings: number } };
    expect(issues).toMatchObject({ numErrors: 0, numWarnings: 0 });
  });

  test('its visitors ride and leave, and nobody is stuck', () => {
    const { loaded } = made.get(name)!;
    const park = new Park(openPlot(loaded, rulebook), { visitors: 24 });
    park.pass(240);
    expect(park.counts).toMatchObject({ came: 24, rode: 24, left: 24, gaveUp: 0, stuck: 0 });
  });

  test('what rides in the package is where it is on the bench, on the frames and between them', () => {
    const { kit, blobs, loaded, read } = made.get(name)!;
    const [ours, theirs] = [kit, loaded.kit].map((one) => statePlays(one, rulebook.grounds!).find(({ rule }) => rule.kind === 'rides')!);
    expect(theirs.to - theirs.from).toBeCloseTo(ours.to - ours.from, 6);
    const [a, b] = [kit, loaded.kit].map((one) => new Poser(flattenParts(one)));
    const idOf = new Map(Object.values(loaded.kit.parts).map((part): [string, Id] => [part.name, part.id]));
    const { rate } = rulebook.motion!;
    const frames = Math.floor((ours.to - ours.from) * rate!) - 1;
    const looks = Array.from({ length: frames + 1 }, (_, frame) => [frame, frame + 0.29, frame + 0.5, frame + 0.83]).flat();
    for (const look of looks) {
      const off = look / rate!;
      poseKit(a, kit, blobs, { ...REST, clip: ours.clip!.id, time: ours.from + off }, []);
      poseKit(b, loaded.kit, read, { ...REST, clip: theirs.clip!.id, time: theirs.from + off }, []);
      for (const { id, name: part } of Object.values(kit.parts)) {
        // A point off its pivot, so that turns and sizes are looked at, too.
        const [x, y, z] = transformPoint(a.worldOf(id), [0.7, 0.4, -0.6]);
        const there = transformPoint(b.worldOf(idOf.get(part)!), [-0.7, 0.4, 0.6]);
        // The platform looks the other way.
        expect(Math.hypot(there[0] + x, there[1] - y, there[2] + z)).toBeLessThan(1e-5);
      }
    }
  });
});
