import { build } from 'esbuild';
import { join } from 'node:path';

/** What runs in the page: three.js's own loader reads a GLB, bones are set by name, and the skinned mesh gives its vertices. */
const READER = `
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
window.posedByThree = async (base64, poses) => {
  const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  const { scene } = await new GLTFLoader().parseAsync(bytes.buffer, '');
  let mesh;
  scene.traverse((object) => { if (object.isSkinnedMesh) mesh = object; });
  return poses.map((bones) => {
    for (const { name, position, quaternion } of bones) {
      const bone = scene.getObjectByName(name);
      bone.position.fromArray(position);
      bone.quaternion.fromArray(quaternion);
    }
    scene.updateMatrixWorld(true);
    mesh.skeleton.update();
    const vertex = new THREE.Vector3();
    const out = [];
    for (let v = 0; v < mesh.geometry.attributes.position.count; v++) {
      mesh.getVertexPosition(v, vertex);
      out.push(...mesh.localToWorld(vertex).toArray());
    }
    return out;
  });
};`;

/** A script for the page that reads and poses with three.js, without anything of ours. */
export async function threeReader(): Promise<string> {
  const { outputFiles } = await build({
    stdin: { contents: READER, resolveDir: join(import.meta.dirname, '..') },
    bundle: true,
    write: false,
    format: 'iife',
  });
  return outputFiles[0].text;
}
