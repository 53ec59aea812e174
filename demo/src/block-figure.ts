import { Document, WebIO, type Material, type Node } from '@gltf-transform/core';
import { box, move } from './solid';

type Point = [number, number, number];

/** A box that hangs on a pivot; all in metres where it stands. */
export interface Block {
  name: string;
  parent: string | null;
  pivot: Point;
  /** Lower and upper corner; absent for a part without a shape. */
  from?: Point;
  to?: Point;
  paint?: string;
}

/** Turns of a block over time, degrees about its x, y and z in the order x · y · z, and offsets in metres. */
export interface BlockMotion {
  block: string;
  turns?: Point[];
  offsets?: Point[];
}

interface Take {
  name: string;
  rate: number;
  motions: BlockMotion[];
}

function quatOf([x, y, z]: Point): [number, number, number, number] {
  const half = [x, y, z].map((degrees) => (degrees * Math.PI) / 360);
  const [sx, sy, sz] = half.map(Math.sin);
  const [cx, cy, cz] = half.map(Math.cos);
  return [sx * cy * cz + cx * sy * sz, cx * sy * cz - sx * cy * sz, cx * cy * sz + sx * sy * cz, cx * cy * cz - sx * sy * sz];
}

/** A figure of boxes as a GLB, with a take of motion sampled frame by frame, if there is one. */
export async function blockFigureGlb(
  title: string,
  blocks: readonly Block[],
  paints: Record<string, { colour: [number, number, number]; glow?: number; picture?: Uint8Array }>,
  take?: Take,
): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene(title);
  document.getRoot().setDefaultScene(scene);
  const materials: Record<string, Material> = {};
  for (const [name, { colour, glow = 0, picture }] of Object.entries(paints)) {
    const material = document
      .createMaterial(name)
      .setBaseColorFactor([...colour, 1])
      .setEmissiveFactor(colour.map((value) => value * glow) as Point)
      .setMetallicFactor(0)
      .setRoughnessFactor(0.75);
    if (picture) material.setBaseColorTexture(document.createTexture(name).setImage(picture).setMimeType('image/png'));
    materials[name] = material;
  }
  const accessor = (numbers: number[], type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR') =>
    document.createAccessor().setType(type).setArray(Float32Array.from(numbers)).setBuffer(buffer);
  const nodes = new Map<string, Node>();
  const pivots = new Map<string, Point>();
  for (const { name, parent, pivot, from, to, paint } of blocks) {
    const above = parent === null ? [0, 0, 0] : pivots.get(parent)!;
    const node = document.createNode(name).setTranslation(pivot.map((value, axis) => value - above[axis]) as Point);
    if (from && to) {
      const size = from.map((value, axis) => to[axis] - value);
      const middle = from.map((value, axis) => (value + to[axis]) / 2 - pivot[axis]) as Point;
      const solid = move(box(size[0], size[1], size[2]), middle);
      const primitive = document
        .createPrimitive()
        .setAttribute('POSITION', accessor(solid.positions, 'VEC3'))
        .setAttribute('NORMAL', accessor(solid.normals, 'VEC3'))
        .setAttribute('TEXCOORD_0', accessor(solid.uvs, 'VEC2'))
        .setIndices(document.createAccessor().setType('SCALAR').setArray(Uint16Array.from(solid.indices)).setBuffer(buffer))
        .setMaterial(materials[paint ?? Object.keys(paints)[0]]);
      node.setMesh(document.createMesh(name).addPrimitive(primitive));
    }
    nodes.set(name, node);
    pivots.set(name, pivot);
    if (parent === null) scene.addChild(node);
    else nodes.get(parent)!.addChild(node);
  }
  if (take) {
    const animation = document.createAnimation(take.name);
    for (const { block, turns, offsets } of take.motions) {
      const node = nodes.get(block)!;
      const add = (path: 'rotation' | 'translation', rows: number[][]) => {
        const times = accessor(
          rows.map((_, i) => i / take.rate),
          'SCALAR',
        );
        const sampler = document
          .createAnimationSampler()
          .setInput(times)
          .setOutput(accessor(rows.flat(), path === 'rotation' ? 'VEC4' : 'VEC3'))
          .setInterpolation('LINEAR');
        animation
          .addSampler(sampler)
          .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
      };
      if (turns) add('rotation', turns.map(quatOf));
      const rest = node.getTranslation();
      if (offsets)
        add(
          'translation',
          offsets.map((offset) => offset.map((value, axis) => value + rest[axis])),
        );
    }
  }
  return new WebIO().writeBinary(document);
}
