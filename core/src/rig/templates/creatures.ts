import type { SkeletonTemplate } from './template';

/** A body on four legs. */
export const FOUR_LEGGED: SkeletonTemplate = {
  id: 'four-legged',
  title: 'Four-legged',
  about: 'A trunk from tail to muzzle, a tail of two joints, and four legs.',
  ends: [
    { id: 'muzzle', place: [0, 0.85, 1] },
    { id: 'tail', place: [0, 0.7, -1] },
    { id: 'fore', place: [0.6, 0, 0.55], paired: true },
    { id: 'hind', place: [0.6, 0, -0.55], paired: true },
  ],
  lines: [
    { id: 'trunk', from: { end: 'tail' }, to: 'muzzle' },
    { id: 'foreleg', from: { line: 'trunk' }, to: 'fore', paired: true },
    { id: 'hindleg', from: { line: 'trunk' }, to: 'hind', paired: true },
  ],
  joints: [
    { name: 'ground', parent: null, on: 'ground' },
    { name: 'hips', parent: 'ground', on: { line: 'trunk', share: 0.3 } },
    { name: 'spine', parent: 'hips', on: { line: 'trunk', share: 0.44 } },
    { name: 'chest', parent: 'spine', on: { line: 'trunk', share: 0.6 } },
    { name: 'neck', parent: 'chest', on: { line: 'trunk', share: 0.74 } },
    { name: 'head', parent: 'neck', on: { line: 'trunk', share: 0.86 }, narrow: true, tail: 1 },
    { name: 'tail', parent: 'hips', on: { line: 'trunk', share: 0.2 } },
    { name: 'tail_tip', parent: 'tail', on: { line: 'trunk', share: 0.1 }, tail: 0 },
    { name: 'fore_upper', parent: 'chest', on: { line: 'foreleg', share: 0.15 } },
    { name: 'fore_lower', parent: 'fore_upper', on: { line: 'foreleg', share: 0.52 } },
    { name: 'fore_foot', parent: 'fore_lower', on: { line: 'foreleg', share: 0.85 }, narrow: true, tail: 1 },
    { name: 'hind_upper', parent: 'hips', on: { line: 'hindleg', share: 0.15 } },
    { name: 'hind_lower', parent: 'hind_upper', on: { line: 'hindleg', share: 0.52 } },
    { name: 'hind_foot', parent: 'hind_lower', on: { line: 'hindleg', share: 0.85 }, narrow: true, tail: 1 },
  ],
};

/** A body with fins or wings and a fan at its tail. */
export const FINNED: SkeletonTemplate = {
  id: 'finned',
  title: 'Fins or wings with a tail fan',
  about: 'A trunk from tail to nose, fins or wings of three segments on either side, and a tail that ends in a fan.',
  ends: [
    { id: 'nose', place: [0, 0.5, 1] },
    { id: 'tail', place: [0, 0.5, -1] },
    { id: 'tip', place: [1, 0.5, 0], paired: true },
    { id: 'fan', place: [0.3, 0.5, -0.95], paired: true },
  ],
  lines: [
    { id: 'trunk', from: { end: 'tail' }, to: 'nose' },
    { id: 'fin', from: { line: 'trunk' }, to: 'tip', paired: true },
    { id: 'fan', from: { line: 'trunk' }, to: 'fan', paired: true },
  ],
  joints: [
    { name: 'trunk', parent: null, on: { line: 'trunk', share: 0.55 } },
    { name: 'head', parent: 'trunk', on: { line: 'trunk', share: 0.75 }, tail: 1 },
    { name: 'tail', parent: 'trunk', on: { line: 'trunk', share: 0.38 } },
    { name: 'tail_mid', parent: 'tail', on: { line: 'trunk', share: 0.24 } },
    { name: 'tail_end', parent: 'tail_mid', on: { line: 'trunk', share: 0.12 }, tail: 0 },
    { name: 'fin_root', parent: 'trunk', on: { line: 'fin', share: 0.18 } },
    { name: 'fin_mid', parent: 'fin_root', on: { line: 'fin', share: 0.46 } },
    { name: 'fin_tip', parent: 'fin_mid', on: { line: 'fin', share: 0.74 }, tail: 1 },
    { name: 'fan', parent: 'tail_mid', on: { line: 'fan', share: 0.35 }, tail: 1 },
  ],
};

/** The trunk of fingers is the way from the wrist to the middle one. */
export const HAND_16: SkeletonTemplate = {
  id: 'hand-16',
  title: 'Hand of 16 joints',
  about: 'A wrist, a thumb and four fingers of three joints each. The wrist is down, the thumb to the left (+X) or the right as it is.',
  ends: [
    { id: 'wrist', place: [0, 0, 0] },
    { id: 'thumb', place: [1, 0.6, 0] },
    { id: 'first', place: [0.5, 0.95, 0] },
    { id: 'second', place: [0.1, 1, 0] },
    { id: 'third', place: [-0.3, 0.95, 0] },
    { id: 'fourth', place: [-0.75, 0.85, 0] },
  ],
  lines: ['thumb', 'first', 'second', 'third', 'fourth'].map((finger) => ({ id: finger, from: { end: 'wrist' }, to: finger })),
  joints: [
    { name: 'wrist', parent: null, on: { line: 'second', share: 0.06 } },
    ...['thumb', 'first', 'second', 'third', 'fourth'].flatMap((finger) => {
      const [low, mid, high] = finger === 'thumb' ? [0.42, 0.62, 0.8] : [0.52, 0.7, 0.85];
      return [
        { name: `${finger}_1`, parent: 'wrist', on: { line: finger, share: low } },
        { name: `${finger}_2`, parent: `${finger}_1`, on: { line: finger, share: mid } },
        { name: `${finger}_3`, parent: `${finger}_2`, on: { line: finger, share: high }, tail: 1 },
      ];
    }),
  ],
};

/** A chain along the longest way through the body: necks, tentacles, ropes. */
export function chainTemplate(count: number): SkeletonTemplate {
  return {
    id: `chain-${count}`,
    title: `Chain of ${count}`,
    about: 'One after the other along the longest way through the body, from its lower or hinder end.',
    ends: [
      { id: 'begin', place: [0, 0, -1] },
      { id: 'end', place: [0, 1, 1] },
    ],
    lines: [{ id: 'chain', from: { end: 'begin' }, to: 'end' }],
    joints: Array.from({ length: count }, (_, i) => ({
      name: `link_${String(i + 1).padStart(2, '0')}`,
      parent: i === 0 ? null : `link_${String(i).padStart(2, '0')}`,
      on: { line: 'chain', share: i / count },
      ...(i === count - 1 ? { tail: 1 } : {}),
    })),
  };
}
