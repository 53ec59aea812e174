import { encode } from 'fast-png';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import type { MemoryBlobs } from '../document';
import { newMaterial, putArray, type Kit } from '../document';
import { quatFromTurn } from '../geometry';
import { mendAllSafe } from '../mend-all';
import { chainKit, extentOf, greatestDifference, run, worldVertices } from '../tests/helpers';
import { checkRulebook, RulebookError } from './schema';
import { countGrades, runChecks } from './run-checks';
import { CHECKS } from './checks';
import type { Finding, Rulebook } from './types';

const rulebook = checkRulebook(brinework);

/** A kit that owes Brinework nothing. */
function sound(): { kit: Kit; blobs: MemoryBlobs } {
  const made = chainKit([
    { id: 'base', role: 'base' },
    { id: 'drv_slew', role: 'driven', translation: [0, 1, 0] },
    { id: 'hook', translation: [0, 0.6, 0], rotation: quatFromTurn([0, 30, 0], 'xyz') },
  ]);
  made.kit.bindings.x = {
    id: 'x',
    variable: 'crane_slew_angle',
    index: 1,
    part: 'drv_slew',
    outside: 'clamp',
    rows: [0, -170, 170].map((value) => ({ value, offset: [0, 0, 0], turn: [0, value, 0], size: [1, 1, 1] })),
  };
  return made;
}

const check = (kit: Kit, blobs: MemoryBlobs, book: Rulebook = rulebook) => runChecks({ kit, rulebook: book, blobs });

function putImage(kit: Kit, blobs: MemoryBlobs, width: number, height: number): void {
  const bytes = encode({ width, height, channels: 3, depth: 8, data: new Uint8Array(width * height * 3).fill(90) });
  kit.images.img = { id: 'img', name: 'planks', mediaType: 'image/png', blob: blobs.put(bytes), bytes: bytes.length, width, height };
  kit.materials.mat = newMaterial({ id: 'mat', name: 'wood', baseColorTexture: { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 } });
  kit.meshes.mesh_hook.primitives[0].material = 'mat';
}

test('a sound kit owes nothing', () => {
  const { kit, blobs } = sound();
  putImage(kit, blobs, 64, 128);
  expect(check(kit, blobs)).toEqual([]);
});

type Fault = [rule: string, what: string, spoil: (kit: Kit, blobs: MemoryBlobs) => void, mend: 'safe' | 'asking' | null];

const FAULTS: Fault[] = [
  ['single-root', 'a second root', (kit) => void (kit.parts.hook.parent = null), 'safe'],
  ['root-at-origin', 'a root that stands aside', (kit) => void (kit.parts.base.translation = [0, 0, 2]), 'safe'],
  ['root-at-origin', 'a root that is turned', (kit) => void (kit.parts.base.rotation = quatFromTurn([0, 45, 0], 'xyz')), 'safe'],
  ['names', 'capitals and blanks', (kit) => void (kit.parts.hook.name = 'Hook Block 2'), 'safe'],
  ['names', 'a driven part without its first letters', (kit) => void (kit.parts.drv_slew.name = 'slew'), 'safe'],
  ['names-unique', 'one name twice', (kit) => void (kit.parts.hook.name = 'base'), 'safe'],
  ['unit-scale', 'a scaled part', (kit) => void (kit.parts.drv_slew.scale = [2, 2, 2]), 'safe'],
  ['number-noise', 'a hair off a millimetre', (kit) => void (kit.parts.hook.translation = [0.5999998, 0.6, 0]), 'safe'],
  ['number-noise', 'a hair off a hundredth of a degree', (kit) => void (kit.parts.hook.rotation = quatFromTurn([0, 29.99995, 0], 'xyz')), 'safe'],
  ['number-noise', 'a scale a hair off 1', (kit) => void (kit.parts.hook.scale = [1.00002, 1, 1]), 'safe'],
  ['flat-triangles', 'a triangle with two equal corners', (kit, blobs) => void (kit.meshes.mesh_hook.primitives[0].indices = putArray(blobs, Uint32Array.from([0, 2, 1, 1, 1, 3]), 1)), 'safe'],
  ['normals', 'no normals', (kit) => void delete kit.meshes.mesh_hook.primitives[0].attributes.NORMAL, 'asking'],
  ['normals', 'normals of no length', (kit, blobs) => void (kit.meshes.mesh_hook.primitives[0].attributes.NORMAL = putArray(blobs, new Float32Array(12), 3)), 'asking'],
  ['textures', 'a side that is no power of two', (kit, blobs) => putImage(kit, blobs, 200, 64), 'asking'],
  ['textures', 'a side that is too long', (kit, blobs) => putImage(kit, blobs, 2048, 16), 'asking'],
  ['driven-bound', 'a driven part that nothing moves', (kit) => void delete kit.bindings.x, null],
  ['driven-bound', 'a part bound twice', (kit) => void (kit.bindings.y = { ...kit.bindings.x, id: 'y', index: 2 }), 'asking'],
  ['known-variable', 'a variable with a slip of the pen', (kit) => void (kit.bindings.x.variable = 'crane_slew_angel'), 'asking'],
  ['known-variable', 'a variable that nobody knows', (kit) => void (kit.bindings.x.variable = 'weight_of_the_moon'), null],
  ['known-variable', 'an index past the last one', (kit) => void (kit.bindings.x.index = 6), 'asking'],
  ['known-variable', 'no index where one is needed', (kit) => void (kit.bindings.x.index = null), 'asking'],
  ['full-table', 'neutral not first', (kit) => void kit.bindings.x.rows.reverse(), 'safe'],
  ['full-table', 'a table that ends early', (kit) => void kit.bindings.x.rows.pop(), 'safe'],
  ['full-table', 'an empty table', (kit) => void (kit.bindings.x.rows = []), null],
];

describe.each(FAULTS)('%s: %s', (rule, _, spoil, mend) => {
  const made = () => {
    const { kit, blobs } = sound();
    spoil(kit, blobs);
    const findings = check(kit, blobs);
    return { kit, blobs, findings, finding: findings.find((one) => one.rule === rule) as Finding };
  };

  test('is found, alone, and says what and why', () => {
    const { findings, finding } = made();
    expect(findings.map((one) => one.rule)).toEqual([rule]);
    expect(finding.message).toMatch(/\.$/);
    expect(finding.why).toMatch(/\.$/);
    expect(finding.measured).not.toBe('');
    expect(finding.mend === null ? null : finding.mend.safe ? 'safe' : 'asking').toBe(mend);
    if (mend === 'asking') expect(finding.mend!.changes!.length).toBeGreaterThan(0);
  });

  if (mend === null) return;
  test('its mend settles it, and no vertex moves', () => {
    const { kit, blobs, finding } = made();
    const mended = run(kit, blobs, finding.mend!.call);
    expect(check(mended, blobs)).toEqual([]);
    if (rule === 'flat-triangles' || rule === 'normals') return;
    const before = worldVertices(kit, blobs);
    expect(greatestDifference(worldVertices(mended, blobs), before)).toBeLessThanOrEqual(rule === 'number-noise' ? 2e-4 : 1e-5 * extentOf(before));
  });
});

test('triangles over the limit are measured against it', () => {
  const { kit, blobs } = sound();
  const strict = { ...rulebook, rules: rulebook.rules.map((rule) => (rule.id === 'triangles' ? { ...rule, limit: 10 } : rule)) };
  const [finding] = check(kit, blobs, strict);
  expect([finding.rule, finding.measured, finding.limit, finding.share]).toEqual(['triangles', '12', '10', 1.2]);
  expect(check(kit, blobs, { ...strict, rules: strict.rules.map((rule) => (rule.id === 'triangles' ? { ...rule, limit: 12 } : rule)) })).toEqual([]);
});

test('every check of the slice is asked for by a rule, and has a fault above or here', () => {
  const tried = new Set([...FAULTS.map(([rule]) => rule), 'triangles']);
  const checks = new Set(rulebook.rules.filter((rule) => tried.has(rule.id)).map((rule) => rule.check));
  expect([...CHECKS.keys()].filter((id) => !checks.has(id))).toEqual([]);
});

test('mending all that is safe leaves nothing safe to mend, moves nothing, and changes nothing a second time', () => {
  const { kit, blobs } = sound();
  for (const [, what, spoil, mend] of FAULTS) if (mend === 'safe' && !what.includes('root') && what !== 'an empty table') spoil(kit, blobs);
  const before = worldVertices(kit, blobs);
  const once = mendAllSafe(kit, rulebook, blobs);
  expect(check(once.kit, blobs).filter((finding) => finding.mend?.safe)).toEqual([]);
  expect(countGrades(check(once.kit, blobs)).stop).toBe(0);
  expect(greatestDifference(worldVertices(once.kit, blobs), before)).toBeLessThan(1e-3);
  expect(mendAllSafe(once.kit, rulebook, blobs).calls).toEqual([]);
});

test('a mend that is impossible is passed over, and the others are made', () => {
  const { kit, blobs } = sound();
  kit.parts.base.scale = [1, 3, 1];
  kit.parts.hook.name = 'HOOK';
  kit.parts.drv_slew.rotation = quatFromTurn([0, 0, 30], 'xyz');
  const { kit: next } = mendAllSafe(kit, rulebook, blobs);
  expect(next.parts.hook.name).toBe('hook');
  expect(check(next, blobs).map((finding) => finding.rule)).toEqual(['unit-scale']);
});

test('a rulebook that does not fit is refused with its field', () => {
  expect(() => checkRulebook({ ...brinework, variables: [{ ...brinework.variables[0], min: 5, max: 1 }] })).toThrow(RulebookError);
  expect(() => checkRulebook({ ...brinework, naming: { ...brinework.naming, patterns: [{ ...brinework.naming.patterns[0], examples: ['Base!'] }] } })).toThrow(/Base!/);
  const { kit, blobs } = sound();
  expect(() => check(kit, blobs, { ...rulebook, rules: [{ id: 'a', check: 'no.such', grade: 'stop', why: 'x' }] })).toThrow(/no\.such/);
});
