import { encode } from 'fast-png';
import { hashBytes, newMaterial, newPart, putArray, type Kit, type Primitive } from '../document';
import { CANONICAL, quatFromTurn } from '../geometry';
import { chainKit, withMotion } from './helpers';

const row = { value: 3, offset: [0, 0, 0], turn: [0, 9, 0], size: [1, 1, 1] };
const key = { track: 'track', time: 0 };

/** A kit with a clip of its own. */
const otherKit = chainKit([{ id: 'a' }]);
const other = withMotion(otherKit.kit, otherKit.blobs, 'a', 'turn', 0, [0, 45]);

const pictureOf = (side: number) => encode({ width: side, height: side, channels: 3, depth: 8, data: new Uint8Array(3 * side * side) });
const callout = {
  id: 'reach',
  kind: 'distance',
  points: [
    { part: 'a', at: [0, 0, 0] },
    { part: 'b', at: [1, 0, 0] },
  ],
};
const split = { place: 'below', pivot: 'middle' };

/** All keys of the clip's one track. */
const every = [0, 1, 2].map((time) => ({ track: 'track', time }));

/** One honest call of each operation, on the kit below. */
export const CALLS: Record<string, unknown> = {
  'kit.rename': { name: 'Other' },
  'kit.set-target': { rulebook: 'brinework', version: '1.0.0' },
  'kit.drop-target': { rulebook: 'plotwick' },
  'kit.set-aside': { rulebook: 'brinework', finding: 'hidden', reason: 'Only here.' },
  'kit.take-up': { rulebook: 'plotwick', finding: 'empty' },
  'intake.settle': { space: { ...CANONICAL, metresPerUnit: 0.01, up: '+z', forward: '+x' } },
  'shape.rename': { names: { a: 'x', b: 'y' } },
  'shape.set-role': { parts: ['a'], role: 'seat' },
  'shape.set-hidden': { parts: ['a', 'b'], hidden: true },
  'shape.reparent': { parts: ['c'], parent: 'a', place: 0, keep: 'world' },
  'shape.insert-parent': { id: 'up', parts: ['b', 'c'], name: 'carrier', at: [1, 2, 3] },
  'shape.dissolve-parents': { parts: ['hollow'] },
  'shape.repeat-line': { parts: ['b'], copies: 2, step: [1, 0, 0], ownMeshes: true },
  'shape.repeat-ring': { parts: ['pair'], copies: 3, axis: 1, centre: [0, 0, 0], degrees: 90 },
  'shape.mirror-parts': { parts: ['b'], axis: 0, at: 0.5, names: { b: 'twin' } },
  'shape.twin-parts': { tops: [{ part: 'b', below: null }], ids: { b: 'twin' }, names: { b: 'twin' }, place: { axis: 0, at: 0.5 } },
  'shape.split-faces': { part: 'b', faces: [[1, 2]], id: 'cut', name: 'cut', ...split },
  'shape.split-loose': { part: 'pair', ...split },
  'shape.split-material': { part: 'pair', place: 'beside', pivot: 'bottom' },
  'shape.split-plane': { part: 'c', at: [0.5, 0, 0], normal: [1, 0, 0], name: 'half', place: 'beside', pivot: 'keep' },
  'shape.join-parts': { into: 'a', parts: ['a', 'pair'] },
  'shape.align': { parts: ['c'], axis: 1, side: 'low', at: 0 },
  'shape.snap': { parts: ['c', 'pair'], stepMetres: 0.25, stepDegrees: 15 },
  'shape.pivot-to-twin': { from: 'a', to: 'c', axis: 0, at: 1 },
  'shape.set-hinge-axis': { part: 'c', axis: 1, from: [0, 0, 0], to: [0, 1, 1] },
  'shape.apply-rotation': { parts: ['pair'] },
  'shape.flip-faces': { parts: ['a'] },
  'shape.unify-windings': { parts: ['pair'], angleDegrees: 30 },
  'shape.weld': { parts: ['pair'], distanceMm: 0.1 },
  'shape.simplify': { parts: ['pair'], goal: { share: 0.5 } },
  'shape.make-levels': { parts: ['pair'], levels: [{ name: 'far', share: 0.3 }] },
  'shape.drop-levels': { parts: ['a'] },
  'shape.tangents': { parts: ['pair'] },
  'shape.set-texture': { material: 'mat', slot: 'emissiveTexture', image: 'img' },
  'shape.assign-material': { parts: ['c'], material: 'fresh', name: 'fresh' },
  'shape.drop-unused-materials': {},
  'shape.convert-image': { image: 'img', mediaType: 'image/jpeg' },
  'shape.replace-image': { image: 'img', name: 'planks', blob: hashBytes(pictureOf(4)) },
  'shape.add-image': { id: 'two', name: 'planks', blob: hashBytes(pictureOf(4)) },
  'shape.remove-empty': {},
  'shape.add-callout': callout,
  'shape.remove-callouts': { callouts: ['kept'] },
  'shape.set-transform': { part: 'b', translation: [1, 2, 3], rotation: [0, 0, 1, 0], scale: [1, 2, 1] },
  'shape.move-pivot': { part: 'b', to: [1, 0, 2] },
  'shape.pivot-to-anchor': { parts: ['a', 'c'], anchor: [0, -1, 0] },
  'shape.apply-scale': { parts: ['b'] },
  'shape.clean-noise': { parts: ['c'], stepMetres: 0.001, stepDegrees: 0.01 },
  'shape.gather-under-root': { name: 'base' },
  'shape.recompute-normals': { parts: ['a'], angleDegrees: 30 },
  'shape.drop-degenerates': { parts: ['a'] },
  'shape.drop-unused-vertices': { parts: ['a'] },
  'shape.turn-windings': { parts: ['a'] },
  'shape.drop-uv-sets': { parts: ['a'], keep: 1 },
  'shape.set-material': { material: 'mat', name: 'Other', baseColor: [1, 0, 0, 1], alphaMode: 'BLEND' },
  'shape.merge-duplicates': {},
  'shape.set-on-ground': { byMetres: -0.5 },
  'rig.name-joints': { names: { bone: 'hips' } },
  'rig.normalise-weights': { parts: ['c'] },
  'rig.limit-influences': { parts: ['c'], most: 1 },
  'rig.set-weights': {
    joints: ['a', 'b'],
    spans: [{ part: 'c', primitive: 0, start: 0, count: 4 }],
    held: {
      joints: { blob: hashBytes(new Uint8Array(new Uint16Array(16).fill(1).buffer)), type: 'u16', size: 4, count: 4 },
      weights: {
        blob: hashBytes(new Uint8Array(Float32Array.from({ length: 16 }, (_, i) => (i % 4 === 0 ? 1 : 0)).buffer)),
        type: 'f32',
        size: 4,
        count: 4,
      },
    },
  },
  'rig.solve-weights': { parts: ['c'], joints: ['a', 'b'], off: [], resolution: 16 },
  'rig.hold-rigid': { parts: ['c'], joint: 'bone' },
  'rig.copy-weights': { from: ['held'], to: ['c'] },
  'rig.mirror-weights': { parts: ['held'], from: 'left', at: 0.5 },
  'rig.smooth-weights': { parts: ['held'], rounds: 2 },
  'rig.prune-weights': { parts: ['held'], below: 0.4 },
  'rig.fill-weights': { parts: ['held'] },
  'rig.set-vertex-weights': { part: 'held', vertices: [0, 1], weights: { bone: 0.25 } },
  'rig.unbind': { parts: ['held'] },
  'rig.add-joints': {
    joints: [
      { id: 'j1', name: 'j1', parent: 'a', at: [0, 1, 0] },
      { id: 'j2', name: 'j2', parent: 'j1', at: [0, 2, 0], tail: [0, 3, 0] },
    ],
  },
  'rig.insert-joint': { id: 'j1', name: 'j1', above: 'bone' },
  'rig.dissolve-joints': { joints: ['bone'] },
  'rig.move-joint': { joint: 'bone', at: [1, 2, 3], below: 'follow' },
  'rig.move-tail': { joint: 'bone', at: [1, 2, 3] },
  'rig.roll-joints': { joints: ['bone'], along: 1, toward: 2, direction: [1, 0, 0] },
  'rig.set-bend': { joints: ['bone'], degrees: 70 },
  'rig.mirror-joints': { joints: ['bone'], names: { bone: 'enob' }, ids: { bone: 'enob' } },
  'rig.pull-inside': { joints: ['bone'] },
  'rig.make-body': { id: 'three', parts: ['c'], name: 'Third' },
  'rig.gather-bodies': { parts: ['a', 'c'], by: 'material' },
  'rig.hold-nearest': { parts: ['c'] },
  'rig.anchor-body': { body: 'two' },
  'rig.rename-body': { body: 'two', name: 'Second' },
  'rig.drop-bodies': { bodies: ['two'] },
  'rig.couple': { id: 'slide', kind: 'slider', from: 'one', to: 'two', at: [0, 1, 0], axis: [0, 0, 2], min: 0, max: 0.5 },
  'rig.uncouple': { couplings: ['hinge'] },
  'rig.snap-couplings': { couplings: ['hinge'], stepMetres: 0.02 },
  'shape.resize-image': { image: 'img', width: 8, height: 8 },
  'shape.remove-parts': { parts: ['b'] },
  'motion.add-clip': { id: 'new', name: 'new', lengthSeconds: 1, rate: 24, loop: 'once' },
  'motion.set-clip': { clip: 'clip', name: 'run', lengthSeconds: 3, rate: 60, loop: 'hold' },
  'motion.place-clip': { clip: 'clip', place: 1 },
  'motion.add-rest-clip': { id: 'rest', name: 'rest', rate: 30 },
  'motion.remove-tracks': { clip: 'clip', tracks: ['track'] },
  'motion.meet-seam': { clip: 'clip' },
  'motion.stay-in-place': { clip: 'tailed', part: 'c' },
  'motion.divide-turns': { clip: 'clip', mostDegrees: 20 },
  'motion.remove-clip': { clip: 'clip' },
  'motion.keep-clips': { clips: ['clip'] },
  'motion.split-clip': {
    clip: 'clip',
    ranges: [
      { name: 'a', from: 0, to: 1, loop: 'loop' },
      { name: 'b', from: 1, to: 2, loop: 'once' },
    ],
    keep: false,
  },
  'motion.trim-clip': { clip: 'clip', from: 0.5, to: 1.5 },
  'motion.take-clips': { source: other, clips: ['clip'], pairs: { a: 'b' }, scale: 1 },
  'intake.take-version': { next: chainKit([{ id: 'n' }]).kit, base: null, matches: { n: 'a' } },
  'intake.give-parked': { parked: ['p'], part: 'c' },
  'intake.drop-parked': { parked: ['p'] },
  'motion.remove-track': { clip: 'clip', track: 'track' },
  'motion.set-keys': { clip: 'clip', time: 0.5, easing: 'bounce', values: [{ part: 'c', property: 'size', axis: 2, value: 2 }] },
  'motion.remove-keys': { clip: 'clip', keys: [key] },
  'motion.move-keys': { clip: 'clip', keys: [key], bySeconds: 0.3 },
  'motion.set-easing': { clip: 'clip', keys: [key], easing: 'hold' },
  'motion.bake-pose': { clip: 'tailed', parts: ['c'], time: 0.5 },
  'motion.brake-keys': { clip: 'clip', keys: every, count: 3, reach: 0.5, ratio: 0.5, family: 'sine', sides: 'both' },
  'motion.close-loop': { clip: 'clip' },
  'motion.duplicate-clip': { clip: 'clip', id: 'copy', name: 'copy' },
  'motion.dwell': { clip: 'clip', time: 1, seconds: 0.5 },
  'motion.echo': { clip: 'clip', from: 'b', chain: ['c'], delaySeconds: 0.1, gain: 0.8 },
  'motion.even-out': { clip: 'clip', keys: every, by: 'speed' },
  'motion.flip': { clip: 'clip', keys: every },
  'motion.follow-path': {
    clip: 'clip',
    part: 'c',
    points: [
      [0, 0, 0],
      [1, 0, 1],
      [0, 0, 2],
    ],
    closed: false,
    from: 0,
    to: 1.5,
    profile: 'ease-both',
    facing: true,
    bankDegrees: 20,
    metres: 0.001,
    degrees: 0.5,
  },
  'motion.join-clips': { clip: 'clip', others: ['tailed', 'second'] },
  'motion.to-twin': { clip: 'clip', keys: every, pairs: { b: 'c' }, axis: 0, bySeconds: 0 },
  'motion.mend-seam': { clip: 'clip', by: 'fade', seconds: 0.5 },
  'motion.paste-keys': {
    clip: 'clip',
    time: 0.25,
    tracks: [{ part: 'b', property: 'offset', axis: 1, keys: [{ time: 0, value: 2, easing: 'hold' }] }],
    onto: 'c',
  },
  'motion.put': { motion: 'glide', clip: 'made', name: 'glide', rate: 30 },
  'motion.say-roles': { roles: { upper_arm_l: 'leg1', hips: null } },
  'motion.adjust': {
    clip: 'standing',
    choices: { armSpread: 20, stride: 1, hipHeight: 0, mirrored: false, inPlace: false },
    pinned: true,
    planted: null,
  },
  'motion.remove-cues': { clip: 'second', cues: ['bell'] },
  'motion.remove-flags': { clip: 'second', flags: ['start'] },
  'motion.repeat': { clip: 'clip', keys: every, times: 2, gapSeconds: 0 },
  'motion.return-trip': { clip: 'clip', keys: every },
  'motion.reverse': { clip: 'clip', keys: every },
  'motion.scale-values': { clip: 'clip', keys: every, factor: 2 },
  'motion.set-constants': { clip: 'clip', constants: { swing: 3 } },
  'motion.set-cue': { clip: 'clip', cue: { id: 'new', time: 1, kind: 'sound', name: 'bell', part: 'b' } },
  'motion.set-flag': { clip: 'clip', flag: { id: 'new', time: 1, name: 'turn', colour: 'sea' } },
  'motion.set-formula': { clip: 'clip', part: 'b', property: 'turn', axis: 1, source: '30 * sin(tau * u)' },
  'motion.set-group': { clips: ['clip'], group: 'moves' },
  'motion.set-overlay': { clip: 'clip', overlay: { place: 'over', mode: 'add', parts: ['b'] } },
  'motion.set-slopes': { clip: 'clip', keys: every, in: 3, out: -2 },
  'motion.settle': { clip: 'clip', keys: [{ track: 'track', time: 1 }], share: 0.3, swings: 3, decay: 0.5, seconds: 0.5 },
  'motion.shift': { clip: 'clip', tracks: ['track'], bySeconds: 0.3, wrap: true },
  'motion.show-parts': { clip: 'clip', parts: ['c'], time: 1, shown: false, as: 'shown' },
  'motion.stretch-clip': { clip: 'clip', lengthSeconds: 3 },
  'motion.stretch': { clip: 'clip', keys: every, about: 0, factor: 2 },
  'motion.stroke-bias': { clip: 'clip', keys: every, middle: 1, bias: 0.7 },
  'motion.sway': { clip: 'clip', parts: ['c'], property: 'turn', axis: 2, amount: 3, lowHz: 0.5, highHz: 2, seed: 7 },
  'motion.thin': { clip: 'clip', tracks: ['track'], fit: 'straight', metres: 0.5, degrees: 20 },
  'motion.trim-tail': { clip: 'tailed' },
  'motion.write-recording': {
    clip: 'clip',
    part: 'c',
    property: 'offset',
    times: [0, 0.5, 1],
    values: [0, 0, 0, 1, 0, 0, 2, 1, 0],
    smoothSeconds: 0,
    metres: 0.001,
    degrees: 0.5,
  },
  'wiring.add-binding': { id: 'y', part: 'c', variable: 'v', index: null, rows: [row], outside: 'wrap' },
  'wiring.set-binding': { binding: 'x', index: 4, outside: 'extend' },
  'wiring.remove-binding': { bindings: ['x'] },
  'wiring.set-row': { binding: 'x', row },
  'wiring.remove-row': { binding: 'x', value: 0 },
  'wiring.write-rows': { binding: 'x', rows: [row, { ...row, value: -2 }], instead: false },
  'wiring.pose-station': { rows: [{ binding: 'x', row: { ...row, value: 6 } }] },
  'wiring.lift-level': { part: 'b', above: 'a' },
  'wiring.bind-twins': { bindings: ['x'], pairs: { b: 'c' }, axis: 0, index: 1 },
  'wiring.move-station': { bindings: ['x'], from: 4, to: 8 },
  'wiring.remove-station': { bindings: ['x'], value: 4 },
  'wiring.negate': { bindings: ['x'] },
  'wiring.mirror-table': { binding: 'x', keep: 'above' },
  'wiring.spread-table': { binding: 'x', from: -6, to: 6 },
  'wiring.add-between': { binding: 'x', each: 2 },
  'wiring.measure-values': { binding: 'x', of: 'turn', axis: 1, per: 0.5 },
  'wiring.cut-table': { binding: 'x', min: -1, max: 2 },
  'wiring.rebind': {
    binding: 'x',
    variable: 'w',
    index: null,
    from: { min: -10, max: 10, neutral: 0 },
    to: { min: 0, max: 5, neutral: 1 },
  },
  'wiring.set-switch': { id: 'dark', part: 'a', variable: 'v', index: 0, spans: [{ from: 2, to: null }], among: 'lamp' },
  'wiring.make-blur': { part: 'pair', axis: 1, variable: 'v', index: 0, from: 2, bothWays: false, cut: true },
  'wiring.set-spans': {
    switches: {
      lit: [
        { from: null, to: 2 },
        { from: 3, to: 4 },
      ],
    },
  },
  'wiring.remove-switches': { switches: ['lit'] },
  'wiring.move-edge': { switches: ['lit'], at: 1, to: 1.5 },
  'wiring.set-derived': { id: 'half', name: 'half', expression: 'twice / 4', unit: 'deg', min: -5, max: 5, neutral: 0 },
  'wiring.remove-derived': { derived: ['twice'] },
  'wiring.set-duty': {
    duty: { id: 'run', name: 'Run', about: '', seconds: 3, lines: [{ variable: 'v', index: 0, points: [{ time: 0, value: 1 }] }] },
  },
  'wiring.remove-duties': { duties: ['kept'] },
  'wiring.drive-chain': {
    parts: ['a', 'c'],
    variable: 'w',
    index: null,
    axis: 2,
    shares: [0.25, 0.75],
    stops: [{ value: 5, degrees: 40 }],
    neutral: 0,
    hinge: 'outer',
    closed: true,
  },
  'wiring.add-link': {
    id: 'rolling',
    kind: 'roll',
    parts: ['wheel'],
    axes: [0],
    at: [0, -0.5, 0],
    on: 'a',
    variable: 'v',
    index: 0,
    min: -4,
    max: 4,
    neutral: 0,
  },
  'wiring.renew-links': { links: ['meeting'] },
  'wiring.remove-links': { links: ['meeting'] },
  'grounds.set-footprint': { footprint: { low: [-1.5, 0, -3.5], high: [3.5, 0, 1.5] }, tile: 2 },
  'grounds.sweep-footprint': { tile: 2 },
  'grounds.toggle-hole': { at: [-1.5, 0, 0.5], tile: 2 },
  'grounds.set-state': { state: 'idle', clip: 'second', from: 0, to: null, over: 0.5 },
  'grounds.set-glow': { material: 'again', factor: 2, colour: [1, 0.8, 0.5] },
  'grounds.set-facts': { facts: { price: 12, blurb: 'It goes.', kind: null } },
  'grounds.set-upright': { seats: ['pair', 'stool'] },
  'grounds.turn-seats': { seats: ['stool'], degrees: 90 },
  'grounds.number-seats': { seats: ['stool', 'c'], prefix: 'seat-', figures: 2 },
  'grounds.make-seats': { chairs: ['a', 'pair'], like: null, prefix: 'seat-', figures: 2 },
  'grounds.fit-colliders': { parts: ['a', 'pair'], shape: 'hull', snap: null },
  'grounds.change-collider': { id: 'block', part: 'b', shape: 'box', at: [0, 1, 0], size: [1, 2, 3] },
  'grounds.remove-colliders': { colliders: ['post'] },
  'grounds.join-colliders': { colliders: ['block', 'post'] },
  'grounds.find-way': {
    rules: { height: 1.8, radius: 0.25, step: 0.25, slope: 40, drop: 0.5, reach: 3 },
    groups: [{ carrier: 'c', seats: ['stool'] }],
  },
  'grounds.lay-between': { rules: { height: 1.8, radius: 0.25, step: 0.25, slope: 40, drop: 0.5, reach: 3 }, from: 'post', to: 'west' },
  'grounds.lay-ring': { rules: { height: 1.8, radius: 0.25, step: 0.25, slope: 40, drop: 0.5, reach: 3 }, tile: 2 },
  'grounds.add-knot': { at: [1, 0, 2], joined: 'gate' },
  'grounds.move-knots': { places: { gate: [0, 0, 4] } },
  'grounds.set-knots': { knots: ['lone'], boards: ['b'], name: 'Stair' },
  'grounds.remove-knots': { knots: ['lone', 'gate'] },
  'grounds.add-rope': { from: 'lone', to: 'gate' },
  'grounds.set-ropes': { ropes: ['lane'], oneWay: true, turned: true },
  'grounds.remove-ropes': { ropes: ['lane'] },
  'mixes.add': { name: 'other', kind: 'line', parameters: ['ahead'], pegs: [{ clip: 'second', at: [0], speed: 1 }] },
  'mixes.rename': { mix: 'going', name: 'goes' },
  'mixes.remove': { mix: 'going' },
  'mixes.set-kind': { mix: 'going', kind: 'around', parameters: ['ahead', 'side'] },
  'mixes.add-peg': { mix: 'going', clip: 'second', at: [7], speed: 1 },
  'mixes.set-peg': { mix: 'going', peg: 'slow', at: [1.5], speed: 2 },
  'mixes.remove-peg': { mix: 'going', peg: 'slow' },
  'behaviour.set-gait': { gait: 'gait' },
  'behaviour.set': {
    behaviour: {
      layers: [
        {
          id: 'only',
          name: 'Only',
          parts: ['b'],
          how: 'adds',
          first: 's',
          states: [{ id: 's', name: 's', clip: 'second', speed: 1, loop: true }],
          passages: [],
        },
      ],
    },
  },
  'behaviour.add-layer': { name: 'Arm', state: 'low', clip: 'second' },
  'behaviour.set-layer': {
    layer: 'whole',
    name: 'Body',
    parts: ['a', 'b'],
    how: 'adds',
    first: 'going',
    edge: 1,
    weight: { parameter: 'side', none: 1, whole: 0 },
  },
  'behaviour.remove-layer': { layer: 'whole' },
  'behaviour.add-state': { layer: 'whole', name: 'lame', clip: 'second', speed: 0.5, loop: true },
  'behaviour.set-state': {
    layer: 'whole',
    state: 'still',
    name: 'stands',
    clip: 'second',
    loop: false,
    sends: ['at rest'],
    group: 'quiet',
  },
  'behaviour.remove-passages': { layer: 'whole', passages: ['there'] },
  'behaviour.remove-state': { layer: 'whole', state: 'going' },
  'behaviour.move-passage': { layer: 'whole', passage: 'home', before: 'there' },
  'behaviour.set-passage': { layer: 'whole', passage: 'there', over: 0, after: 'end', firm: true, begins: 'along' },
  'behaviour.add-passage': {
    layer: 'whole',
    from: null,
    to: 'going',
    when: [{ kind: 'sent', parameter: 'jolt' }],
    after: 'any',
    over: 0.5,
  },
  'wiring.complete-table': { binding: 'x', neutral: 0, min: -5, max: 5 },
};

export function made() {
  const { kit: plain, blobs } = chainKit([
    { id: 'a' },
    { id: 'b', scale: [2, 2, 2], translation: [0, 1, 0] },
    { id: 'c', translation: [0.5999998, 0, 0] },
  ]);
  const kit = JSON.parse(JSON.stringify(withMotion(plain, blobs, 'b', 'turn', 1, [0, 90, 30], 'straight'))) as Kit;
  kit.clips.clip.tracks[0].id = 'track';
  kit.parts.hollow = newPart({ id: 'hollow', name: 'hollow', parent: 'a' });
  kit.bindings.x = {
    id: 'x',
    variable: 'v',
    index: 0,
    part: 'b',
    outside: 'clamp',
    rows: [
      { value: 0, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] },
      { value: -4, offset: [0, 0, 0.2], turn: [0, -9, 0], size: [1, 1, 1] },
      { value: 4, offset: [0, 0.1, 0], turn: [0, 12, 0], size: [1, 1, 1] },
    ],
  };
  kit.parts.arm = newPart({ id: 'arm', name: 'arm', parent: 'b', translation: [1, 0, 0] });
  kit.parts.wheel = newPart({ id: 'wheel', name: 'wheel', parent: 'b', translation: [0, 0, 1] });
  kit.parts.stay = newPart({ id: 'stay', name: 'stay', parent: 'a', translation: [3, 0, 0] });
  kit.links = [
    {
      id: 'meeting',
      kind: 'meet',
      parts: ['arm', 'stay'],
      axes: [1, 1],
      at: [0.5, 0, 0.8],
      on: null,
      variable: 'v',
      index: 0,
      min: -4,
      max: 4,
      neutral: 0,
    },
  ];
  kit.switches = [{ id: 'lit', part: 'c', variable: 'v', index: 0, spans: [{ from: null, to: 1 }], among: 'lamp' }];
  kit.parts.stool = newPart({ id: 'stool', name: 'stool', role: 'seat', parent: 'c', rotation: quatFromTurn([90, 0, 0], 'xyz') });
  kit.grounds = {
    footprint: { low: [-4, 0, -4], high: [4, 0, 4], holes: [[1, 0, 1]] },
    states: [{ state: 'run', clip: 'clip', from: 0, to: null, over: 0 }],
    glows: [{ material: 'mat', factor: 2, colour: [1, 0.8, 0.5] }],
    facts: { price: 5, kind: 'ride' },
  };
  kit.colliders = [
    { id: 'block', part: 'a', shape: 'box', at: [0, 0.5, 0], size: [1, 0.5, 2] },
    { id: 'post', part: 'b', shape: 'capsule', from: [0, 0, 0], to: [0, 1, 0.5], radius: 0.25 },
    {
      id: 'rock',
      part: 'a',
      shape: 'hull',
      points: [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ],
    },
  ];
  kit.walkway = {
    knots: [
      { id: 'gate', name: 'Gate', at: [0, 0, -4], edge: true, boards: [], leaves: [] },
      { id: 'side', name: '', at: [0, 0, -2], edge: false, boards: ['c'], leaves: ['c'] },
      { id: 'lone', name: '', at: [3, 0, 3], edge: false, boards: [], leaves: [] },
      { id: 'post', name: '', at: [-3, 0, -3], edge: false, boards: [], leaves: [] },
      { id: 'west', name: '', at: [-3, 0, 3], edge: false, boards: [], leaves: [] },
    ],
    ropes: [{ id: 'lane', from: 'gate', to: 'side', oneWay: false, rail: false }],
  };
  kit.mixes = [
    {
      id: 'going',
      name: 'going',
      kind: 'line',
      parameters: ['ahead'],
      pegs: [
        { id: 'slow', clip: 'clip', at: [1], speed: 1 },
        { id: 'fast', clip: 'second', at: [4], speed: 1.2 },
      ],
    },
  ];
  kit.behaviour = {
    gait: 'carriage',
    layers: [
      {
        id: 'whole',
        name: 'Whole',
        parts: ['c'],
        edge: 2,
        weight: { parameter: 'ahead', none: 0, whole: 2 },
        how: 'replaces',
        first: 'still',
        states: [
          {
            id: 'still',
            name: 'still',
            clip: null,
            mix: 'going',
            gaits: [{ gait: 'lame', clip: 'second' }],
            speed: 1,
            loop: true,
          },
          { id: 'going', name: 'going', clip: 'clip', speed: 2, loop: false },
        ],
        passages: [
          {
            id: 'there',
            from: 'still',
            except: [],
            to: 'going',
            when: [{ kind: 'range', parameter: 'ahead', atLeast: 1, below: null }],
            after: 'any',
            over: 0.2,
          },
          {
            id: 'home',
            from: null,
            except: ['still'],
            to: 'still',
            when: [{ kind: 'among', parameter: 'down', values: ['yes'] }],
            after: 'end',
            over: 0,
          },
        ],
      },
    ],
  };
  kit.duties = [{ id: 'kept', name: 'Kept', about: '', seconds: 2, lines: [{ variable: 'v', index: 0, points: [{ time: 1, value: 1 }] }] }];
  kit.derived = [{ id: 'twice', name: 'twice', expression: '2 * v[0]', unit: 'deg', min: -20, max: 20, neutral: 0 }];
  kit.parked = [{ id: 'p', partName: 'gone', kind: 'binding', binding: { ...kit.bindings.x, id: 'gone' } }];
  const png = encode({ width: 5, height: 5, channels: 3, depth: 8, data: new Uint8Array(75) });
  kit.images.img = { id: 'img', name: 'img', mediaType: 'image/png', blob: blobs.put(png), bytes: png.length, width: 5, height: 5 };
  kit.materials.mat = newMaterial({ id: 'mat', name: 'mat', baseColorTexture: { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 } });
  kit.materials.again = { ...kit.materials.mat, id: 'again', name: 'again' };
  kit.meshes.mesh_a.primitives[0].material = 'mat';
  const { attributes } = kit.meshes.mesh_a.primitives[0];
  attributes.TEXCOORD_0 = attributes.TEXCOORD_1 = putArray(blobs, new Float32Array(8), 2);
  kit.meshes.mesh_a.primitives[0].indices = putArray(blobs, Uint32Array.from([0, 1, 2]), 1);
  const held = kit.meshes.mesh_c.primitives[0].attributes;
  held.JOINTS_0 = putArray(blobs, new Uint16Array(16), 4);
  held.WEIGHTS_0 = putArray(blobs, new Float32Array(16).fill(0.2), 4);
  blobs.put(new Uint8Array(new Uint16Array(16).fill(1).buffer));
  blobs.put(new Uint8Array(Float32Array.from({ length: 16 }, (_, i) => (i % 4 === 0 ? 1 : 0)).buffer));
  kit.meshes.held = structuredClone(kit.meshes.mesh_c);
  kit.meshes.held.id = 'held';
  const { attributes: own } = kit.meshes.held.primitives[0];
  own.JOINTS_0 = putArray(blobs, Uint16Array.from([0, 1, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0]), 4);
  own.WEIGHTS_0 = putArray(blobs, Float32Array.from([0.7, 0.3, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0]), 4);
  kit.parts.bone = newPart({ id: 'bone', name: 'bone', role: 'joint', parent: 'a', translation: [0.2, 0.1, 3] });
  kit.skins.skin = {
    id: 'skin',
    name: 'skin',
    joints: ['a', 'bone'],
    inverseBindMatrices: putArray(
      blobs,
      Float32Array.from([...Array(2)].flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])),
      16,
    ),
  };
  kit.parts.held = newPart({ id: 'held', name: 'held', parent: 'a', mesh: 'held', skin: 'skin' });
  kit.bodies = [
    { id: 'one', name: 'One', parts: ['a'], anchored: true },
    { id: 'two', name: 'Two', parts: ['b'], anchored: false },
  ];
  kit.couplings = [
    { id: 'hinge', name: 'Hinge', kind: 'hinge', from: 'one', to: 'two', at: [0.013, 0, 0], axis: [0, 1, 0], min: null, max: 90 },
  ];
  kit.meshes.pair = { id: 'pair', name: 'pair', primitives: [sheet(blobs), { ...wedgeOf(kit), material: 'bumpy' }] };
  kit.materials.bumpy = newMaterial({
    id: 'bumpy',
    name: 'bumpy',
    normalTexture: { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 },
  });
  kit.parts.pair = newPart({
    id: 'pair',
    name: 'pair',
    parent: 'a',
    mesh: 'pair',
    translation: [0.1, 5, 0],
    rotation: quatFromTurn([0, 40, 0], 'xyz'),
  });
  kit.meshes.pair.primitives[1].indices = putArray(blobs, Uint32Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 3, 2]), 1);
  kit.meshes.pair.primitives[1].attributes = {
    ...kit.meshes.pair.primitives[1].attributes,
    TEXCOORD_0: putArray(blobs, Float32Array.from([0, 0, 1, 0, 0, 1, 0.5, 0.5]), 2),
  };
  kit.meshes.mesh_a.levels = [{ name: 'far', errorMm: 0, primitives: [kit.meshes.mesh_a.primitives[0]] }];
  kit.callouts = [{ ...callout, id: 'kept' } as NonNullable<Kit['callouts']>[number]];
  blobs.put(pictureOf(4));
  kit.targets = [{ rulebook: 'plotwick', version: '1.0.0' }];
  kit.asides = [{ rulebook: 'plotwick', finding: 'empty', reason: 'So it is.' }];
  kit.clips.second = { ...kit.clips.clip, id: 'second', name: 'second', order: 1, tracks: [] };
  for (const [i, id] of ['leg1', 'leg2', 'leg3'].entries())
    kit.parts[id] = newPart({
      id,
      name: id,
      role: 'joint',
      parent: i === 0 ? 'a' : `leg${i}`,
      translation: [0, i === 0 ? 2 : -0.5, i === 1 ? 0.1 : 0],
    });
  const sliding = [0, 0.5, 0.51, 0.6, 1].map((time, i) => ({ time, value: [0, 0, 0.001, 2, 40][i], easing: 'straight' as const }));
  kit.motionRoles = { trunk: 'b', thigh_l: 'leg1', shin_l: 'leg2', foot_l: 'leg3', upper_arm_l: 'leg1' };
  kit.clips.standing = {
    ...kit.clips.clip,
    id: 'standing',
    name: 'standing',
    order: 3,
    tracks: [{ kind: 'keys', id: 'leg_track', part: 'leg1', property: 'turn', axis: 0, keys: sliding }],
  };
  kit.clips.second.cues = [{ id: 'bell', time: 0, kind: 'sound', name: 'bell', part: null }];
  kit.clips.second.flags = [{ id: 'start', time: 0, name: 'start', colour: 'sea' }];
  kit.clips.tailed = {
    ...kit.clips.clip,
    id: 'tailed',
    name: 'tailed',
    order: 2,
    lengthSeconds: 5,
    tracks: [
      { ...kit.clips.clip.tracks[0], id: 'tail' },
      {
        kind: 'keys',
        id: 'tail_c',
        part: 'c',
        property: 'offset',
        axis: 0,
        keys: [
          { time: 0, value: 1, easing: 'straight' },
          { time: 1, value: 2, easing: 'straight' },
        ],
      },
    ],
  };
  kit.source = {
    fileName: 'a.glb',
    format: 'glb',
    bytes: 1,
    sha: 'a'.repeat(64),
    generator: null,
    space: CANONICAL,
    settled: false,
    notes: [],
    counts: { parts: 3, meshes: 3, triangles: 12, vertices: 12, materials: 1, images: 1, skins: 0, clips: 0 },
  };
  return { kit, blobs };
}

/** Eight by eight squares, each with corners of its own. */
function sheet(blobs: ReturnType<typeof chainKit>['blobs']): Primitive {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((x) =>
    [0, 1, 2, 3, 4, 5, 6, 7].flatMap((y) => [
      [x, y],
      [x + 1, y],
      [x + 1, y + 1],
      [x, y],
      [x + 1, y + 1],
      [x, y + 1],
    ]),
  );
  const positions = Float32Array.from(corners.flatMap(([x, y]) => [x + 9, y, 0]));
  const normals = Float32Array.from(corners.flatMap(() => [0, 0, 1]));
  return {
    material: 'mat',
    attributes: { POSITION: putArray(blobs, positions, 3), NORMAL: putArray(blobs, normals, 3) },
    indices: putArray(blobs, Uint32Array.from(corners.keys()), 1),
  };
}

const wedgeOf = (kit: Kit) => kit.meshes.mesh_b.primitives[0];
