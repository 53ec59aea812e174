import { interpolateRainbow, interpolateViridis } from 'd3-scale-chromatic';
import * as THREE from 'three';
import type { Blobs, Id, Kit } from '@itchkit/core/document';
import { weightSets } from '@itchkit/core/rig';
import type { KitScene } from '../../bench/kit-scene';

/** Colours of the ramp in steps, linear RGB: d3's viridis, which reads the same to all eyes and in grey. */
const RAMP = Float32Array.from({ length: 256 }, (_, i) => i).reduce((out, _, i) => {
  const colour = new THREE.Color(interpolateViridis(i / 255));
  out.set([colour.r, colour.g, colour.b], 3 * i);
  return out;
}, new Float32Array(768));

/** Paints skinned meshes by how much one joint holds each vertex; what no joint holds is hatched. */
export class HeatLook {
  private readonly material: THREE.MeshLambertMaterial;
  private readonly covered = new Map<THREE.Mesh, THREE.Material | THREE.Material[]>();

  constructor(hatch: string) {
    this.material = new THREE.MeshLambertMaterial({ vertexColors: true });
    const colour = new THREE.Color(hatch);
    this.material.onBeforeCompile = (shader) => {
      shader.uniforms.hatch = { value: colour };
      shader.vertexShader = shader.vertexShader
        .replace('#include <common>', '#include <common>\nattribute float unheld;\nvarying float vUnheld;')
        .replace('#include <begin_vertex>', '#include <begin_vertex>\nvUnheld = unheld;')
        // What no joint holds would fall to the origin with a normal of no length: it is shown where it stands at rest.
        .replace('#include <skinnormal_vertex>', '#include <skinnormal_vertex>\nif (unheld > 0.5) objectNormal = vec3(normal);')
        .replace('#include <skinning_vertex>', '#include <skinning_vertex>\nif (unheld > 0.5) transformed = vec3(position);');
      shader.fragmentShader = shader.fragmentShader
        .replace('#include <common>', '#include <common>\nvarying float vUnheld;\nuniform vec3 hatch;')
        .replace(
          '#include <color_fragment>',
          '#include <color_fragment>\nif (vUnheld > 0.5 && mod(gl_FragCoord.x + gl_FragCoord.y, 9.0) < 4.0) diffuseColor.rgb = hatch;',
        );
    };
  }

  /**
   * Paints every skinned mesh by a joint; what is not skinned stays as it is. With no joint each vertex has the colour of the one that
   * holds most of it, the paler the less it does.
   */
  show(scene: KitScene, kit: Kit, blobs: Blobs, joint: Id | null): void {
    this.clear();
    for (const part of Object.values(kit.parts)) {
      if (part.skin === null || part.mesh === null) continue;
      const { joints: held } = kit.skins[part.skin];
      const column = joint === null ? null : held.indexOf(joint);
      for (const mesh of scene.meshesOf(part.id)) {
        const primitive = kit.meshes[part.mesh].primitives[mesh.userData.primitive as number];
        const sets = weightSets(primitive.attributes, blobs);
        const count = primitive.attributes.POSITION.count;
        const colours = new Float32Array(3 * count);
        const unheld = new Float32Array(count);
        for (let v = 0; v < count; v++) {
          let [own, all] = [0, 0];
          const shares = new Map<number, number>();
          for (const { joints, weights } of sets) {
            for (let k = 4 * v; k < 4 * v + 4; k++) {
              all += weights[k];
              if (joints[k] === column) own += weights[k];
              if (column === null && weights[k] > 0) shares.set(joints[k], (shares.get(joints[k]) ?? 0) + weights[k]);
            }
          }
          if (column === null) paintStrongest(colours, unheld, v, shares);
          else paintVertex(colours, unheld, v, own, all);
        }
        const geometry = new THREE.BufferGeometry();
        for (const [name, attribute] of Object.entries(mesh.geometry.attributes)) geometry.setAttribute(name, attribute);
        geometry.setIndex(mesh.geometry.index);
        geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
        geometry.setAttribute('unheld', new THREE.BufferAttribute(unheld, 1));
        mesh.userData.plainGeometry = mesh.geometry;
        mesh.geometry = geometry;
        this.covered.set(mesh, mesh.material);
        mesh.material = this.material;
      }
    }
  }

  /** Paints one vertex of a mesh that is shown. */
  static paint(mesh: THREE.Mesh, vertex: number, own: number, all: number): void {
    const colours = mesh.geometry.getAttribute('color') as THREE.BufferAttribute | undefined;
    const unheld = mesh.geometry.getAttribute('unheld') as THREE.BufferAttribute | undefined;
    if (!colours || !unheld) return;
    paintVertex(colours.array as Float32Array, unheld.array as Float32Array, vertex, own, all);
    colours.needsUpdate = unheld.needsUpdate = true;
  }

  clear(): void {
    for (const [mesh, material] of this.covered) {
      mesh.material = material;
      const painted = mesh.geometry;
      mesh.geometry = mesh.userData.plainGeometry as THREE.BufferGeometry;
      if (painted !== mesh.geometry) painted.dispose();
    }
    this.covered.clear();
  }

  dispose(): void {
    this.clear();
    this.material.dispose();
  }
}

/** The golden section of a turn: hues that far apart are told apart however many there are. */
const GOLDEN = 0.381966;

/** A colour for each joint, by its place in the skin, from d3's cyclical rainbow. */
const jointColour = (joint: number): string => interpolateRainbow((joint * GOLDEN) % 1);

const PALE = new THREE.Color('#e8e2d4');

function paintStrongest(colours: Float32Array, unheld: Float32Array, v: number, shares: ReadonlyMap<number, number>): void {
  let [strongest, most, all] = [-1, 0, 0];
  for (const [joint, share] of shares) {
    all += share;
    if (share > most || (share === most && joint < strongest)) [strongest, most] = [joint, share];
  }
  unheld[v] = all > 1e-6 ? 0 : 1;
  if (strongest < 0) return;
  const colour = PALE.clone().lerp(new THREE.Color(jointColour(strongest)), most / all);
  colours.set([colour.r, colour.g, colour.b], 3 * v);
}

function paintVertex(colours: Float32Array, unheld: Float32Array, v: number, own: number, all: number): void {
  const step = 3 * Math.round(255 * Math.min(1, Math.max(0, own)));
  colours[3 * v] = RAMP[step];
  colours[3 * v + 1] = RAMP[step + 1];
  colours[3 * v + 2] = RAMP[step + 2];
  unheld[v] = all > 1e-6 ? 0 : 1;
}
