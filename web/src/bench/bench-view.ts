import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import type { Blobs, Id, Kit, Quat, Space, Vec3 } from '@itchkit/core/document';
import {
  CANONICAL,
  changeOfSpace,
  emptyBounds,
  flattenParts,
  growBounds,
  isEmptyBounds,
  posedVertices,
  Poser,
  type Bounds,
} from '@itchkit/core/geometry';
import type { Gizmo, PickMode } from '../session/ui-store';
import type { Tokens } from '../theme/tokens';
import { BenchHalves } from './bench-halves';
import type { BenchTool } from './bench-tool';
import { BenchPointer, type Aim, type PointerEvents } from './bench-pointer';
import { fitView } from './fit-view';
import { buildGround, personOf, type GroundOptions } from './ground';
import { KitScene, type MaterialLook } from './kit-scene';
import { disposeTree, sizeLabels } from './label';
import { outlineParts, pivotMark, sizeCallouts } from './marks';
import { SkeletonLines } from './skeleton-lines';

export interface Placement {
  translation: Vec3;
  rotation: Quat;
  scale: Vec3;
}

export interface BenchEvents extends PointerEvents {
  /** A part was moved with the gizmo; `done` when it was let go. */
  moved(id: Id, placement: Placement, done: boolean): void;
}

const GIZMO_MODE = { move: 'translate', turn: 'rotate', size: 'scale' } as const;

/** Shares of the picture that a whole kit and chosen parts fill when they are framed. */
const KIT_SHARE = 0.9;
const PART_SHARE = 0.6;
/** How far measures stand around the kit, as a share of its longest side. */
const CALLOUTS = 0.08;
/** What is smaller than this would be a speck beside a person, metres. */
const SPECK = 0.3;

/** How bright it is by day, and by night. */
const DAYLIGHT = { sky: 2.1, sun: 1.7, ground: 1 };
const DARK = { sky: 0.35, sun: 0.12, ground: 0.16 };

type AimKeys = Pick<Aim, 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>;

/** The 3D view. Draws when something changed, never in an idle loop. */
export class BenchView {
  poser: Poser | null = null;

  private disposed = false;

  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly sky = new THREE.HemisphereLight(0xffffff, 0xb8ad98, DAYLIGHT.sky);
  private readonly sun = new THREE.DirectionalLight(0xfff4e0, DAYLIGHT.sun);
  private dark = false;
  private readonly camera = new THREE.PerspectiveCamera(32, 1, 0.01, 4000);
  private readonly orbit: OrbitControls;
  private readonly gizmo: TransformControls;
  private readonly kitScene = new KitScene();
  private readonly pivot: THREE.Group;
  private ground: THREE.Group | null = null;
  private callouts: THREE.Group | null = null;
  private readonly halves: BenchHalves;
  private readonly overlays = new Map<string, THREE.Object3D>();
  /** Of those that hang in a part, in which. */
  private readonly hung = new Map<string, Id>();
  private room: THREE.Box3 | null = null;
  private readonly pointer: BenchPointer;
  private readonly skeleton = new SkeletonLines();
  private joints = false;
  private person = false;
  private marks: THREE.Object3D[] = [];
  private selection: Id[] = [];
  private gizmoPart: Id | null = null;
  private kit: Kit | null = null;
  private blobs: Blobs | null = null;
  private scheduled = 0;
  private sized = false;
  /** Whether the first frame with a kit was marked for measuring. */
  private marked = false;
  private readonly observer: ResizeObserver;
  /** What is in view since it was framed; null once the view was turned or moved. */
  private framed: { ids: readonly Id[]; from?: Vec3 } | null = null;
  /** Where the middle of the body was when the view last went along with it; null while it does not. */
  private followed: THREE.Vector3 | null = null;

  constructor(
    private readonly container: HTMLElement,
    private tokens: Tokens,
    private readonly events: BenchEvents,
  ) {
    this.renderer = new THREE.WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    container.append(this.renderer.domElement);
    this.renderer.domElement.style.display = 'block';
    this.scene.add(this.kitScene.root);
    this.kitScene.root.add(this.skeleton.object);
    this.sun.position.set(-3, 6, 5);
    this.scene.add(this.sky, this.sun);
    this.pivot = pivotMark(tokens.signal);
    this.pivot.visible = false;
    this.scene.add(this.pivot);

    this.orbit = new OrbitControls(this.camera, this.renderer.domElement);
    this.orbit.addEventListener('change', () => this.draw());
    // Whoever turns or moves the view has chosen what to see.
    this.orbit.addEventListener('start', () => (this.framed = null));
    this.gizmo = new TransformControls(this.camera, this.renderer.domElement);
    this.gizmo.setSize(0.8);
    this.gizmo.addEventListener('change', () => this.draw());
    this.gizmo.addEventListener('dragging-changed', (event) => (this.orbit.enabled = !event.value));
    this.gizmo.addEventListener('objectChange', () => this.reportMove(false));
    this.gizmo.addEventListener('mouseUp', () => this.reportMove(true));
    this.scene.add(this.gizmo.getHelper());
    this.kitScene.onChange = () => this.draw();
    this.halves = new BenchHalves(this.scene, () => this.draw());
    this.pointer = new BenchPointer(
      {
        canvas: this.renderer.domElement,
        camera: this.camera,
        scene: this.kitScene,
        busy: () => this.halves.shown || this.gizmo.dragging || this.gizmo.axis !== null,
        holdView: (hold) => (this.orbit.enabled = !hold),
        kit: () => (this.kit && this.blobs ? { kit: this.kit, blobs: this.blobs } : null),
      },
      events,
    );
    this.observer = new ResizeObserver(() => this.resize());
    this.observer.observe(container);
    this.setTokens(tokens);
    this.resize();
  }

  dispose(): void {
    this.disposed = true;
    cancelAnimationFrame(this.scheduled);
    this.observer.disconnect();
    this.gizmo.dispose();
    this.orbit.dispose();
    this.kitScene.dispose();
    this.halves.dispose();
    this.skeleton.dispose();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }

  setTokens(tokens: Tokens): void {
    this.tokens = tokens;
    this.light();
    this.skeleton.setColour(tokens.sea);
    this.draw();
  }

  /** Day or night, and how materials look then: what shines, what is painted. Null brings day back, and the kit's own colours. */
  setLook(look: (MaterialLook & { night: boolean }) | null): void {
    this.dark = look?.night ?? false;
    this.kitScene.dress(look);
    this.light();
    this.draw();
  }

  private light(): void {
    const { sky, sun, ground } = this.dark ? DARK : DAYLIGHT;
    this.sky.intensity = sky;
    this.sun.intensity = sun;
    this.scene.background = new THREE.Color(this.tokens.paper).multiplyScalar(ground);
  }

  /** Shows a kit whose numbers are in `space`. */
  setKit(kit: Kit, blobs: Blobs, space: Space = CANONICAL): void {
    if (this.kit?.parts !== kit.parts) this.poser = new Poser(flattenParts(kit));
    this.kit = kit;
    this.blobs = blobs;
    const { basis, scale } = changeOfSpace(space, CANONICAL);
    const b = basis.map((value) => value * scale);
    this.kitScene.root.matrixAutoUpdate = false;
    this.kitScene.root.matrix.set(b[0], b[3], b[6], 0, b[1], b[4], b[7], 0, b[2], b[5], b[8], 0, 0, 0, 0, 1);
    this.kitScene.update(kit, blobs);
    for (const name of this.hung.keys()) this.hang(name, this.overlays.get(name)!);
    this.skeleton.setKit(kit, this.poser!);
    this.showJoints();
    this.mark();
  }

  /** Draws the kit as `poser` has it. */
  posed(): void {
    if (!this.poser) return;
    if (!this.gizmo.dragging) this.kitScene.place(this.poser);
    this.skeleton.place(this.poser);
    this.placePivot();
    this.goAlong();
    this.draw();
  }

  /** Whether the view goes along with what moves. */
  setFollow(on: boolean): void {
    this.followed = on ? this.middleOfParts() : null;
  }

  private goAlong(): void {
    if (!this.followed) return;
    const now = this.middleOfParts();
    const by = now.clone().sub(this.followed);
    this.followed = now;
    this.orbit.target.add(by);
    this.camera.position.add(by);
    this.orbit.update();
  }

  /** The middle of all pivots as they are posed, in the world. */
  private middleOfParts(): THREE.Vector3 {
    const sum = new THREE.Vector3();
    const ids = Object.keys(this.kit?.parts ?? {});
    for (const id of ids) sum.add(new THREE.Vector3().fromArray(this.poser!.worldOf(id), 12));
    return sum.divideScalar(Math.max(1, ids.length)).applyMatrix4(this.kitScene.root.matrix);
  }

  /** Whether joints are drawn over meshes; a skeleton without any is always seen. */
  setJoints(on: boolean): void {
    this.joints = on;
    this.showJoints();
    this.draw();
  }

  private showJoints(): void {
    this.skeleton.object.visible = this.joints || !this.kit || Object.keys(this.kit.meshes).length === 0;
  }

  setGround(options: Omit<GroundOptions, 'tokens'> | null, callouts: boolean): void {
    if (this.ground) disposeTree(this.ground);
    if (this.callouts) disposeTree(this.callouts);
    this.ground = options && !isEmptyBounds(options.bounds) ? buildGround({ ...options, tokens: this.tokens }) : null;
    this.callouts = callouts && options && !isEmptyBounds(options.bounds) ? sizeCallouts(options.bounds, this.tokens) : null;
    if (this.ground) this.scene.add(this.ground);
    if (this.callouts) this.scene.add(this.callouts);
    if (options?.person !== undefined && options.person !== this.person) {
      this.person = options.person;
      this.frameAgain();
    }
    this.draw();
  }

  /** What a drag does in a stage of its own. */
  setTool(tool: BenchTool | null): void {
    this.pointer.tool = tool;
    this.renderer.domElement.style.cursor = tool && !tool.quiet ? 'crosshair' : '';
  }

  /** The kit's objects, for what paints them otherwise. */
  get painted(): KitScene {
    return this.kitScene;
  }

  /**
   * Does what the pointer would at a place, pixels from the left and the top of the bench.
   *
   * @param holds Whether the button is down while it moves
   */
  aim(what: 'press' | 'move' | 'release', place: { x: number; y: number }, keys: AimKeys, holds = false): void {
    const { shiftKey, altKey, ctrlKey, metaKey } = keys;
    this.pointer[what]({ ...this.onPage(place), button: 0, buttons: holds ? 1 : 0, shiftKey, altKey, ctrlKey, metaKey, pointerId: null });
  }

  /** The part that is seen at a place, pixels from the left and the top of the bench. */
  partAt(place: { x: number; y: number }): Id | null {
    return this.pointer.hitAt(this.onPage(place))?.part ?? null;
  }

  private onPage({ x, y }: { x: number; y: number }): { clientX: number; clientY: number } {
    const { left, top } = this.renderer.domElement.getBoundingClientRect();
    return { clientX: left + x, clientY: top + y };
  }

  /** The hinge that dragging tries. */
  setSwing(swing: BenchPointer['swing']): void {
    this.pointer.swing = swing;
  }

  setPickMode(mode: PickMode): void {
    this.pointer.mode = mode;
    this.renderer.domElement.style.cursor = mode === 'parts' ? '' : 'crosshair';
  }

  /**
   * Puts something drawn beside the kit, by a name of its own; null takes it away. It is disposed of here.
   * @param part Whose group it hangs in.
   */
  setOverlay(name: string, object: THREE.Object3D | null, part?: Id): void {
    const old = this.overlays.get(name);
    if (old) disposeTree(old);
    this.overlays.delete(name);
    this.hung.delete(name);
    if (object) {
      this.overlays.set(name, object);
      if (part !== undefined) this.hung.set(name, part);
      this.hang(name, object);
    }
    this.draw();
  }

  /** Hangs what is drawn beside the kit where it belongs. A part that is not there yet has it once it is. */
  private hang(name: string, object: THREE.Object3D): void {
    const part = this.hung.get(name);
    const group = part === undefined ? this.scene : this.kitScene.groupOf(part);
    if (group) group.add(object);
    else object.removeFromParent();
  }

  /** Shows another state of the kit on the left half, for comparison; null shows one alone. */
  setBefore(kit: Kit | null, blobs: Blobs): void {
    this.halves.setBefore(kit, blobs);
    this.draw();
  }

  setSelection(ids: Id[], gizmo: Gizmo | null): void {
    this.selection = ids;
    this.gizmoPart = gizmo && ids.length === 1 ? ids[0] : null;
    this.mark();
    const group = this.gizmoPart === null ? undefined : this.kitScene.groupOf(this.gizmoPart);
    if (group && gizmo) {
      this.gizmo.attach(group);
      this.gizmo.setMode(GIZMO_MODE[gizmo]);
      this.gizmo.setSpace(gizmo === 'move' ? 'world' : 'local');
    } else this.gizmo.detach();
    this.draw();
  }

  /** Brings parts (all where none are named) into view. @param from Where the eye goes, from their middle. */
  frame(ids: readonly Id[], from?: Vec3): void {
    this.framed = { ids, from };
    const person = ids.length === 0 ? personOf(this.ground) : null;
    this.fit(ids, person, from, ids.length > 0 ? PART_SHARE : KIT_SHARE);
  }

  /** Frames again what was framed last, where nobody has turned or moved the view since. */
  private frameAgain(): void {
    if (this.framed) this.frame(this.framed.ids, this.framed.from);
  }

  /** What is drawn beside the kit and belongs into view with all of it; null takes it away. */
  setRoom(room: THREE.Box3 | null): void {
    this.room = room;
    this.frameAgain();
  }

  /** Where the kit stands, in the bench's axes, and from its own axes and unit to these. */
  standing(): { box: THREE.Box3; space: THREE.Matrix4 } {
    const { min, max } = this.boundsOf(Object.keys(this.kit?.parts ?? {}));
    const space = this.kitScene.root.matrix.clone();
    return { box: new THREE.Box3(new THREE.Vector3(...min), new THREE.Vector3(...max)).applyMatrix4(space), space };
  }

  private fit(ids: readonly Id[], person: THREE.Box3 | null, from: Vec3 | undefined, share: number): void {
    const bounds = this.boundsOf(ids.length > 0 ? ids : Object.keys(this.kit?.parts ?? {}));
    if (isEmptyBounds(bounds)) return;
    const box = new THREE.Box3(new THREE.Vector3(...bounds.min), new THREE.Vector3(...bounds.max)).applyMatrix4(this.kitScene.root.matrix);
    const size = box.getSize(new THREE.Vector3());
    const way = from ? new THREE.Vector3(...from) : this.camera.position.clone().sub(this.orbit.target);
    if (way.lengthSq() < 1e-9) way.set(-0.75, 0.55, 1.1);
    if (this.callouts?.visible && ids.length === 0) box.expandByScalar(CALLOUTS * Math.max(size.x, size.y, size.z));
    // Beside what would be a speck then, the person may stand outside.
    const boxes = person && Math.max(size.x, size.y, size.z) > SPECK ? [box, person] : [box];
    if (this.room && ids.length === 0) boxes.push(this.room);
    const { target } = fitView(this.camera, boxes, way, share);
    this.orbit.target.copy(target);
    this.orbit.update();
    this.draw();
  }

  draw(): void {
    if (this.scheduled !== 0 || this.disposed) return;
    this.scheduled = requestAnimationFrame(() => {
      this.scheduled = 0;
      this.drawNow();
    });
  }

  drawNow(): void {
    // A picture that was asked for is this one.
    cancelAnimationFrame(this.scheduled);
    this.scheduled = 0;
    sizeLabels(this.scene, this.camera, this.container.clientHeight || 1);
    this.sizePivot();
    if (this.halves.shown) this.halves.draw(this.renderer, this.camera, this.kitScene.root);
    else this.renderer.render(this.scene, this.camera);
    // Where the world stands on the picture, column-major: for those who have to point at it without seeing it.
    const view = new THREE.Matrix4().multiplyMatrices(this.camera.projectionMatrix, this.camera.matrixWorldInverse);
    this.container.dataset.view = view.elements.map((value) => value.toPrecision(7)).join(' ');
    if (this.kit && !this.marked) {
      this.marked = true;
      performance.mark('itchkit:first-frame');
    }
  }

  /** A small picture of the kit alone, PNG; with what is drawn over it, where that is asked for. */
  async thumbnail(width = 480, height = 300, overlaid = false): Promise<Blob | null> {
    const drawn = overlaid ? [] : this.overlays.values();
    const hidden = [this.ground, this.callouts, this.pivot, this.gizmo.getHelper(), ...this.marks, ...drawn].filter(
      (one): one is THREE.Object3D => one !== null && one.visible,
    );
    const size = this.renderer.getSize(new THREE.Vector2());
    const ratio = this.renderer.getPixelRatio();
    const camera = this.camera.clone();
    const target = this.orbit.target.clone();
    const background = this.scene.background;
    hidden.forEach((one) => (one.visible = false));
    this.scene.background = null;
    this.renderer.setPixelRatio(1);
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.position.set(-0.75, 0.5, 1.1);
    this.orbit.target.set(0, 0, 0);
    this.fit([], null, undefined, KIT_SHARE);
    this.renderer.setClearAlpha(0);
    this.renderer.render(this.scene, this.camera);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [width, height];
    canvas.getContext('2d')!.drawImage(this.renderer.domElement, 0, 0);
    hidden.forEach((one) => (one.visible = true));
    this.scene.background = background;
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(size.x, size.y, false);
    this.camera.copy(camera);
    this.orbit.target.copy(target);
    this.orbit.update();
    this.drawNow();
    return new Promise((resolve) => canvas.toBlob(resolve, 'image/png'));
  }

  private boundsOf(ids: Iterable<Id>): Bounds {
    const bounds = emptyBounds();
    if (!this.kit || !this.poser || !this.blobs) return bounds;
    for (const id of ids)
      if (this.kit.parts[id])
        growBounds(
          bounds,
          posedVertices(this.kit, this.blobs, this.kit.parts[id], (other) => this.poser!.worldOf(other), this.poser!.weightsOf(id)),
        );
    // A skeleton alone is as large as its joints reach.
    if (isEmptyBounds(bounds)) for (const id of ids) if (this.kit.parts[id]) growBounds(bounds, this.poser.worldOf(id).subarray(12, 15));
    return bounds;
  }

  private resize(): void {
    const { clientWidth: width, clientHeight: height } = this.container;
    if (width === 0 || height === 0) return;
    // An observer begins by telling the size that there is.
    const size = this.renderer.getSize(new THREE.Vector2());
    if (this.sized && size.x === width && size.y === height) return;
    this.sized = true;
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.renderer.setSize(width, height);
    this.frameAgain();
    this.drawNow();
  }

  private mark(): void {
    this.marks.forEach((one) => {
      one.removeFromParent();
      ((one as THREE.LineSegments).material as THREE.Material).dispose();
    });
    this.marks = outlineParts(this.kitScene, this.selection, this.tokens.signal);
    this.placePivot();
  }

  private placePivot(): void {
    const group = this.selection.length > 0 ? this.kitScene.groupOf(this.selection[this.selection.length - 1]) : undefined;
    this.pivot.visible = group !== undefined;
    if (!group) return;
    this.kitScene.root.updateMatrixWorld(true);
    group.matrixWorld.decompose(this.pivot.position, this.pivot.quaternion, new THREE.Vector3());
  }

  private sizePivot(): void {
    const distance = this.camera.position.distanceTo(this.pivot.position);
    const size = (26 * distance * 2 * Math.tan((this.camera.fov * Math.PI) / 360)) / (this.container.clientHeight || 1);
    this.pivot.scale.setScalar(size);
    this.pivot.updateMatrixWorld(true);
  }

  private reportMove(done: boolean): void {
    const group = this.gizmoPart === null ? undefined : this.kitScene.groupOf(this.gizmoPart);
    if (!group || this.gizmoPart === null) return;
    this.events.moved(
      this.gizmoPart,
      { translation: group.position.toArray(), rotation: group.quaternion.toArray() as Quat, scale: group.scale.toArray() },
      done,
    );
  }
}
