import { encode } from 'fast-png';
import { MemoryBlobs, type Kit, type Material } from '../document';
import { readFile } from './read-file';

const PNG = encode({ width: 2, height: 1, data: Uint8Array.of(255, 0, 0, 255, 0, 255, 0, 255), channels: 4, depth: 8 });

interface Effect {
  shading: string;
  /** What stands in the profile before the technique. */
  params?: string;
  /** What stands in the technique after the shading. */
  extra?: string;
  images?: string;
}

/** One triangle in one material. */
const file = ({ shading, params = '', extra = '', images = '' }: Effect) => `<?xml version="1.0"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><unit meter="1"/><up_axis>Y_UP</up_axis></asset>
<library_images>${images}</library_images>
<library_materials><material id="m" name="hull"><instance_effect url="#e"/></material></library_materials>
<library_effects><effect id="e"><profile_COMMON>${params}<technique sid="t">${shading}${extra}</technique></profile_COMMON></effect></library_effects>
<library_geometries><geometry id="g"><mesh><source id="p"><float_array id="pa" count="9">0 0 0 1 0 0 0 1 0</float_array><technique_common>
<accessor source="#pa" count="3" stride="3"/></technique_common></source><vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
<triangles count="1" material="s"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles></mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="sc"><node id="n"><instance_geometry url="#g"><bind_material><technique_common>
<instance_material symbol="s" target="#m"/></technique_common></bind_material></instance_geometry></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#sc"/></scene></COLLADA>`;

async function read(effect: Effect, pictures: Record<string, Uint8Array> = {}): Promise<{ kit: Kit; material: Material }> {
  const kit = await readFile(new TextEncoder().encode(file(effect)), 'hull.dae', new MemoryBlobs(), (name) => pictures[name]);
  expect(Object.keys(kit.materials)).toHaveLength(1);
  return { kit, material: Object.values(kit.materials)[0] };
}

const color = (name: string, ...values: number[]) => `<${name}><color>${values.join(' ')}</color></${name}>`;
const float = (name: string, value: number) => `<${name}><float>${value}</float></${name}>`;
const phong = (inner: string) => ({ shading: `<phong>${inner}</phong>` });

test('colours as they look become linear ones; the name stays', async () => {
  const { material } = await read(phong(color('emission', 1, 0, 0.5, 1) + color('diffuse', 0.5, 0.25, 1, 1)));
  expect(material.name).toBe('hull');
  // IEC 61966-2-1: 0.5 is 0.2140 in linear light, 0.25 is 0.0509.
  [0.21404, 0.05088, 1, 1].forEach((value, i) => expect(material.baseColor[i]).toBeCloseTo(value, 4));
  [1, 0, 0.21404].forEach((value, i) => expect(material.emissive[i]).toBeCloseTo(value, 4));
  expect(material.alphaMode).toBe('OPAQUE');
});

test('what only glows (constant) shows its emission as its colour', async () => {
  const { material } = await read({ shading: `<constant>${color('emission', 1, 1, 0, 1)}</constant>` });
  expect(material.baseColor).toEqual([1, 1, 0, 1]);
  expect(material.emissive).toEqual([0, 0, 0]);
});

test.each([
  [0, 1],
  [2, 0.7071],
  [30, 0.25],
  [126, 0.125],
  [0.5, 0.1741],
])('shininess %d is roughness %d', async (shine, roughness) => {
  const { material } = await read(phong(color('diffuse', 1, 1, 1, 1) + float('shininess', shine)));
  expect(material.roughness).toBeCloseTo(roughness, 3);
});

const see = (opaque: string, rgba: number[], amount: number) =>
  `<transparent${opaque && ` opaque="${opaque}"`}><color>${rgba.join(' ')}</color></transparent>${float('transparency', amount)}`;

test.each([
  ['', [0, 0, 0, 1], 1, 1],
  ['A_ONE', [0, 0, 0, 0.5], 0.5, 0.25],
  ['A_ZERO', [0, 0, 0, 0.25], 1, 0.75],
  ['RGB_ZERO', [0.5, 0.5, 0.5, 1], 0.5, 0.75],
  // Green is most of what is seen, blue the least.
  ['RGB_ZERO', [0, 1, 0, 1], 0.5, 0.64242],
  ['RGB_ONE', [0, 0, 1, 1], 1, 0.072169],
  // Everything at 0 is what writers put who mean opaque.
  ['A_ONE', [0, 0, 0, 0], 0, 1],
  ['RGB_ZERO', [1, 1, 1, 1], 1, 1],
] as const)('transparency %s of %j by %d is an alpha of %d', async (opaque, rgba, amount, alpha) => {
  const { material } = await read(phong(color('diffuse', 1, 1, 1, 1) + see(opaque, [...rgba], amount)));
  expect(material.baseColor[3]).toBeCloseTo(alpha, 5);
  expect(material.alphaMode).toBe(alpha < 1 ? 'BLEND' : 'OPAQUE');
});

test('both sides are drawn where an extra says so', async () => {
  const twoSided = '<extra><technique profile="X"><double_sided>1</double_sided></technique></extra>';
  expect((await read({ ...phong(''), extra: twoSided })).material.doubleSided).toBe(true);
  expect((await read({ ...phong(''), extra: twoSided.replace('>1<', '>0<') })).material.doubleSided).toBe(false);
});

const image = (path: string) => `<image id="i"><init_from>${path}</init_from></image>`;
const chain = `<newparam sid="sur"><surface type="2D"><init_from>i</init_from></surface></newparam>
<newparam sid="sam"><sampler2D><source>sur</source></sampler2D></newparam>`;
const textured = (texture: string) => phong(`<diffuse><texture texture="${texture}" texcoord="UV"/></diffuse>`);

test.each([
  ['by its sampler and surface', { ...textured('sam'), params: chain }],
  ['by its own name', textured('i')],
])('a picture that is named %s is the colour, and no tint is on it', async (_, effect) => {
  const { kit, material } = await read({ ...effect, images: image('pictures/hull%20red.png') }, { 'hull red.png': PNG });
  expect(Object.values(kit.images).map(({ name, width, height }) => [name, width, height])).toEqual([['hull red', 2, 1]]);
  expect(material.baseColorTexture!.image).toBe(Object.keys(kit.images)[0]);
  expect(material.baseColor).toEqual([1, 1, 1, 1]);
});

test('one picture that two slots read is one picture', async () => {
  const two = phong('<emission><texture texture="i"/></emission><diffuse><texture texture="i"/></diffuse>');
  const bump = '<extra><technique profile="X"><bump><texture texture="i"/></bump></technique></extra>';
  const { kit, material } = await read({ ...two, extra: bump, images: image('hull.png') }, { 'hull.png': PNG });
  const [id] = Object.keys(kit.images);
  expect(Object.keys(kit.images)).toHaveLength(1);
  expect([material.baseColorTexture, material.emissiveTexture, material.normalTexture].map((slot) => slot?.image)).toEqual([id, id, id]);
  expect(material.emissive).toEqual([1, 1, 1]);
});

test.each([
  ['is not there', {}, 'not with the model'],
  ['is none', { 'hull.png': new TextEncoder().encode('a letter') }, 'no PNG, JPEG or WebP'],
])('a picture that %s is told, and the model comes without it', async (_, pictures, says) => {
  const { kit, material } = await read({ ...textured('i'), images: image('hull.png') }, pictures as Record<string, Uint8Array>);
  expect(material.baseColorTexture).toBeNull();
  expect(JSON.stringify(kit.source)).toContain(`the picture “hull.png”, which is ${says}`);
});

test('a texture that the file does not describe is told by its name', async () => {
  const { kit, material } = await read(textured('nowhere'));
  expect(material.baseColorTexture).toBeNull();
  expect(JSON.stringify(kit.source)).toContain('the texture “nowhere”, which the file does not describe');
});
