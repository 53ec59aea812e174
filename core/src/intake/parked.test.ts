import { callOf, checkKit } from '../document';
import { chainKit, run } from '../tests/helpers';
import { dropParked, giveParked, ParkedError } from './parked';

/** A kit whose part b is switched, after a new version of the source that has a part like a alone. */
function withoutB() {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  const spans = [{ from: 2, to: null }];
  const args = { part: 'b', variable: 'lamp', index: 3, spans, among: 'bulb' };
  const switched = run(kit, blobs, { operation: 'wiring.set-switch', args });
  const next = chainKit([{ id: 'n' }], blobs).kit;
  const taken = run(switched, blobs, { operation: 'intake.take-version', args: { next, base: null, matches: { n: 'a' } } });
  return { taken, blobs, before: switched.switches![0] };
}

test('a switch whose part went with a new version is parked, and shows another part by what it was', () => {
  const { taken, blobs, before } = withoutB();
  expect(taken.switches).toBeUndefined();
  expect(taken.parked).toMatchObject([{ kind: 'switch', partName: 'b', switch: before }]);
  const [parked] = taken.parked!;
  const given = run(taken, blobs, callOf(giveParked, { parked: [parked.id], part: 'a' }));
  expect(given.switches).toEqual([{ ...before, part: 'a' }]);
  expect(given.parked).toBeUndefined();
  expect(checkKit(given)).toBe(given);
});

test('what was parked and let go is gone, and can’t be given after that', () => {
  const { taken, blobs } = withoutB();
  const [{ id }] = taken.parked!;
  const dropped = run(taken, blobs, callOf(dropParked, { parked: [id] }));
  expect(dropped.parked).toBeUndefined();
  expect(() => run(dropped, blobs, callOf(giveParked, { parked: [id], part: 'a' }))).toThrow(ParkedError);
});
