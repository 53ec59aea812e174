import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

/** Shows a GLB, given in base64, as plainly as three.js can; gives the milliseconds from its bytes to the first frame. */
async function showGlb(text: string): Promise<number> {
  const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
  const start = performance.now();
  const { scene } = await new GLTFLoader().parseAsync(bytes.buffer, '');
  const renderer = new THREE.WebGLRenderer({ antialias: true });
  renderer.setSize(680, 700);
  document.body.append(renderer.domElement);
  const camera = new THREE.PerspectiveCamera(40, 680 / 700, 0.1, 500);
  const bounds = new THREE.Box3().setFromObject(scene);
  const size = bounds.getSize(new THREE.Vector3()).length();
  bounds.getCenter(camera.position).add(new THREE.Vector3(size, size, size));
  camera.lookAt(bounds.getCenter(new THREE.Vector3()));
  const world = new THREE.Scene();
  world.add(scene, new THREE.HemisphereLight(0xffffff, 0x888888, 3));
  renderer.render(world, camera);
  return performance.now() - start;
}

Object.assign(globalThis, { showGlb });
