import * as THREE from 'three';
import { subtreeOf, type Axis, type Blobs, type Id, type Kit, type Vec3 } from '@itchkit/core/document';
import { wholeMesh } from '@itchkit/core/geometry';
import type { PickMode } from '../session/ui-store';
import type { BenchTool, ToolPoint } from './bench-tool';
import type { KitScene } from './kit-scene';
import { nearestHit } from './ray-pick';
import type { SurfaceHit } from './snap-point';
import { takeHold, type SwingHold } from './swing-drag';

/** Pixels that a click may slip. */
const SLIP = 4;
/** Pixels around a click within which corners count, and in how many directions they are looked for. */
const REACH = 7;
const AROUND = 8;

export interface PointerEvents {
  pick(id: Id | null, additive: boolean): void;
  /**
   * A point was clicked: the faces under it and just around it, the one right under it first; `distanceTo` gives the pixels from a point of
   * the world to the click.
   */
  point(hits: SurfaceHit[], distanceTo: (point: Vec3) => number): void;
  /** A face was clicked, or brushed while the button is down; `start` for the first of a stroke. */
  face(hit: SurfaceHit | null, how: { start: boolean; take: boolean }): void;
  /** A hinge is tried: by so many degrees; null where the part was let go. */
  swung(degrees: number | null): void;
}

/** Where and how the bench is pressed: by a pointer, or by the keyboard’s sight, which has no pointer to capture. */
export interface Aim {
  clientX: number;
  clientY: number;
  button: number;
  buttons: number;
  altKey: boolean;
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
  pointerId: number | null;
}

interface Around {
  canvas: HTMLCanvasElement;
  camera: THREE.PerspectiveCamera;
  scene: KitScene;
  /** Whether the handles are at work, so that a click is theirs. */
  busy(): boolean;
  /** Turning the view is held while faces are brushed. */
  holdView(hold: boolean): void;
  kit(): { kit: Kit; blobs: Blobs } | null;
}

/** What the pointer does on the bench: picks parts, points, or faces. */
export class BenchPointer {
  mode: PickMode = 'parts';
  private down: { x: number; y: number } | null = null;
  private brushing = false;
  /** The hinge that a drag tries, and the hold of a drag that does. */
  swing: { part: Id; axis: Axis } | null = null;
  private hold: SwingHold | null = null;
  /** What a drag does besides; it is asked first. */
  tool: BenchTool | null = null;
  private toolHolds = false;

  constructor(
    private readonly around: Around,
    private readonly events: PointerEvents,
  ) {
    const { canvas } = around;
    canvas.addEventListener('pointerdown', (event) => this.press(event), { capture: true });
    canvas.addEventListener('pointermove', (event) => this.move(event));
    canvas.addEventListener('pointerup', (event) => this.release(event));
  }

  /** The button goes down: a tool, a hinge or a brush may take hold. */
  press(event: Aim): void {
    this.down = event.button === 0 && !this.around.busy() ? { x: event.clientX, y: event.clientY } : null;
    if (this.down && this.tool?.down(this.toolPoint(event))) {
      this.toolHolds = true;
      this.around.holdView(true);
      this.capture(event);
      return;
    }
    if (this.down && this.mode !== 'faces' && this.swing) this.hold = this.takeSwing(event);
    if (this.hold) {
      this.around.holdView(true);
      this.capture(event);
      return;
    }
    if (!this.down || this.mode !== 'faces') return;
    const hit = this.hitAt(event);
    if (!hit) return;
    // A stroke that begins on a face brushes; beside the kit it turns the view.
    this.brushing = true;
    this.around.holdView(true);
    this.events.face(hit, { start: true, take: event.altKey });
  }

  /** What holds goes along. */
  move(event: Aim): void {
    if (this.toolHolds) {
      this.tool?.move(this.toolPoint(event));
      return;
    }
    if (event.buttons === 0 && this.tool?.hover) this.tool.hover(this.toolPoint(event));
    if (this.hold) {
      const { x, y } = this.placeOf(event);
      this.events.swung(this.hold.degreesAt(x, y));
      return;
    }
    if (this.brushing && this.down && Math.hypot(event.clientX - this.down.x, event.clientY - this.down.y) > SLIP)
      this.events.face(this.hitAt(event), { start: false, take: event.altKey });
  }

  /** The button comes up: what held lets go, else what lies there is picked. */
  release(event: Aim): void {
    if (this.toolHolds) {
      this.toolHolds = false;
      this.around.holdView(false);
      this.tool?.up();
      return;
    }
    if (this.hold) {
      this.hold = null;
      this.around.holdView(false);
      this.events.swung(null);
    }
    if (this.brushing) {
      this.brushing = false;
      this.around.holdView(false);
      return;
    }
    if (!this.down || Math.hypot(event.clientX - this.down.x, event.clientY - this.down.y) > SLIP || this.around.busy()) return;
    if (this.mode === 'parts') this.events.pick(this.hitAt(event)?.part ?? null, event.shiftKey || event.ctrlKey || event.metaKey);
    else if (this.mode === 'points') this.events.point(this.hitsAround(event), (point) => this.pixelsTo(point, event));
  }

  private capture({ pointerId }: Aim): void {
    if (pointerId !== null) this.around.canvas.setPointerCapture(pointerId);
  }

  /** Where the pointer is on the picture, −1 to 1 across and up. */
  private placeOf({ clientX, clientY }: { clientX: number; clientY: number }): THREE.Vector2 {
    const rect = this.around.canvas.getBoundingClientRect();
    return new THREE.Vector2(((clientX - rect.left) / rect.width) * 2 - 1, 1 - ((clientY - rect.top) / rect.height) * 2);
  }

  private toolPoint(event: Aim): ToolPoint {
    const place = this.placeOf(event);
    const hit = this.meshHitAt(place);
    const normal = hit?.face ? hit.face.normal.clone().transformDirection(hit.object.matrixWorld) : null;
    return {
      place,
      camera: this.around.camera,
      hit: hit ? { point: hit.point.toArray(), normal: normal ? normal.toArray() : [0, 1, 0], part: hit.object.userData.part as Id } : null,
      pixelsTo: (point) => this.pixelsTo(point, event),
      alt: event.altKey,
      shift: event.shiftKey,
    };
  }

  private meshHitAt(place: THREE.Vector2): THREE.Intersection | null {
    const caster = new THREE.Raycaster();
    caster.setFromCamera(place, this.around.camera);
    return nearestHit(
      caster,
      this.around.scene.allMeshes().filter((mesh) => mesh.visible),
    );
  }

  /** A hold of the part whose hinge is tried, where the pointer is on it or on what it carries. */
  private takeSwing(event: Aim): SwingHold | null {
    const shown = this.around.kit();
    const place = this.placeOf(event);
    const hit = this.meshHitAt(place);
    const group = this.swing && this.around.scene.groupOf(this.swing.part);
    if (!this.swing || !shown?.kit.parts[this.swing.part] || !hit || !group) return null;
    if (!subtreeOf(shown.kit, this.swing.part).has(hit.object.userData.part as Id)) return null;
    return takeHold(this.around.camera, group.matrixWorld, this.swing.axis, hit.point, place);
  }

  /** The face under the pointer, counted through its part's mesh. */
  hitAt(event: { clientX: number; clientY: number }): SurfaceHit | null {
    const hit = this.meshHitAt(this.placeOf(event));
    const shown = this.around.kit();
    const part = hit?.object.userData.part as Id | undefined;
    const mesh = part && shown ? shown.kit.parts[part]?.mesh : null;
    if (!hit || !part || !shown || !mesh) return null;
    return {
      part,
      face: wholeMesh(shown.kit.meshes[mesh], shown.blobs).starts[hit.object.userData.primitive as number] + (hit.faceIndex ?? 0),
    };
  }

  /** A corner that stands against what is far behind it is half missed by a click: so it is looked around a little. */
  private hitsAround({ clientX, clientY }: Aim): SurfaceHit[] {
    const turns = Array.from({ length: AROUND }, (_, i) => (2 * Math.PI * i) / AROUND);
    const places = [[0, 0], ...turns.map((turn) => [REACH * Math.cos(turn), REACH * Math.sin(turn)])];
    const hits = places.flatMap(([x, y]) => this.hitAt({ clientX: clientX + x, clientY: clientY + y }) ?? []);
    return hits.filter((hit, i) => hits.findIndex((other) => other.part === hit.part && other.face === hit.face) === i);
  }

  private pixelsTo(point: Vec3, { clientX, clientY }: { clientX: number; clientY: number }): number {
    const rect = this.around.canvas.getBoundingClientRect();
    const place = new THREE.Vector3(...point).applyMatrix4(this.around.scene.root.matrix).project(this.around.camera);
    return Math.hypot(((place.x + 1) / 2) * rect.width + rect.left - clientX, ((1 - place.y) / 2) * rect.height + rect.top - clientY);
  }
}
