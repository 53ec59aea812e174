import * as THREE from 'three';
import { jointsOf, type Kit } from '@itchkit/core/document';
import type { Poser } from '@itchkit/core/geometry';
import { roundDot } from './round-dot';

/** Joints as dots with a line to each one's parent, drawn over the meshes; placed by the poser like everything else. */
export class SkeletonLines {
  readonly object = new THREE.Group();
  private readonly material = new THREE.LineBasicMaterial({ depthTest: false, transparent: true });
  private readonly dots = new THREE.PointsMaterial({
    size: 8,
    map: roundDot(),
    sizeAttenuation: false,
    depthTest: false,
    transparent: true,
  });
  private readonly lines = new THREE.LineSegments(new THREE.BufferGeometry(), this.material);
  private readonly points = new THREE.Points(new THREE.BufferGeometry(), this.dots);
  private joints: number[] = [];
  /** Index of a part and of its parent, in turn. */
  private ends: number[] = [];

  constructor() {
    for (const one of [this.lines, this.points]) {
      one.renderOrder = 9;
      one.frustumCulled = false;
      this.object.add(one);
    }
  }

  setColour(colour: string): void {
    this.material.color.set(colour);
    this.dots.color.set(colour);
  }

  /** Takes the joints of a kit, and the tips without a mesh that hang from them. */
  setKit(kit: Kit, poser: Poser): void {
    const joints = jointsOf(kit);
    const { indexOf } = poser.flat;
    this.joints = [...joints].map((id) => indexOf.get(id)!);
    this.ends = Object.values(kit.parts).flatMap(({ id, parent, mesh }) =>
      parent !== null && joints.has(parent) && (joints.has(id) || mesh === null) ? [indexOf.get(id)!, indexOf.get(parent)!] : [],
    );
    this.place(poser);
  }

  place({ world }: Poser): void {
    fill(this.lines.geometry, this.ends, world);
    fill(this.points.geometry, this.joints, world);
  }

  dispose(): void {
    this.lines.geometry.dispose();
    this.points.geometry.dispose();
    this.material.dispose();
    this.dots.dispose();
  }
}

function fill(geometry: THREE.BufferGeometry, parts: number[], world: Float64Array): void {
  let attribute = geometry.getAttribute('position') as THREE.BufferAttribute | undefined;
  if (attribute?.count !== parts.length)
    geometry.setAttribute('position', (attribute = new THREE.BufferAttribute(new Float32Array(3 * parts.length), 3)));
  parts.forEach((part, i) => attribute.setXYZ(i, world[16 * part + 12], world[16 * part + 13], world[16 * part + 14]));
  attribute.needsUpdate = true;
}
