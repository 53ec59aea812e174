import * as THREE from 'three';
import type { Blobs, Kit } from '@itchkit/core/document';
import { copyPose, flattenParts, Poser } from '@itchkit/core/geometry';
import { turningRoot } from '@itchkit/core/trial';
import { KitScene } from '../../bench/kit-scene';
import { makeLabel } from '../../bench/label';
import type { Tokens } from '../../theme/tokens';
import type { RowPose } from '../trial-state';

/** How far bodies stand from one another, in their own width. */
const APART = 1.35;

/** Where the one in the middle stands in the bench's axes, and from the kit's axes and unit to these. */
interface Standing {
  box: THREE.Box3;
  space: THREE.Matrix4;
}

/** Bodies beside the one on the bench, to its left and right, drawn from the same kit. */
export class RowScene {
  readonly object = new THREE.Group();
  /** What they take up, the one in the middle with them. */
  readonly room: THREE.Box3;
  private readonly scenes: KitScene[] = [];
  private readonly poser: Poser;
  private readonly root: number;

  /**
   * @param labels What is said above each; empty for nothing
   */
  constructor(kit: Kit, blobs: Blobs, labels: readonly string[], { space, box }: Standing, tokens: Tokens, draw: () => void) {
    const count = labels.length;
    this.poser = new Poser(flattenParts(kit));
    this.root = this.poser.flat.ids.indexOf(turningRoot(kit) ?? '');
    const apart = APART * (box.max.x - box.min.x || 1);
    this.room = box.clone();
    // To the left and to the right of the one in the middle.
    const left = Math.ceil(count / 2);
    for (let i = 0; i < count; i++) {
      const scene = new KitScene();
      scene.onChange = draw;
      scene.update(kit, blobs);
      scene.root.matrixAutoUpdate = false;
      scene.root.matrix.copy(space);
      const holder = new THREE.Group();
      holder.position.x = apart * (i < left ? i - left : i - left + 1);
      holder.add(scene.root);
      if (labels[i] !== '') {
        const label = makeLabel(labels[i], tokens.ink, tokens.paper);
        label.position.set((box.min.x + box.max.x) / 2, box.max.y + 0.06 * (box.max.y - box.min.y), (box.min.z + box.max.z) / 2);
        holder.add(label);
      }
      this.object.add(holder);
      this.scenes.push(scene);
      this.room.union(box.clone().translate(holder.position));
    }
  }

  place(poses: readonly RowPose[]): void {
    poses.forEach(({ pose, turn }, i) => {
      copyPose(this.poser.pose, pose);
      if (this.root >= 0) turn.forEach((degrees, axis) => (this.poser.pose.turn[3 * this.root + axis] += degrees));
      this.poser.update();
      this.scenes[i].place(this.poser);
    });
  }

  dispose(): void {
    for (const scene of this.scenes) scene.dispose();
  }
}
