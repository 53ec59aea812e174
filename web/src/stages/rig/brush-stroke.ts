import type * as THREE from 'three';
import type { Blobs, Id, Kit, Vec3 } from '@itchkit/core/document';
import { posedVertices, type Poser } from '@itchkit/core/geometry';
import { mirrorColumns, placeNormals, skinField, strongestOfRow, WeightBrush, type BrushSettings, type SkinField } from '@itchkit/core/rig';
import { HeatLook } from './heat-look';
import type { KitScene } from '../../bench/kit-scene';

let known: { key: string; brush: WeightBrush } | null = null;

/** Tells standings apart: the sum of all numbers, each by its own weight. */
function hashPlaces(places: Float32Array): number {
  let sum = places.length;
  for (let i = 0; i < places.length; i++) sum = (sum * 31 + places[i]) % 1e9;
  return sum;
}

/** The places of a field as a pose has them, 3 numbers each. */
function standingPlaces(kit: Kit, blobs: Blobs, field: SkinField, poser: Poser): Float32Array {
  const out = field.points.slice();
  for (const part of new Set(field.spans.map((span) => span.part))) {
    const posed = posedVertices(kit, blobs, kit.parts[part], (id) => poser.worldOf(id));
    const spans = field.spans.filter((span) => span.part === part);
    const first = spans[0].start;
    for (const { start, count } of spans)
      for (let v = start; v < start + count; v++) out.set(posed.subarray(3 * (v - first), 3 * (v - first) + 3), 3 * field.placeOf[v]);
  }
  return out;
}

/**
 * A stroke of the brush over the skinned parts: rows of weights that change in place, shown as they do. The kit is written once, at its
 * end.
 */
export class BrushStroke {
  private readonly field: SkinField;
  private readonly brush: WeightBrush;
  private readonly normals: Float32Array;
  private readonly shown: { mesh: THREE.Mesh; columns: number[]; start: number }[] = [];
  /** Vertices of each place. */
  private readonly verticesOf: number[][];
  private last: Vec3 | null = null;
  changed = false;

  /** @param poser As the kit stands on the bench. */
  constructor(kit: Kit, blobs: Blobs, scene: KitScene, poser: Poser) {
    const parts = Object.values(kit.parts)
      .filter((part) => part.skin !== null && part.mesh !== null)
      .map((part) => part.id);
    this.field = skinField(kit, parts, blobs);
    const standing = standingPlaces(kit, blobs, this.field, poser);
    // Stroke after stroke the surface is the same: it is sorted once.
    const key = [
      ...this.field.spans.map(({ part, primitive }) => kit.meshes[kit.parts[part].mesh!].primitives[primitive].attributes.POSITION.blob),
      hashPlaces(standing),
    ].join();
    const like = known?.key === key ? known.brush : null;
    this.brush = new WeightBrush(this.field, mirrorColumns(kit, this.field.joints), standing, like);
    known = { key, brush: this.brush };
    this.normals = placeNormals({ points: standing, corners: this.field.corners });
    this.verticesOf = Array.from({ length: this.field.points.length / 3 }, () => []);
    this.field.placeOf.forEach((place, vertex) => this.verticesOf[place].push(vertex));
    for (const { part, primitive, start } of this.field.spans) {
      const mesh = scene.meshesOf(part).find((one) => one.userData.primitive === primitive);
      if (!mesh) continue;
      // The kit's own arrays are never written to.
      for (const name of ['skinIndex', 'skinWeight'] as const)
        mesh.geometry.setAttribute(name, (mesh.geometry.getAttribute(name) as THREE.BufferAttribute).clone());
      this.shown.push({ mesh, columns: this.field.joints.map((joint) => kit.skins[kit.parts[part].skin!].joints.indexOf(joint)), start });
    }
  }

  get joints(): Id[] {
    return this.field.joints;
  }

  get painted(): SkinField {
    return this.field;
  }

  /**
   * Stamps along the way from the last point, a third of the radius apart.
   * @param eye Unit vector towards the eye, or null to go through.
   */
  to(point: Vec3, settings: BrushSettings, eye: Vec3 | null): void {
    const from = this.last ?? point;
    const length = Math.hypot(...point.map((value, axis) => value - from[axis]));
    const stamps = Math.max(1, Math.ceil(length / (settings.radius / 3)));
    const changed = new Set<number>();
    for (let i = 1; i <= stamps; i++) {
      const at = from.map((value, axis) => value + ((point[axis] - value) * i) / stamps);
      for (const place of this.brush.stamp(at[0], at[1], at[2], settings, eye, this.normals)) changed.add(place);
    }
    this.last = point;
    if (changed.size === 0) return;
    this.changed = true;
    this.show(changed, this.field.joints.indexOf(settings.joint));
  }

  private show(places: Iterable<number>, column: number): void {
    const width = this.field.joints.length;
    const joints = new Uint16Array(4);
    const weights = new Float32Array(4);
    for (const place of places) {
      strongestOfRow(this.field.rows, place * width, width, joints, weights);
      for (const vertex of this.verticesOf[place]) {
        const shown = this.shown.findLast(({ start }) => start <= vertex);
        if (!shown) continue;
        const own = vertex - shown.start;
        const index = shown.mesh.geometry.getAttribute('skinIndex') as THREE.BufferAttribute;
        const weight = shown.mesh.geometry.getAttribute('skinWeight') as THREE.BufferAttribute;
        for (let k = 0; k < 4; k++) {
          const joint = weights[k] > 0 ? shown.columns[joints[k]] : 0;
          (index.array as Uint16Array)[4 * own + k] = Math.max(0, joint);
          (weight.array as Float32Array)[4 * own + k] = weights[k];
        }
        index.needsUpdate = weight.needsUpdate = true;
        HeatLook.paint(shown.mesh, own, this.field.rows[place * width + column], 1);
      }
    }
  }
}
