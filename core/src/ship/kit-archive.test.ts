import Ajv from 'ajv';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { checkKit, emptyKit, KIT_FORMAT, KitFormatError, kitJsonSchema, migrateKit, type Kit } from '../document';
import { made } from '../tests/calls';
import { oddKit } from '../tests/odd-kits';
import fc from 'fast-check';
import { isArchive, readArchiveOf, writeArchive } from './kit-archive';

const written = () => {
  const { kit, blobs } = made();
  return { kit, blobs, bytes: writeArchive({ kit, rulebooks: [], history: [] }, blobs) };
};

test('any kit is the same after it was written and read, with its blobs, and is written with the same bytes again', () => {
  fc.assert(
    fc.property(oddKit, ({ kit, blobs }) => {
      const bytes = writeArchive({ kit, rulebooks: [], history: [] }, blobs);
      const { archive, blobs: own } = readArchiveOf(bytes, 'a.kit.zip');
      // As JSON: a document has no negative zero and no field of nothing.
      expect(archive.kit).toEqual(JSON.parse(JSON.stringify(kit)));
      for (const [sha, data] of own.entries()) expect(data).toEqual(blobs.get(sha));
      expect(writeArchive(archive, own)).toEqual(bytes);
    }),
    { numRuns: 40 },
  );
});

test('an archive is told from a ZIP of a model by its list of contents, whatever lies in front', () => {
  expect(isArchive(written().bytes)).toBe(true);
  expect(isArchive(zipSync({ 'kit.json': strToU8('{}') }))).toBe(false);
  expect(isArchive(zipSync({ 'a.obj': strToU8('archive.json kit.json') }))).toBe(false);
  expect(isArchive(strToU8('archive.json kit.json'))).toBe(false);
});

const changed = (change: (files: Record<string, Uint8Array>) => void) => {
  const files = unzipSync(written().bytes);
  change(files);
  return zipSync(files);
};
const kitIn = (files: Record<string, Uint8Array>, change: (kit: Kit) => void) => {
  const kit = JSON.parse(strFromU8(files['kit.json'])) as Kit;
  change(kit);
  files['kit.json'] = strToU8(JSON.stringify(kit));
};

test.each<[string, (files: Record<string, Uint8Array>) => void, RegExp]>([
  ['of another version', (files) => (files['archive.json'] = strToU8('{"format":"itchkit.archive/9","history":[]}')), /format/],
  [
    'whose document is of a version to come',
    (files) => kitIn(files, (kit) => Object.assign(kit, { format: 'itchkit.kit/99' })),
    /itchkit\.kit\/99/,
  ],
  ['without its document’s text', (files) => (files['kit.json'] = strToU8('{"format":')), /not JSON/],
  [
    'with a data block that is not what its name says',
    (files) => (files[Object.keys(files).find((path) => path.startsWith('blobs/'))!] = new Uint8Array(3)),
    /not those of its name/,
  ],
  ['with a data block left out', (files) => void delete files[Object.keys(files).find((path) => path.startsWith('blobs/'))!], /is missing/],
  ['that leaves its folder', (files) => (files['../../etc/cron'] = new Uint8Array(1)), /would leave the archive/],
  ['whose part hangs below itself', (files) => kitIn(files, (kit) => (kit.parts.a.parent = 'a')), /below itself/],
  [
    'with more rows than bytes',
    (files) => kitIn(files, (kit) => (kit.meshes.mesh_a.primitives[0].attributes.POSITION.count = 4e9)),
    /rows/,
  ],
  ['with a text that can’t be kept', (files) => kitIn(files, (kit) => (kit.name = 'a\u0000')), /can’t be kept/],
  [
    'with a list of revisions out of order',
    (files) =>
      (files['archive.json'] = strToU8(
        JSON.stringify({
          format: 'itchkit.archive/1',
          history: [2, 1].map((number) => ({ number, cause: '', at: '2026-01-01T00:00:00Z', name: null })),
        }),
      )),
    /not in order/,
  ],
])('an archive %s is refused in a sentence', (_, change, sentence) => {
  expect(() => readArchiveOf(changed(change), 'crane.kit.zip')).toThrow(sentence);
});

test('bytes changed at random are refused in a sentence, or are a kit that holds together', () => {
  const { bytes } = written();
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 }), (spots) => {
      const spoilt = bytes.slice();
      for (const [at, value] of spots) spoilt[at] = value;
      try {
        checkKit(readArchiveOf(spoilt, 'crane.kit.zip').archive.kit);
      } catch (error) {
        expect((error as { code?: string }).code).toMatch(/^[a-z-]+$/);
      }
    }),
    { numRuns: 300 },
  );
});

describe('documents of older versions', () => {
  const folder = join(__dirname, '../tests/kits');

  test('one of every version that was ever written is here, and opens', () => {
    const files = readdirSync(folder);
    expect(files).toContain(`${KIT_FORMAT.replace('/', '-')}.json`);
    for (const file of files) {
      const kit = checkKit(migrateKit(JSON.parse(readFileSync(join(folder, file), 'utf8'))));
      expect([kit.format, Object.keys(kit.parts).length > 0]).toEqual([KIT_FORMAT, true]);
    }
  });

  test('go through each version up to this one, and the one given stays as it is', () => {
    const ways = [
      { from: 'k/1', to: 'k/2', migrate: (kit: Record<string, unknown>) => ({ ...kit, seen: ['one'] }) },
      { from: 'k/2', to: 'k/3', migrate: (kit: Record<string, unknown>) => ((kit.seen as string[]).push('two'), kit) },
    ];
    const old = { format: 'k/1' };
    expect(migrateKit(old, ways, 'k/3')).toEqual({ format: 'k/3', seen: ['one', 'two'] });
    expect(old).toEqual({ format: 'k/1' });
    for (const stranger of [{ format: 'k/9' }, {}, null, 7]) expect(() => migrateKit(stranger, ways, 'k/3')).toThrow(KitFormatError);
  });

  test('this one needs nothing', () => {
    const kit = emptyKit('A');
    expect(migrateKit(kit)).toBe(kit);
  });
});

test('the JSON Schema in docs is the schema that reads, and a second validator takes what that takes', () => {
  const docs = JSON.parse(readFileSync(join(__dirname, '../../../docs/kit.schema.json'), 'utf8')) as object;
  // `npm run docs` writes it.
  expect(docs).toEqual(JSON.parse(JSON.stringify(kitJsonSchema())));
  const validate = new Ajv({ schemaId: 'auto' } as never).compile(docs);
  const { kit } = made();
  const plain = JSON.parse(JSON.stringify(kit)) as Kit;
  expect([validate(plain), validate.errors]).toEqual([true, null]);
  for (const spoil of [
    (one: Kit) => Object.assign(one.parts.a, { translation: [0, 1] }),
    (one: Kit) => Object.assign(one.parts.a, { colour: 'red' }),
    (one: Kit) => Object.assign(one, { format: 'itchkit.kit/2' }),
    (one: Kit) => Object.assign(one.meshes.mesh_a.primitives[0].indices, { type: 'f64' }),
  ]) {
    const wrong = structuredClone(plain);
    spoil(wrong);
    expect(validate(wrong)).toBe(false);
  }
});
