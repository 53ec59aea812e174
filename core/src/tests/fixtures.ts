/** Small files of our own, made by code: a tail of two joints that bends and swells, in several formats. */
import { Document, WebIO } from '@gltf-transform/core';
import { KHRDracoMeshCompression, KHRONOS_EXTENSIONS } from '@gltf-transform/extensions';
import draco3d from 'draco3d';

/** Four square rings along y with their own weights, closed by nothing: 16 vertices, 24 triangles. */
export function tailMesh(): { positions: number[]; normals: number[]; indices: number[]; joints: number[]; weights: number[] } {
  const positions: number[] = [];
  const normals: number[] = [];
  const joints: number[] = [];
  const weights: number[] = [];
  const indices: number[] = [];
  for (let ring = 0; ring < 4; ring++) {
    [
      [1, 1],
      [-1, 1],
      [-1, -1],
      [1, -1],
    ].forEach(([x, z]) => {
      positions.push(0.1 * x, 0.5 * ring, 0.1 * z);
      normals.push(x * Math.SQRT1_2, 0, z * Math.SQRT1_2);
      joints.push(0, 1, 0, 0);
      weights.push(1 - ring / 3, ring / 3, 0, 0);
    });
    if (ring === 3) continue;
    for (let side = 0; side < 4; side++) {
      const a = 4 * ring + side;
      const b = 4 * ring + ((side + 1) % 4);
      indices.push(a, b, b + 4, a, b + 4, a + 4);
    }
  }
  return { positions, normals, indices, joints, weights };
}

/** The tail at rest, its triangles packed by Draco. */
export async function tailDraco(): Promise<Uint8Array> {
  const document = tailDocument();
  const [mesh] = document.getRoot().listMeshes();
  for (const target of mesh.listPrimitives()[0].listTargets()) target.dispose();
  mesh.setWeights([]);
  for (const channel of document.getRoot().listAnimations()[0].listChannels()) if (channel.getTargetPath() === 'weights') channel.dispose();
  document.createExtension(KHRDracoMeshCompression).setRequired(true);
  const io = new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule() });
  return io.writeBinary(document);
}

/** The tail as glTF: skin, one morph target, a clip with rotation, offset and morph weights, a second clip that steps. */
export function tailDocument(): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const tail = tailMesh();
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4', array: Float32Array | Uint16Array | Uint8Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from(tail.positions)))
    .setAttribute('NORMAL', accessor('VEC3', Float32Array.from(tail.normals)))
    .setAttribute('JOINTS_0', accessor('VEC4', Uint8Array.from(tail.joints)))
    .setAttribute('WEIGHTS_0', accessor('VEC4', Float32Array.from(tail.weights)))
    .setIndices(accessor('SCALAR', Uint16Array.from(tail.indices)));
  const swell = tail.positions.map((value, i) => (i % 3 === 1 ? 0 : value));
  primitive.addTarget(document.createPrimitiveTarget('swell').setAttribute('POSITION', accessor('VEC3', Float32Array.from(swell))));
  const mesh = document
    .createMesh('tail')
    .addPrimitive(primitive)
    .setWeights([0.25])
    .setExtras({ targetNames: ['swell'] });
  const tip = document.createNode('tip').setTranslation([0, 0.75, 0]);
  const root = document.createNode('root').setTranslation([0, 0.1, 0]).addChild(tip);
  const binds = Float32Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -0.1, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -0.85, 0, 1]);
  const skin = document.createSkin('tail').addJoint(root).addJoint(tip).setInverseBindMatrices(accessor('MAT4', binds));
  const body = document.createNode('body').setMesh(mesh).setSkin(skin);
  document.createScene('pool').addChild(root).addChild(body);

  const times = accessor('SCALAR', Float32Array.from([0, 0.5, 1]));
  const turn = (degrees: number) => [Math.sin((degrees * Math.PI) / 360), 0, 0, Math.cos((degrees * Math.PI) / 360)];
  const animation = document.createAnimation('wag');
  const add = (
    node: typeof tip,
    path: 'rotation' | 'translation' | 'weights',
    values: number[],
    mode: 'LINEAR' | 'STEP' = 'LINEAR',
    to = animation,
  ) => {
    const sampler = document
      .createAnimationSampler()
      .setInput(times)
      .setOutput(accessor(({ rotation: 'VEC4', translation: 'VEC3', weights: 'SCALAR' } as const)[path], Float32Array.from(values)))
      .setInterpolation(mode);
    to.addSampler(sampler).addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
  };
  add(tip, 'rotation', [...turn(0), ...turn(60), ...turn(0)]);
  add(root, 'translation', [0, 0.1, 0, 0, 0.3, 0.2, 0, 0.1, 0]);
  add(body, 'weights', [0, 1, 0.25]);
  add(root, 'translation', [0, 0.1, 0, 0, 0.6, 0, 0, 0.1, 0], 'STEP', document.createAnimation('hop'));
  return document;
}

export const tailGlb = () => new WebIO().registerExtensions(KHRONOS_EXTENSIONS).writeBinary(tailDocument());

/** The tail as COLLADA, z up, in centimetres; bind shape and joints are those of the glTF turned over. */
export function tailCollada(): string {
  const tail = tailMesh();
  const swap = (v: number[], factor: number) => v.map((_, i) => factor * [v[i], -v[i + 1], v[i - 1]][i % 3]);
  const source = (id: string, values: number[], stride: number) =>
    `<source id="${id}"><float_array id="${id}-array" count="${values.length}">${values.join(' ')}</float_array><technique_common><accessor source="#${id}-array" count="${values.length / stride}" stride="${stride}"/></technique_common></source>`;
  const names = (id: string, values: string[]) =>
    `<source id="${id}"><Name_array id="${id}-array" count="${values.length}">${values.join(' ')}</Name_array><technique_common><accessor source="#${id}-array" count="${values.length}" stride="1"/></technique_common></source>`;
  const weights = [0, 1 / 3, 2 / 3, 1];
  const v = Array.from({ length: 16 }, (_, i) => `0 ${3 - Math.floor(i / 4)} 1 ${Math.floor(i / 4)}`).join(' ');
  const faces = tail.indices.map((i) => `${i} ${i}`).join(' ');
  return `<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><contributor><authoring_tool>Tallow Point workshop</authoring_tool></contributor><unit name="centimeter" meter="0.01"/><up_axis>Z_UP</up_axis></asset>
<library_effects><effect id="skin-fx"><profile_COMMON><technique sid="common"><phong><diffuse><color>0.5 0.25 0.75 1</color></diffuse><transparent opaque="A_ONE"><color>1 1 1 0.5</color></transparent></phong></technique></profile_COMMON></effect></library_effects>
<library_materials><material id="skin-mat" name="hide"><instance_effect url="#skin-fx"/></material></library_materials>
<library_geometries><geometry id="tail-geo" name="tail"><mesh>${source('pos', swap(tail.positions, 100), 3)}${source('nor', swap(tail.normals, 1), 3)}
<vertices id="verts"><input semantic="POSITION" source="#pos"/></vertices>
<triangles material="HIDE" count="24"><input semantic="VERTEX" source="#verts" offset="0"/><input semantic="NORMAL" source="#nor" offset="1"/><p>${faces}</p></triangles></mesh></geometry></library_geometries>
<library_controllers><controller id="tail-skin" name="tail skin"><skin source="#tail-geo"><bind_shape_matrix>1 0 0 0 0 1 0 0 0 0 1 0 0 0 0 1</bind_shape_matrix>
${names('skin-joints', ['Root', 'Tip'])}${source('skin-binds', [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, -10, 0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, -85, 0, 0, 0, 1], 16)}${source('skin-weights', weights, 1)}
<joints><input semantic="JOINT" source="#skin-joints"/><input semantic="INV_BIND_MATRIX" source="#skin-binds"/></joints>
<vertex_weights count="16"><input semantic="JOINT" source="#skin-joints" offset="0"/><input semantic="WEIGHT" source="#skin-weights" offset="1"/><vcount>${'2 '.repeat(16)}</vcount><v>${v}</v></vertex_weights>
</skin></controller></library_controllers>
<library_animations><animation name="wag">
${source('rot-in', [0, 0.5, 1], 1)}${source('rot-out', [0, 60, 0], 1)}${names('rot-mode', ['LINEAR', 'LINEAR', 'LINEAR'])}
<sampler id="rot-sampler"><input semantic="INPUT" source="#rot-in"/><input semantic="OUTPUT" source="#rot-out"/><input semantic="INTERPOLATION" source="#rot-mode"/></sampler><channel source="#rot-sampler" target="tip/rotX.ANGLE"/>
${source('loc-in', [0, 0.5, 1], 1)}${source('loc-out', [0, 0, 10, 0, -20, 30, 0, 0, 10], 3)}${names('loc-mode', ['LINEAR', 'LINEAR', 'LINEAR'])}
<sampler id="loc-sampler"><input semantic="INPUT" source="#loc-in"/><input semantic="OUTPUT" source="#loc-out"/><input semantic="INTERPOLATION" source="#loc-mode"/></sampler><channel source="#loc-sampler" target="root/loc"/>
</animation></library_animations>
<library_visual_scenes><visual_scene id="pool"><node id="root" sid="Root" name="root" type="JOINT"><translate sid="loc">0 0 10</translate>
<node id="tip" sid="Tip" name="tip" type="JOINT"><translate sid="loc">0 0 75</translate><rotate sid="rotX">1 0 0 0</rotate></node></node>
<node id="body" name="body"><instance_controller url="#tail-skin"><skeleton>#root</skeleton><bind_material><technique_common><instance_material symbol="HIDE" target="#skin-mat"/></technique_common></bind_material></instance_controller></node>
</visual_scene></library_visual_scenes><scene><instance_visual_scene url="#pool"/></scene></COLLADA>`;
}

export const WALKER_BVH = `HIERARCHY
ROOT Hip
{
  OFFSET 0.0 90.0 0.0
  CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation
  JOINT Left Knee
  {
    OFFSET 9.5 -42.0 1.0
    CHANNELS 3 Zrotation Yrotation Xrotation
    End Site
    {
      OFFSET 0.0 -40.0 0.0
    }
  }
  JOINT Chest
  {
    OFFSET 0.0 30.0 -2.5
    CHANNELS 3 Yrotation Xrotation Zrotation
    End Site
    {
      OFFSET 0.0 25.0 0.0
    }
  }
}
MOTION
Frames: 4
Frame Time: 0.0333333
0 0 0 0 0 0 0 0 0 0 0 0
1.5 2 -3 10 20 30 5 -15 40 12 0 -7
3 1.2 -6 20 10 60 10 -30 80 24 3 -14
4.5 0 -9 0 -10 90 15 -45 120 36 6 -21
`;

/** A patch of sailcloth as OBJ, its middle lifted by a wave: 9 vertices, 8 triangles. */
export function sailFrame(phase: number): string {
  const lines = ['o sail'];
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++) lines.push(`v ${column} ${(0.3 * Math.sin(phase + row + column)).toFixed(6)} ${row}`);
  for (let row = 0; row < 2; row++) {
    for (let column = 0; column < 2; column++) {
      const a = 3 * row + column + 1;
      lines.push(`f ${a} ${a + 3} ${a + 4} ${a + 1}`);
    }
  }
  return lines.join('\n');
}
