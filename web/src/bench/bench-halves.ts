import * as THREE from 'three';
import type { Blobs, Kit } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { KitScene } from './kit-scene';
import { sizeLabels } from './label';

/** The kit as it was on the left half of the bench, as it would be on the right: each whole, both from the same side. */
export class BenchHalves {
  private before: KitScene | null = null;

  constructor(
    private readonly scene: THREE.Scene,
    private readonly onChange: () => void,
  ) {}

  get shown(): boolean {
    return this.before !== null;
  }

  /** What stands on the left; null shows one alone. */
  setBefore(kit: Kit | null, blobs: Blobs): void {
    if (!kit) return this.dispose();
    if (!this.before) {
      this.before = new KitScene();
      this.before.onChange = this.onChange;
      this.before.root.visible = false;
      this.scene.add(this.before.root);
    }
    this.before.update(kit, blobs);
    this.before.place(new Poser(flattenParts(kit)));
  }

  /** @param after What stands on the right. */
  draw(renderer: THREE.WebGLRenderer, camera: THREE.PerspectiveCamera, after: THREE.Object3D): void {
    const before = this.before!.root;
    const size = renderer.getSize(new THREE.Vector2());
    const half = Math.floor(size.x / 2);
    // What filled the width has to fit into half of it.
    this.look(camera, half / size.y, Math.min(1, (1.1 * half) / size.y));
    sizeLabels(this.scene, camera, size.y);
    renderer.setScissorTest(true);
    for (const [root, from] of [
      [before, 0],
      [after, half],
    ] as const) {
      before.visible = root === before;
      after.visible = root === after;
      renderer.setViewport(from, 0, half, size.y);
      renderer.setScissor(from, 0, from === 0 ? half - 1 : half, size.y);
      renderer.render(this.scene, camera);
    }
    before.visible = false;
    after.visible = true;
    renderer.setScissorTest(false);
    renderer.setViewport(0, 0, size.x, size.y);
    this.look(camera, size.x / size.y, 1);
  }

  dispose(): void {
    this.before?.root.removeFromParent();
    this.before?.dispose();
    this.before = null;
  }

  private look(camera: THREE.PerspectiveCamera, aspect: number, zoom: number): void {
    camera.aspect = aspect;
    camera.zoom = zoom;
    camera.updateProjectionMatrix();
  }
}
