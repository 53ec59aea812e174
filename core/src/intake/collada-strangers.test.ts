import { MemoryBlobs, readArray, type Kit } from '../document';
import { kitBounds } from '../geometry';
import { tailCollada } from '../tests/fixtures';
import { IntakeError } from './intake-error';
import { readFile } from './read-file';

const read = async (text: string) => {
  const blobs = new MemoryBlobs();
  return { kit: await readFile(new TextEncoder().encode(text), 'stranger.dae', blobs), blobs };
};
const source = (id: string, values: number[], stride: number) =>
  `<source id="${id}"><float_array id="${id}-a" count="${values.length}">${values.join(' ')}</float_array><technique_common><accessor source="#${id}-a" count="${values.length / stride}" stride="${stride}"/></technique_common></source>`;

/** One triangle with two sets of UVs, each with an offset of its own. */
const triangle = (inputs: string, p: string) => `<?xml version="1.0"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><unit meter="1"/><up_axis>Y_UP</up_axis></asset>
<library_geometries><geometry id="g" name="sail"><mesh>
${source('pos', [0, 0, 0, 1, 0, 0, 0, 1, 0], 3)}${source('uvA', [0, 0, 1, 0, 0, 1], 2)}${source('uvB', [0.5, 0.25, 0.75, 0.125], 2)}
<vertices id="v"><input semantic="POSITION" source="#pos"/></vertices>
<triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/>${inputs}<p>${p}</p></triangles></mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="s"><node id="n" name="sail"><instance_geometry url="#g"/></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#s"/></scene></COLLADA>`;

const attributesOf = (kit: Kit) => Object.values(kit.meshes)[0].primitives[0].attributes;
const rounded = (values: ArrayLike<number>) => Array.from(values, (value) => Number(value.toFixed(6)));

test.each([
  [
    'in the order of their numbers',
    '<input semantic="TEXCOORD" source="#uvA" offset="1" set="0"/><input semantic="TEXCOORD" source="#uvB" offset="2" set="1"/>',
  ],
  [
    'numbered the other way round',
    '<input semantic="TEXCOORD" source="#uvB" offset="2" set="7"/><input semantic="TEXCOORD" source="#uvA" offset="1" set="3"/>',
  ],
])('two sets of UVs with offsets of their own are both read, %s', async (_, inputs) => {
  const { kit, blobs } = await read(triangle(inputs, '0 0 1 1 1 0 2 2 1'));
  const { POSITION, TEXCOORD_0, TEXCOORD_1 } = attributesOf(kit);
  expect(rounded(readArray(blobs, POSITION))).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0]);
  expect(rounded(readArray(blobs, TEXCOORD_0))).toEqual([0, 1, 1, 1, 0, 0]);
  expect(rounded(readArray(blobs, TEXCOORD_1))).toEqual([0.75, 0.875, 0.5, 0.75, 0.75, 0.875]);
});

test('inputs that are not read still take their place in every corner', async () => {
  const { kit, blobs } = await read(triangle('<input semantic="COLOR" source="#uvA" offset="1"/>', '0 9 1 9 2 9'));
  expect(rounded(readArray(blobs, attributesOf(kit).POSITION))).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0]);
});

test('a file whose numbers have decimal commas is the same model as with points', async () => {
  const plain = tailCollada();
  // Only numbers: not addresses, names or versions.
  const commas = plain
    .replace(
      /(<(?:float_array|translate|rotate|bind_shape_matrix|color)[^>]*>)([^<]*)/g,
      (_, tag: string, text: string) => tag + text.replaceAll('.', ','),
    )
    .replace('meter="0.01"', 'meter="0,01"');
  expect(commas).not.toBe(plain);
  const [a, b] = [await read(plain), await read(commas)];
  expect(b.kit.source!.space).toEqual(a.kit.source!.space);
  expect(kitBounds(b.kit, b.blobs)).toEqual(kitBounds(a.kit, a.blobs));
  expect(b.kit.source!.counts).toEqual(a.kit.source!.counts);
  expect(b.kit.source!.notes.map(({ code }) => code)).toContain('decimal-commas');
  expect(a.kit.source!.notes.map(({ code }) => code)).not.toContain('decimal-commas');
});

test('a model of which nothing could be kept is refused, with what was lost', async () => {
  const lost = triangle('', '0 1 2').replaceAll(
    /<float_array id="pos-a"[^>]*>[^<]*/g,
    '<float_array id="pos-a" count="9">x x x x x x x x x',
  );
  const refusal = read(lost);
  await expect(refusal).rejects.toThrow(IntakeError);
  await expect(refusal).rejects.toMatchObject({
    code: 'nothing-kept',
    message: expect.stringMatching(/holds nothing that could be kept\. .*no number/),
  });
});
