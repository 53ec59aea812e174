import cubbin from '@itchkit/rulebooks/cubbin';
import emberfold from '@itchkit/rulebooks/emberfold';
import glasswink from '@itchkit/rulebooks/glasswink';
import plotwick from '@itchkit/rulebooks/plotwick';
import validator from 'gltf-validator';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { BlobsOver, checkKit, MemoryBlobs, partsInOrder, clipsInOrder, type Blobs, type Clip, type Kit } from '@itchkit/core/document';
import { flattenParts, Poser, posedVertices } from '@itchkit/core/geometry';
import { compileClip, findLoops, overlaysOf, poseDistances, poseRows, sampleClip, SeamMeasure } from '@itchkit/core/motion';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { asPlayed, packKit, readPackage, writeGlb } from '@itchkit/core/ship';
import { JIG } from './brass-diver-glb';
import { brassDiver, hillTramHaltMoving, lanternRayMoving, nightWatchKeeperMoving, periscopeDiver } from './moving-kits';

const books = {
  cubbin: checkRulebook(cubbin),
  emberfold: checkRulebook(emberfold),
  glasswink: checkRulebook(glasswink),
  plotwick: checkRulebook(plotwick),
};
const BUILDS: [string, (blobs: Blobs) => Promise<Kit>][] = [
  ['Hill tram halt', (blobs) => hillTramHaltMoving(books.plotwick, blobs)],
  ['Lantern ray', (blobs) => lanternRayMoving(books.cubbin, blobs)],
  ['Periscope diver', (blobs) => periscopeDiver(books.cubbin, blobs)],
  ['Night-watch keeper', (blobs) => nightWatchKeeperMoving(books.emberfold, blobs)],
  ['Brass diver', (blobs) => brassDiver(books.glasswink, blobs)],
];
const made = new Map<string, { kit: Kit; blobs: MemoryBlobs }>();
beforeAll(async () => {
  Object.assign(globalThis, { self: globalThis });
  for (const [name, build] of BUILDS) {
    const blobs = new MemoryBlobs();
    made.set(name, { kit: checkKit(await build(blobs)), blobs });
  }
}, 120_000);

/** What three.js makes of a kit's GLB: its scene and its animations. */
async function loaded(kit: Kit, blobs: Blobs) {
  // Pictures need a page.
  const bare = {
    ...kit,
    images: {},
    materials: Object.fromEntries(Object.entries(kit.materials).map(([id, material]) => [id, { ...material, baseColorTexture: null }])),
  };
  const { bytes } = await writeGlb(bare, blobs);
  return new GLTFLoader().parseAsync(bytes.slice().buffer, '');
}

function verticesOf(kit: Kit, clip: Clip, blobs: Blobs): (time: number, part: string) => number[] {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  return (time, part) => {
    poser.reset();
    sampleClip(compiled, time, poser.pose);
    poser.update();
    return [...posedVertices(kit, blobs, kit.parts[part], (id) => poser.worldOf(id))];
  };
}

test.each(BUILDS.map(([name]) => name))(
  '%s: every clip exported, read by three.js and sampled 200 times, poses vertices as core plays it to 1e-4',
  async (name) => {
    const { kit, blobs } = made.get(name)!;
    const { scene, animations, parser } = await loaded(kit, blobs);
    const order = partsInOrder(kit);
    const meshes = new Map<string, THREE.Mesh[]>();
    scene.traverse((object) => {
      if (!(object instanceof THREE.Mesh)) return;
      // Nodes are written in the order of the parts.
      const node =
        (parser.associations.get(object) as { nodes?: number } | undefined)?.nodes ??
        (parser.associations.get(object.parent!) as { nodes?: number } | undefined)?.nodes;
      const part = node === undefined ? undefined : order[node];
      if (part) meshes.set(part.id, [...(meshes.get(part.id) ?? []), object as THREE.Mesh]);
    });
    let compared = 0;
    for (const clip of clipsInOrder(kit).filter(({ tracks }) => tracks.length > 0)) {
      const animation = animations.find((one) => one.name === clip.name)!;
      const mixer = new THREE.AnimationMixer(scene);
      const action = mixer.clipAction(animation);
      action.setLoop(THREE.LoopOnce, 1);
      action.clampWhenFinished = true;
      action.play();
      const own = new BlobsOver(blobs);
      const ours = verticesOf(kit, asPlayed(kit, clip, own).clip, own);
      for (let i = 0; i < 200; i++) {
        const time = (clip.lengthSeconds * (i + 0.31)) / 200;
        mixer.setTime(Math.min(time, animation.duration - 1e-6));
        scene.updateMatrixWorld(true);
        for (const [part, list] of meshes) {
          const [mesh] = list;
          if (list.length !== 1) continue;
          const there = ours(Math.min(time, animation.duration - 1e-6), part);
          const count = mesh.geometry.getAttribute('position').count;
          if (3 * count !== there.length) continue;
          const at = new THREE.Vector3();
          for (let v = 0; v < count; v += Math.max(1, Math.floor(count / 9))) {
            mesh.getVertexPosition(v, at);
            at.applyMatrix4(mesh.matrixWorld);
            expect(Math.hypot(at.x - there[3 * v], at.y - there[3 * v + 1], at.z - there[3 * v + 2])).toBeLessThan(1e-4);
            compared++;
          }
        }
      }
      mixer.stopAllAction();
    }
    expect(compared).toBeGreaterThan(200);
  },
);

test.each(BUILDS.map(([name]) => name))(
  '%s: as played no corner is more than 2.5 mm off, and the validator finds no error',
  async (name) => {
    const { kit, blobs } = made.get(name)!;
    for (const clip of clipsInOrder(kit)) {
      const { millimetres } = asPlayed(kit, clip, new BlobsOver(blobs));
      expect([clip.name, millimetres < 2.5]).toEqual([clip.name, true]);
    }
    const { issues } = (await validator.validateBytes((await writeGlb(kit, blobs)).bytes)) as { issues: { numErrors: number } };
    expect(issues.numErrors).toBe(0);
  },
);

test('the halt’s car climbs, dwells with its bell, and comes back to where it began', () => {
  const { kit } = made.get('Hill tram halt')!;
  const ride = clipsInOrder(kit).find(({ name }) => name === 'ride')!;
  expect(ride.lengthSeconds).toBeCloseTo(8, 6);
  expect(ride.cues!.map(({ kind, time }) => [kind, time])).toEqual([
    ['sound', 2.4],
    ['sound', 3],
    ['sound', 5],
  ]);
  const car = Object.values(kit.parts).find(({ name }) => name === 'Tram Car')!.id;
  const at = verticesOf(kit, ride, made.get('Hill tram halt')!.blobs);
  const [start, top, later, end] = [0, 3.1, 4.9, 8].map((time) => at(time, car).slice(0, 3));
  expect(top[0] - start[0]).toBeCloseTo(2.4, 4);
  later.forEach((value, axis) => expect(value).toBeCloseTo(top[axis], 4));
  end.forEach((value, axis) => expect(value).toBeCloseTo(start[axis], 4));
});

test('the ray’s clips are straight keys alone; its fins beat as one, the right in the mirror of the left, faster down than up', () => {
  const { kit } = made.get('Lantern ray')!;
  for (const clip of clipsInOrder(kit))
    for (const track of clip.tracks)
      if (track.kind === 'keys')
        expect(track.keys.slice(0, -1).every(({ easing }) => easing === 'straight' || easing === 'hold')).toBe(true);
  const flap = clipsInOrder(kit).find(({ name }) => name === 'walk')!;
  const keys = (name: string) => {
    const track = flap.tracks.find(({ part, property }) => kit.parts[part].name === name && property === 'turn');
    return track?.kind === 'keys' ? track.keys : [];
  };
  expect(keys('l_fin_root').length).toBeGreaterThan(5);
  keys('l_fin_root').forEach((key, i) => expect(keys('r_fin_root')[i].value).toBeCloseTo(-key.value, 9));
  const low = keys('l_fin_root').reduce((a, b) => (b.value < a.value ? b : a));
  expect(low.time).toBeCloseTo(0.42, 6);
  const gain = (name: string) => Math.max(...keys(name).map(({ value }) => value));
  expect(gain('l_fin_mid') / gain('l_fin_root')).toBeCloseTo(0.8, 6);
});

test('the diver’s take loops where the finder says: whole rounds of the jig', () => {
  const { kit, blobs } = made.get('Brass diver')!;
  const [take] = clipsInOrder(kit);
  expect(take.lengthSeconds).toBeCloseTo(JIG.take, 6);
  const rows = poseRows(kit, take, blobs, {
    from: JIG.begins + 0.5,
    to: JIG.ends - 0.5,
    rate: 30,
    parts: Object.keys(kit.parts),
    root: null,
  });
  const [best] = findLoops(rows, poseDistances(rows)!);
  const rounds = (rows.times[best.to] - rows.times[best.from]) / JIG.seconds;
  expect(Math.abs(rounds - Math.round(rounds))).toBeLessThan(0.05);
  const seam = new SeamMeasure(kit, take, blobs, null).between(rows.times[best.to], rows.times[best.from], 1 / 30);
  expect(seam.millimetres).toBeLessThan(30);
});

test('blink is an overlay, the bob a formula; both and the cue go through the package and back', async () => {
  const { kit, blobs } = made.get('Periscope diver')!;
  expect(overlaysOf(kit).map(({ name }) => name)).toEqual(['blink']);
  expect(clipsInOrder(kit).some(({ tracks }) => tracks.some(({ kind }) => kind === 'formula'))).toBe(true);
  const { bytes } = await packKit(kit, { ...books.cubbin, packaging: [{ path: 'model/{kit}.glb', holds: 'model' }] }, blobs, []);
  const back = await readPackage(bytes, new MemoryBlobs());
  const clip = (name: string) => clipsInOrder(back.kit).find((one) => one.name === name)!;
  expect(clip('blink').overlay).toEqual({ place: 'over', mode: 'replace', parts: null });
  expect(clip('look').cues!.map(({ kind, name, time }) => [kind, name, time])).toEqual([['effect', 'steam', 0.6]]);
  expect(clip('stand').tracks.length).toBeGreaterThan(0);
});

test('the keeper owes Motion no clip that Emberfold asks for by name but those it plays of its own', () => {
  const { kit, blobs } = made.get('Night-watch keeper')!;
  expect(clipsInOrder(kit).map(({ name }) => name)).toEqual(['idle', 'walk', 'run']);
  const seams = runChecks({ kit, rulebook: books.emberfold, blobs }).filter(
    ({ rule, title }) => rule.includes('seam') || title.includes('Seam'),
  );
  expect(seams).toEqual([]);
});
