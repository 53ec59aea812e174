import { partsInOrder, type Blobs, type Fact, type Grounds, type Id, type Kit } from '../document';
import { flattenParts, Poser, posedVertices } from '../geometry';
import { tilesAcross } from './tiles';
import { plumbHeight } from './sitting-place';
import type { FactRule, GroundsRules, MeasuredFact } from './rules';
import { statePlays } from './states';
import { triangleCorners } from './walk-world';

/** A roof stands at least this far above a seat, metres: what is nearer is its own back. */
const HEAD = 0.5;

/** Measures what the sheet of facts has of the kit itself: a count, per cent, seconds, tiles. Null where there is nothing to measure. */
export function measureFact(
  kit: Kit,
  blobs: Blobs,
  of: MeasuredFact,
  { seats, tile, rules }: { seats: readonly Id[]; tile: number; rules: GroundsRules },
): number | null {
  switch (of) {
    case 'capacity':
      return seats.length;
    case 'roofed':
      return seats.length === 0 ? null : (100 * roofedSeats(kit, blobs, seats)) / seats.length;
    case 'seconds': {
      const rides = statePlays(kit, rules).find(({ rule }) => rule.kind === 'rides');
      return rides?.clip ? rides.to - rides.from : 0;
    }
    case 'tiles': {
      const footprint = kit.grounds?.footprint;
      if (!footprint) return null;
      const [across, deep] = tilesAcross(footprint, tile);
      return across * deep - footprint.holes.length;
    }
  }
}

/** How many seats have something above them at rest: a plumb line up from the head of who sits there meets it. */
function roofedSeats(kit: Kit, blobs: Blobs, seats: readonly Id[]): number {
  const poser = new Poser(flattenParts(kit));
  const open = new Map(seats.map((id) => [id, poser.worldOf(id).subarray(12, 15)]));
  const triangle = new Float64Array(9);
  for (const part of partsInOrder(kit)) {
    if (part.mesh === null) continue;
    const vertices = posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id));
    const corners = triangleCorners(kit, blobs, part);
    for (let t = 0; t + 2 < corners.length && open.size > 0; t += 3) {
      for (let k = 0; k < 9; k++) triangle[k] = vertices[3 * corners[t + Math.floor(k / 3)] + (k % 3)];
      for (const [id, [x, y, z]] of open) {
        const height = plumbHeight(triangle, x, z);
        if (height !== null && height > y + HEAD) open.delete(id);
      }
    }
  }
  return seats.length - open.size;
}

/** What is wrong with a fact, as the end of a sentence; null where nothing is. */
export function factFault(rule: FactRule, value: Fact | undefined): string | null {
  if (rule.kind === 'measured') return null;
  if (value === undefined || value === '') return rule.needed ? 'is not said' : null;
  switch (rule.kind) {
    case 'number':
      if (typeof value !== 'number') return 'is no number';
      if (rule.whole && !Number.isInteger(value)) return `is ${value}, which is no whole number`;
      return value < rule.min || value > rule.max ? `is ${value}, which is not from ${rule.min} to ${rule.max}` : null;
    case 'choice':
      return rule.choices.includes(String(value)) ? null : `is “${value}”, which is none of ${rule.choices.join(', ')}`;
    case 'yes-no':
      return typeof value === 'boolean' ? null : 'is neither yes nor no';
    case 'text':
      return String(value).length > rule.longest ? `is ${String(value).length} characters long, and ${rule.longest} is the most` : null;
  }
}

/** The whole sheet: what was said, and what is measured. Facts that the platform does not know are left out. */
export function sheetOf(
  kit: Kit,
  blobs: Blobs,
  about: { seats: readonly Id[]; tile: number; rules: GroundsRules },
): Record<string, Fact | null> {
  const said: Grounds['facts'] = kit.grounds?.facts ?? {};
  return Object.fromEntries(
    about.rules.facts.map((rule) => [
      rule.name,
      rule.kind === 'measured' ? measureFact(kit, blobs, rule.of, about) : (said[rule.name] ?? null),
    ]),
  );
}
