'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { callOf, freeName, jointsOf, newId, subtreeOf, type Axis, type Id, type Kit, type Vec3 } from '@itchkit/core/document';
import { restWorlds } from '@itchkit/core/geometry';
import { reparentParts } from '@itchkit/core/shape';
import {
  addJoints,
  bendOf,
  dissolveJoints,
  headOf,
  insertJoint,
  mirrorJoints,
  moveJoint,
  moveTail,
  rollJoints,
  setBend,
  tailOf,
  twinHead,
} from '@itchkit/core/rig';
import { twinName } from '@itchkit/core/rulebook';
import { useState } from 'react';
import { Choice } from '../../card/Choice';
import { TryButton } from '../../card/TryButton';
import { NumberField } from '../../card/NumberField';
import { VectorField } from '../../card/VectorField';
import { Buttons, Fold } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { useKit, useRulebook, useRun, useSetUi, useUi } from '../../session/context';
import { NameAndRole } from '../shape/NameAndRole';

/** The chosen joints: where they begin and end, what hangs from them, how their axes lie. */
export function JointSection({ joints }: { joints: Id[] }) {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const rulebook = useRulebook();
  const all = jointsOf(kit);
  const taken = new Set(Object.values(kit.parts).map((part) => part.name));
  const [first] = joints;
  const part = kit.parts[first];
  const one = joints.length === 1;
  const worlds = restWorlds(kit);
  const head = headOf(worlds, first);
  const tail = tailOf(kit, first, all, worlds);
  const add = () => {
    const id = newId();
    const from = tail ?? head;
    const way = tail ? tail.map((value, axis) => value - head[axis]) : [0, 0.1, 0];
    const end = from.map((value, axis) => value + 0.6 * way[axis]) as Vec3;
    run(callOf(addJoints, { joints: [{ id, name: freeName(`${part.name}_end`, taken), parent: first, at: from, tail: end }] }));
  };
  const insert = () => {
    const id = newId();
    run(callOf(insertJoint, { id, name: freeName(`${part.name}_upper`, taken), above: first }));
  };
  const branch = [...new Set(joints.flatMap((id) => [...subtreeOf(kit, id)]))].filter((id) => all.has(id));
  const names = Object.fromEntries(branch.map((id) => [id, twinName(kit.parts[id].name, rulebook?.naming.sides)]));
  const sided = branch.filter((id) => names[id] !== kit.parts[id].name);
  const mirror = () => callOf(mirrorJoints, { joints: branch, names, ids: Object.fromEntries(branch.map((id) => [id, newId()])) });
  return (
    <>
      <Typography variant="h2" sx={{ px: 3, pt: 2.5, overflowWrap: 'anywhere' }}>
        {one ? part.name : `${joints.length} joints`}
      </Typography>
      <Section title="Joint">
        <NameAndRole parts={joints.map((id) => kit.parts[id])} />
      </Section>
      {one && <Ends kit={kit} joint={first} head={head} tail={tail} />}
      {one && (
        <Section title="Skeleton">
          <Box sx={{ mt: 1, mb: 2 }}>
            <Choice
              label="Hangs below"
              value={part.parent ?? ''}
              options={[
                ['', 'nothing: at the top'],
                ...Object.values(kit.parts)
                  .filter(({ id }) => !subtreeOf(kit, first).has(id) && (all.has(id) || kit.parts[id].parent === null))
                  .map(({ id, name }) => [id, name] as const),
              ]}
              onChange={(parent) => run(callOf(reparentParts, { parts: [first], parent: parent === '' ? null : parent, keep: 'world' }))}
            />
          </Box>
          <Buttons>
            <Button variant="outlined" onClick={add}>
              Add one at its end
            </Button>
            <Button variant="outlined" disabled={part.parent === null} onClick={insert}>
              Insert one above
            </Button>
          </Buttons>
        </Section>
      )}
      <Section title="Both sides">
        <Box sx={{ mt: 1 }}>
          <Buttons>
            <TryButton disabled={sided.length === 0} title={sided.length === 0 ? 'No name tells a side' : undefined} calls={mirror}>
              Mirror {sided.length === 1 ? 'it' : `${sided.length} joints`} to the other side
            </TryButton>
            <Button variant="outlined" onClick={() => run(callOf(dissolveJoints, { joints })) && setUi({ selection: [] })}>
              Dissolve
            </Button>
          </Buttons>
        </Box>
      </Section>
      <Section
        title="Bend"
        aside={
          <span style={{ fontSize: 12 }}>
            {joints.every((id) => kit.parts[id].bendDegrees === undefined) ? 'by the name' : 'as you said'}
          </span>
        }
      >
        <Box sx={{ mt: 1 }}>
          <NumberField
            label="Either way"
            unit="°"
            step={5}
            min={1}
            max={180}
            value={joints.every((id) => bendOf(kit, id) === bendOf(kit, first)) ? bendOf(kit, first) : null}
            hint="As far as test poses bend it"
            onCommit={(degrees) => run(callOf(setBend, { joints, degrees }))}
          />
        </Box>
      </Section>
      <Roll joints={joints} />
    </>
  );
}

function Ends({ kit, joint, head, tail }: { kit: Kit; joint: Id; head: Vec3; tail: Vec3 | null }) {
  const run = useRun();
  const symmetric = useUi((state) => state.rig.symmetric);
  const twin = symmetric ? twinHead(kit, joint) : null;
  const along = twin !== null && twin !== joint ? { twin } : {};
  const tidy = (values: Vec3) => values.map((value) => Number(value.toFixed(6)) + 0) as Vec3;
  return (
    <Section
      title="Head and tail"
      aside={<span style={{ fontSize: 12 }}>{twin !== null && twin !== joint ? `with ${kit.parts[twin].name}` : 'the mesh stays'}</span>}
    >
      <VectorField
        title="Head"
        unit="m"
        step={0.01}
        digits={5}
        value={tidy(head)}
        onCommit={(at) => run(callOf(moveJoint, { joint, at, ...along }))}
      />
      {tail && (
        <VectorField
          title="Tail"
          unit="m"
          step={0.01}
          digits={5}
          value={tidy(tail)}
          onCommit={(at) => run(callOf(moveTail, { joint, at, ...along }))}
        />
      )}
    </Section>
  );
}

const DIRECTIONS: [string, string, Vec3][] = [
  ['+z', 'forward', [0, 0, 1]],
  ['-z', 'back', [0, 0, -1]],
  ['+y', 'up', [0, 1, 0]],
  ['+x', 'left', [1, 0, 0]],
  ['-x', 'right', [-1, 0, 0]],
];

/** The own axes laid along the joint, and rolled. */
function Roll({ joints }: { joints: Id[] }) {
  const [along, setAlong] = useState<Axis>(1);
  const [toward, setToward] = useState<Axis>(2);
  const [direction, setDirection] = useState('+z');
  const other = toward === along ? (((along + 1) % 3) as Axis) : toward;
  const axes = [
    [0, 'x'],
    [1, 'y'],
    [2, 'z'],
  ] as const;
  return (
    <Fold title="Own axes">
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <Choice label="Along the joint" value={along} options={axes} onChange={setAlong} />
        <Choice label="Rolled by" value={other} options={axes.filter(([axis]) => axis !== along)} onChange={setToward} />
      </Box>
      <Choice label="Towards" value={direction} options={DIRECTIONS.map(([id, title]) => [id, title] as const)} onChange={setDirection} />
      <TryButton
        calls={() => callOf(rollJoints, { joints, along, toward: other, direction: DIRECTIONS.find(([id]) => id === direction)![2] })}
      >
        Lay the axes so
      </TryButton>
    </Fold>
  );
}
