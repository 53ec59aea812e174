import cubbin from '@itchkit/rulebooks/cubbin';
import emberfold from '@itchkit/rulebooks/emberfold';
import validator from 'gltf-validator';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { checkKit, MemoryBlobs, type Kit, type Vec3 } from '@itchkit/core/document';
import { flattenParts, Poser, posedVertices, restWorlds } from '@itchkit/core/geometry';
import { compareSkeletons, headOf, PoseMeter, strikePose, wholePoses } from '@itchkit/core/rig';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { writeGlb } from '@itchkit/core/ship';
import { rayBoxes } from './lantern-ray-glb';
import { lanternRay, nightWatchKeeper } from './rigged-kits';

const books = { cubbin: checkRulebook(cubbin), emberfold: checkRulebook(emberfold) };
const blobs = new MemoryBlobs();
let keeper: Kit;
beforeAll(async () => {
  keeper = checkKit(await nightWatchKeeper(books.emberfold, blobs));
  Object.assign(globalThis, { self: globalThis });
});

const head = (kit: Kit, name: string): Vec3 => headOf(restWorlds(kit), Object.values(kit.parts).find((part) => part.name === name)!.id);

test('the keeper’s joints stand where its limbs bend, alike on both sides, and all inside', () => {
  // As it was drawn: shoulders, elbows, wrists, knees, ankles, to a twentieth of its height.
  const drawn: Record<string, Vec3> = {
    upper_arm_l: [0.17, 1.42, -0.01],
    forearm_l: [0.4, 1.17, -0.02],
    hand_l: [0.6, 0.95, 0.03],
    shin_l: [0.115, 0.5, 0.01],
    foot_l: [0.12, 0.08, -0.02],
    neck: [0, 1.5, 0],
  };
  for (const [name, at] of Object.entries(drawn))
    expect([name, Math.hypot(...head(keeper, name).map((value, axis) => value - at[axis])) < 0.09]).toEqual([name, true]);
  for (const { name } of books.emberfold.skeleton!.filter((joint) => joint.name.endsWith('_l'))) {
    const [x, y, z] = head(keeper, name);
    head(keeper, name.replace(/_l$/, '_r')).forEach((value, axis) => expect(value).toBeCloseTo([-x, y, z][axis], 9));
  }
});

test('the keeper owes Rig nothing, and its skeleton is Emberfold’s', () => {
  expect(runChecks({ kit: keeper, rulebook: books.emberfold, blobs }).filter((finding) => finding.stage === 'rig')).toEqual([]);
  const rows = compareSkeletons(
    keeper,
    books.emberfold.skeleton!.map((joint) => ({ ...joint, at: null, rotation: null })),
  );
  expect(rows.map(({ states }) => states.join())).toEqual(Array(20).fill('matched'));
});

test('reach, crouch and twist keep nine tenths of the keeper’s volume', () => {
  const meter = new PoseMeter(keeper, blobs);
  const poses = wholePoses(keeper);
  expect(poses.map(({ id }) => id)).toEqual(['reach', 'crouch', 'twist']);
  for (const pose of poses) {
    const { volume, crossings } = meter.measure(pose);
    expect(volume).toBeGreaterThan(0.9);
    expect(volume).toBeLessThan(1.1);
    expect(crossings).toBeGreaterThanOrEqual(0);
  }
});

test('exported it passes the validator, and three.js poses its vertices as core does, to 1e-4', async () => {
  // Without its picture: loading one needs a page.
  const bare = {
    ...keeper,
    images: {},
    materials: Object.fromEntries(Object.entries(keeper.materials).map(([id, material]) => [id, { ...material, baseColorTexture: null }])),
  };
  const { bytes } = await writeGlb(bare, blobs);
  const { issues } = (await validator.validateBytes((await writeGlb(keeper, blobs)).bytes)) as {
    issues: { numErrors: number; numWarnings: number; messages: { code: string }[] };
  };
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);

  const { scene } = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
  let mesh: THREE.SkinnedMesh | undefined;
  scene.traverse((object) => ((object as THREE.SkinnedMesh).isSkinnedMesh ? (mesh = object as THREE.SkinnedMesh) : undefined));
  const poser = new Poser(flattenParts(keeper));
  for (const pose of wholePoses(keeper)) {
    strikePose(keeper, poser, pose);
    for (const id of poser.flat.ids) {
      const bone = scene.getObjectByName(keeper.parts[id].name);
      if (!bone || keeper.parts[id].mesh) continue;
      const i = poser.flat.indexOf.get(id)!;
      bone.quaternion.fromArray(poser.rotation, 4 * i);
      bone.position.fromArray(poser.translation, 3 * i);
    }
    scene.updateMatrixWorld(true);
    mesh!.skeleton.update();
    const ours = posedVertices(
      keeper,
      blobs,
      Object.values(keeper.parts).find((part) => part.mesh)!,
      (id) => poser.worldOf(id),
    );
    const vertex = new THREE.Vector3();
    let off = 0;
    let moved = 0;
    for (let v = 0; v < ours.length / 3; v++) {
      mesh!.getVertexPosition(v, vertex);
      mesh!.localToWorld(vertex);
      off = Math.max(off, vertex.distanceTo(new THREE.Vector3(ours[3 * v], ours[3 * v + 1], ours[3 * v + 2])));
      moved = Math.max(moved, vertex.distanceTo(new THREE.Vector3().fromBufferAttribute(mesh!.geometry.attributes.position, v)));
    }
    expect(off).toBeLessThan(1e-4);
    expect(moved).toBeGreaterThan(0.05);
  }
});

test('every box of the ray is held by one joint alone, three segments to a fin, on Cubbin’s grid', async () => {
  const kit = checkKit(await lanternRay(books.cubbin, blobs));
  const findings = runChecks({ kit, rulebook: books.cubbin, blobs });
  expect(findings.filter((finding) => finding.stage === 'rig' || finding.stage === 'shape')).toEqual([]);
  for (const [joint] of rayBoxes('l_', 'r_'))
    expect(Object.values(kit.parts).some((part) => part.name === joint && part.role === 'joint')).toBe(true);
  // Joints stand at the roots of their boxes.
  expect(head(kit, 'l_fin_mid').map((value) => value * 16)).toEqual([7, 2, expect.any(Number)]);
  expect(head(kit, 'l_fin_tip').map((value) => value * 16)).toEqual([11, 2, expect.any(Number)]);
});
