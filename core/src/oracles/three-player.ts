import { AnimationMixer, LoopOnce, Matrix4, Mesh, Vector3, type AnimationClip, type Object3D, type SkinnedMesh } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

/** A GLB as three.js's own loader and mixer play it: what another program shows of a file. */
export class ThreePlayer {
  private constructor(
    private readonly scene: Object3D,
    private readonly clips: readonly AnimationClip[],
    /** Which of the file's nodes each mesh hangs on. */
    private readonly nodeOf: (mesh: Mesh) => number,
  ) {}

  static async of(bytes: Uint8Array): Promise<ThreePlayer> {
    Object.assign(globalThis, { self: globalThis });
    const { scene, animations, parser } = await new GLTFLoader().parseAsync(withoutPictures(bytes).buffer as ArrayBuffer, '');
    const nodes = new Map<Object3D, number>();
    for (const [object, said] of parser.associations as Map<Object3D, { nodes?: number } | undefined>)
      if (said?.nodes !== undefined) nodes.set(object, said.nodes);
    return new ThreePlayer(scene, animations, (mesh) => nodes.get(mesh) ?? nodes.get(mesh.parent!)!);
  }

  /** Of its clips. */
  get names(): string[] {
    return this.clips.map(({ name }) => name);
  }

  /** World places of every vertex by number of node, at a time of a clip (seconds), or as the file stands. */
  at(clip: string | null, time: number): Map<number, number[]> {
    const mixer = new AnimationMixer(this.scene);
    if (clip !== null) {
      const action = mixer.clipAction(this.clips.find(({ name }) => name === clip)!);
      action.setLoop(LoopOnce, 1);
      action.clampWhenFinished = true;
      action.play();
      mixer.setTime(time);
    }
    this.scene.updateMatrixWorld(true);
    const out = new Map<number, number[]>();
    this.scene.traverse((object) => {
      const mesh = object as Mesh;
      if (!mesh.isMesh) return;
      const node = this.nodeOf(mesh);
      const points = out.get(node) ?? [];
      const at = new Vector3();
      for (let v = 0; v < mesh.geometry.getAttribute('position').count; v++) {
        if (isFlat(mesh)) placeByBones(mesh as SkinnedMesh, v, at);
        else mesh.localToWorld(mesh.getVertexPosition(v, at));
        points.push(at.x, at.y, at.z);
      }
      out.set(node, points);
    });
    mixer.stopAllAction();
    mixer.uncacheRoot(this.scene);
    return out;
  }
}

/** A deformed mesh whose own node is of no size: three.js works in that node's axes, which are none then. */
const isFlat = (mesh: Mesh) => (mesh as SkinnedMesh).isSkinnedMesh && mesh.matrixWorld.determinant() === 0;

/** The vertex as the joints alone place it (glTF 2.0, 3.7.3.3: the mesh's own node is ignored). */
function placeByBones(mesh: SkinnedMesh, vertex: number, at: Vector3): void {
  const { skeleton, geometry } = mesh;
  skeleton.update();
  const own = Mesh.prototype.getVertexPosition.call(mesh, vertex, new Vector3()) as Vector3;
  const [joints, weights] = ['skinIndex', 'skinWeight'].map((name) => geometry.getAttribute(name));
  at.set(0, 0, 0);
  for (let k = 0; k < 4; k++) {
    const matrix = new Matrix4().fromArray(skeleton.boneMatrices!, 16 * joints.getComponent(vertex, k));
    at.addScaledVector(own.clone().applyMatrix4(matrix), weights.getComponent(vertex, k));
  }
}

const JSON_CHUNK = 0x4e4f534a;

/** The same GLB without pictures, which can't be decoded outside a browser, and so without materials. */
function withoutPictures(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(16, true) !== JSON_CHUNK) throw new Error('A GLB begins with its JSON');
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as {
    meshes?: { primitives: { material?: number }[] }[];
    [table: string]: unknown;
  };
  for (const table of ['materials', 'textures', 'images', 'samplers']) delete json[table];
  for (const { primitives } of json.meshes ?? []) for (const primitive of primitives) delete primitive.material;
  const text = new TextEncoder().encode(JSON.stringify(json));
  const padded = Math.ceil(text.length / 4) * 4;
  const rest = bytes.subarray(20 + length);
  const out = new Uint8Array(20 + padded + rest.length).fill(0x20);
  out.set(bytes.subarray(0, 20));
  out.set(text, 20);
  out.set(rest, 20 + padded);
  const head = new DataView(out.buffer);
  head.setUint32(8, out.length, true);
  head.setUint32(12, padded, true);
  return out;
}
