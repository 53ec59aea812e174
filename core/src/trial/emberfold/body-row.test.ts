import fc from 'fast-check';
import type { BehavioursRules } from '../../behaviour';
import { MemoryBlobs, type Behaviour, type Kit, type Passage } from '../../document';
import { walkingBody } from '../../tests/walking-body';
import { BodyRow, spreadable } from './body-row';
import { FieldBody } from './field-body';

const blobs = new MemoryBlobs();
const rules: BehavioursRules = {
  chain: 4,
  parameters: [
    { name: 'ahead', title: 'Ahead', about: '', kind: 'number', unit: 'm/s', min: -2, max: 7, moves: 'ahead' },
    { name: 'side', title: 'Side', about: '', kind: 'number', unit: 'm/s', min: -3, max: 3, moves: 'left', always: 0 },
    { name: 'down', title: 'Lies', about: '', kind: 'yes-no' },
  ],
};
const way = (from: string, to: string, atLeast: number | null, below: number | null): Passage => ({
  id: `${from} ${to}`,
  from,
  to,
  except: [],
  when: [{ kind: 'range', parameter: 'ahead', atLeast, below }],
  over: 0.2,
  after: 'any',
});
const behaviour: Behaviour = {
  layers: [
    {
      id: 'body',
      name: 'Body',
      parts: [],
      how: 'replaces',
      first: 'stand',
      states: ['stand', 'go'].map((id) => ({ id, name: id, clip: id === 'go' ? 'walk' : 'idle', speed: 1, loop: true })),
      passages: [way('stand', 'go', 1, null), way('go', 'stand', null, 1)],
    },
  ],
};
const kit: Kit = { ...walkingBody(blobs, ['idle', 'walk', 'run']), behaviour };

const poseOf = (body: FieldBody): number[] => {
  const pose = body.newPose();
  body.pose(pose);
  return [...pose.offset, ...pose.spin];
};

test('what may differ is a number that the platform passes in', () => {
  expect(spreadable(rules).map(({ name }) => name)).toEqual(['ahead']);
});

test('each body of a row is as one alone that is passed in its number', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 2, max: 10 }),
      fc.array(fc.record({ ahead: fc.double({ min: -2, max: 7, noNaN: true }), frames: fc.integer({ min: 1, max: 20 }) }), {
        minLength: 1,
        maxLength: 4,
      }),
      fc.boolean(),
      (count, wishes, differ) => {
        const row = new BodyRow(kit, blobs, rules, differ ? spreadable(rules)[0] : null, count);
        const alone = row.bodies.map(() => new FieldBody(kit, blobs, rules));
        for (const { ahead, frames } of wishes)
          for (let f = 0; f < frames; f++) {
            row.frame({ values: { ahead }, turning: 30 });
            alone.forEach((body, i) => body.frame({ values: { ahead: differ ? row.values[i] : ahead }, turning: 30 }));
          }
        if (differ) expect([row.values[0], row.values[count - 1]]).toEqual([-2, 7]);
        row.bodies.forEach((body, i) => {
          expect(poseOf(body)).toEqual(poseOf(alone[i]));
          expect(body.now().place).toEqual(alone[i].now().place);
        });
      },
    ),
    { numRuns: 15 },
  );
});
