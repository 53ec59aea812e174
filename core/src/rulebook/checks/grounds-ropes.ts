import type { RopeFault } from '../../grounds';
import type { Kit } from '../../document';
import type { Check, Mend, MendWay, Said } from '../types';
import { figure } from '../wording';
import { faultsOfWay, findWayMend, groupsOf, needsGrounds } from './grounds-shared';

const TITLES = {
  gap: 'A rope over nothing',
  step: 'A step too high',
  through: 'A rope through something',
  edge: 'No rail beside a drop',
} as const satisfies Record<RopeFault['kind'], string>;

const placeWords = ([x, , z]: readonly number[]) => `${figure(x, 2)} m to the side, ${figure(z, 2)} m ahead`;

function messageOf(kit: Kit, { kind, at, by, cause }: RopeFault): string {
  const where = placeWords(at);
  switch (kind) {
    case 'gap':
      return Number.isFinite(by)
        ? `At ${where} the walkway is ${figure(1000 * by, 0)} mm off what can be walked on.`
        : `At ${where} there is nothing under the walkway, or it is off the tiles.`;
    case 'step':
      return `At ${where} the walkway goes up or down by ${figure(1000 * by, 0)} mm at once.`;
    case 'through': {
      const name = cause?.part ? `“${kit.parts[cause.part].name}”` : 'something';
      const how = { collider: `the collider of ${name}`, moving: `where ${name} comes`, part: name, ground: name }[cause?.kind ?? 'ground'];
      return `At ${where} the walkway leads through ${how}.`;
    }
    case 'edge':
      return `At ${where} the walkway goes along a drop without a rail.`;
  }
}

const takenAway = (rope: string): MendWay => ({
  title: 'Take the rope away',
  call: { operation: 'grounds.remove-ropes', args: { ropes: [rope] } },
  changes: ['its knots stay, and are no longer joined by it'],
});

function mendOf({ kind, rope }: RopeFault, anew: Mend | null): Mend {
  if (kind === 'edge')
    return {
      title: 'Put a rail there',
      safe: false,
      call: { operation: 'grounds.set-ropes', args: { ropes: [rope], rail: true } },
      changes: ['a rail stands beside this rope'],
    };
  return anew
    ? { ...anew, ways: [{ title: anew.title, call: anew.call, changes: anew.changes! }, takenAway(rope)] }
    : { ...takenAway(rope), safe: false };
}

/** Every rope can be walked: floor under it, no step too high, nothing in the way, a rail beside a drop. */
export const groundsRopes: Check = {
  id: 'grounds.ropes',
  family: 'grounds',
  stage: 'wiring',
  about: 'Every rope of the walkway can be walked: floor under it, no step too high, nothing in the way, a rail beside a drop',
  needs: needsGrounds,
  run(context): Said[] {
    const { kit, rulebook } = context;
    const rules = rulebook.grounds!;
    const { step, radius } = rules.visitor;
    const anew = groupsOf(context).length > 0 ? findWayMend(context, rules, 'Find the way anew') : null;
    return (faultsOfWay(context)?.ropes ?? []).map((fault): Said => {
      const { kind, by, cause, rope } = fault;
      const mend = mendOf(fault, anew);
      return {
        key: rope,
        title: TITLES[kind],
        message: messageOf(kit, fault),
        measured: kind === 'step' || (kind === 'gap' && Number.isFinite(by)) ? `${figure(1000 * by, 0)} mm` : kind,
        limit: kind === 'through' || kind === 'edge' ? `${figure(1000 * radius, 0)} mm to either side` : `${figure(1000 * step, 0)} mm`,
        parts: cause?.part ? [cause.part] : [],
        mend,
      };
    });
  },
};
