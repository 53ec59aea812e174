import { count, nameList, readArray, type Blobs, type Kit } from '../document';
import { boundsByPart, isEmptyBounds, joinBounds, meshCounts, sizeOf } from '../geometry';
import type { Rulebook } from './types';
import { figure } from './wording';

/** A platform that a kit may be for, and what speaks for it, the strongest first. */
export interface LikelyTarget {
  rulebook: Rulebook;
  /** How much speaks for it; what speaks against it counts below 0. */
  score: number;
  reasons: string[];
}

interface Facts {
  kit: Kit;
  skeleton: boolean;
  clips: string[];
  boxes: boolean;
  /** Parts that show something. */
  shown: number;
  /** Metres to the side, up, forward; null where nothing is shown. */
  size: number[] | null;
}

/** A box has no more triangles than this. */
const BOX = 12;

/** Whether a mesh is a box or a plate along its own axes: its 8 or 4 corners, every one at one of two values an axis. */
function isBox(kit: Kit, mesh: string, blobs: Blobs): boolean {
  if (meshCounts(kit, mesh).triangles > BOX) return false;
  const seen = [new Set<number>(), new Set<number>(), new Set<number>()];
  const corners = new Set<string>();
  for (const { attributes } of kit.meshes[mesh].primitives) {
    const places = readArray<Float32Array>(blobs, attributes.POSITION).map((value) => Math.round(value * 1e4));
    places.forEach((value, i) => seen[i % 3].add(value));
    for (let v = 0; v < places.length; v += 3) corners.add(places.slice(v, v + 3).join());
  }
  return seen.every((values) => values.size <= 2) && (corners.size === 8 || corners.size === 4);
}

function factsOf(kit: Kit, blobs: Blobs): Facts {
  const shown = Object.values(kit.parts).filter((part) => part.mesh !== null);
  const all = joinBounds(boundsByPart(kit, blobs).values());
  return {
    kit,
    skeleton: Object.keys(kit.skins).length > 0,
    clips: Object.values(kit.clips).map(({ name }) => name),
    boxes: shown.length > 1 && shown.every((part) => isBox(kit, part.mesh!, blobs)),
    shown: shown.length,
    size: isEmptyBounds(all) ? null : [...sizeOf(all)],
  };
}

/** Something that speaks for a platform, or against it. */
type Sign = (facts: Facts, rulebook: Rulebook) => { score: number; reason?: string } | null;

const asks = (rulebook: Rulebook, check: string) => rulebook.rules.find((rule) => rule.check === check);

const SIGNS: readonly Sign[] = [
  ({ skeleton }, rulebook) => {
    const wants = rulebook.skeleton !== undefined || asks(rulebook, 'skin.present') !== undefined;
    if (wants) return skeleton ? { score: 4, reason: 'it has a skeleton, which is wanted here' } : { score: -3 };
    return skeleton && !rulebook.rules.some(({ check }) => check.startsWith('skin.') || check === 'budgets.joints') ? { score: -2 } : null;
  },
  ({ boxes }, rulebook) => {
    const limit = asks(rulebook, 'budgets.part-triangles')?.limit ?? Infinity;
    if (limit > BOX) return null;
    return boxes ? { score: 4, reason: 'every part of it is a box' } : { score: -3 };
  },
  ({ clips }, { motion }) => {
    const known = (motion?.clips ?? []).filter((slot) => clips.some((name) => name.toLowerCase() === slot.name.toLowerCase()));
    if (known.length === 0) return null;
    return { score: 1 + known.length, reason: `it has clips that are played here: ${nameList(known.map(({ name }) => name))}` };
  },
  ({ clips }, rulebook) =>
    clips.length === 1 && asks(rulebook, 'clips.only-one') ? { score: 1.5, reason: 'it has one clip, as is wanted here' } : null,
  ({ clips }, rulebook) => (clips.length > 0 && !rulebook.motion ? { score: -1 } : null),
  ({ skeleton, clips, shown }, { variables }) =>
    variables.length > 0 && !skeleton && clips.length === 0 && shown > 2
      ? { score: 2, reason: `it is ${count(shown, 'rigid part')}, which the platform’s variables can move` }
      : null,
  ({ skeleton, clips, shown }, rulebook) =>
    asks(rulebook, 'assembly.present') && !skeleton && clips.length === 0 && shown > 1
      ? { score: 1, reason: `it is ${count(shown, 'rigid part')}, which can be hinged` }
      : null,
  ({ size }, { sizeClasses = [] }) => {
    if (size === null || sizeClasses.length === 0) return null;
    const fits = sizeClasses.find(({ max }) => size.every((value, axis) => value <= max[axis] + 1e-6));
    if (!fits) return { score: -2 };
    const metres = size.map((value) => figure(value, value < 1 ? 2 : 1)).join(' × ');
    return { score: 1, reason: `at ${metres} m it is a “${fits.name}”: ${fits.about}` };
  },
];

/** Rulebooks in the order in which a kit may be for them, with what speaks for each. Of those alike the order stays. */
export function likelyTargets(kit: Kit, rulebooks: readonly Rulebook[], blobs: Blobs): LikelyTarget[] {
  const facts = factsOf(kit, blobs);
  return rulebooks
    .map((rulebook): LikelyTarget => {
      const signs = SIGNS.flatMap((sign) => sign(facts, rulebook) ?? []).sort((a, b) => b.score - a.score);
      return {
        rulebook,
        score: signs.reduce((sum, { score }) => sum + score, 0),
        reasons: signs.flatMap(({ score, reason }) => (score > 0 && reason ? [reason] : [])),
      };
    })
    .sort((a, b) => b.score - a.score);
}
