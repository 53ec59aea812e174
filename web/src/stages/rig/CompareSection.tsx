'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import {
  addJoints,
  callOf,
  compareSkeletons,
  headOf,
  jointsInOrder,
  newId,
  renameParts,
  reparentParts,
  restWorlds,
  tailOf,
  type Call,
  type JointRow,
  type JointState,
  type Kit,
  type ReferenceJoint,
  type Rulebook,
  type Vec3,
} from '@itchkit/core';
import { Fold } from '../../frame/Fold';
import { useKit, useRulebook, useRun, useSetUi } from '../../session/context';

const WORDS: Record<JointState, string> = {
  matched: 'as it should be',
  misnamed: 'another name',
  'wrong-parent': 'hangs elsewhere',
  misplaced: 'stands elsewhere',
  'other-rest': 'lies otherwise at rest',
  missing: 'missing',
  extra: 'not asked for',
};

/** The target's skeleton and the kit's, joint by joint, with what sets each right. */
export function CompareSection() {
  const rulebook = useRulebook();
  if (!rulebook?.skeleton) return null;
  return (
    <Fold title={`Beside ${rulebook.title}’s skeleton`} aside={<Matched rulebook={rulebook} />}>
      <Table rulebook={rulebook} />
    </Fold>
  );
}

const referenceFrom = (rulebook: Rulebook): ReferenceJoint[] => rulebook.skeleton!.map((joint) => ({ ...joint, at: null, rotation: null }));

function Matched({ rulebook }: { rulebook: Rulebook }) {
  const rows = compareSkeletons(useKit(), referenceFrom(rulebook));
  return (
    <span className="figures">
      {rows.filter(({ states }) => states[0] === 'matched').length}/{rulebook.skeleton!.length}
    </span>
  );
}

function Table({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const reference = referenceFrom(rulebook);
  const rows = compareSkeletons(kit, reference);
  const all = rows.flatMap((row) => mendOf(kit, row, reference, rows) ?? []);
  return (
    <>
      <Box
        component="table"
        sx={{ width: '100%', borderCollapse: 'collapse', fontSize: 12.5, '& td, & th': { py: 0.5, textAlign: 'left', borderBottom: 1, borderColor: 'divider', verticalAlign: 'top' } }}
      >
        <thead>
          <tr>
            <th>{rulebook.title}</th>
            <th>this kit</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const mend = mendOf(kit, row, reference, rows);
            const sound = row.states[0] === 'matched';
            return (
              <tr key={row.wanted ?? row.joint}>
                <td style={{ paddingLeft: 7 * row.depth }}>{row.wanted ?? '–'}</td>
                <td>
                  {row.joint ? (
                    <ButtonBase onClick={() => setUi({ selection: [row.joint!] })} sx={{ fontSize: 12.5, textDecoration: 'underline dotted', textAlign: 'left' }}>
                      {kit.parts[row.joint].name}
                    </ButtonBase>
                  ) : (
                    '–'
                  )}
                  {!sound && <Box sx={{ color: row.states[0] === 'extra' || !row.needed ? 'text.secondary' : 'kit.stop' }}>{row.states.map((state) => WORDS[state]).join(', ')}</Box>}
                </td>
                <td style={{ textAlign: 'right' }}>
                  {mend && (
                    <Button size="small" onClick={() => run(mend, `Set “${row.wanted}” right`)}>
                      Mend
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Box>
      {all.length > 1 && (
        <Button variant="outlined" onClick={() => run(all, 'Set the skeleton right')}>
          Mend all {all.length}
        </Button>
      )}
    </>
  );
}

/** What makes a row match: another name, another parent, or a joint where it is missing. */
function mendOf(kit: Kit, row: JointRow, reference: readonly ReferenceJoint[], rows: readonly JointRow[]): Call[] | null {
  if (row.wanted === null) return null;
  const wanted = reference.find(({ name }) => name === row.wanted)!;
  const parent = wanted.parent === null ? null : (rows.find((one) => one.wanted === wanted.parent)?.joint ?? null);
  if (row.joint === null) {
    // A joint is made where its parent ends; those whose parent is missing too come after it.
    if (wanted.parent !== null && parent === null) return null;
    return [callOf(addJoints, { joints: [{ id: newId(), name: wanted.name, parent, at: placeBelow(kit, parent) }] })];
  }
  const calls: Call[] = [];
  if (row.states.includes('misnamed')) calls.push(callOf(renameParts, { names: { [row.joint]: wanted.name } }));
  if (row.states.includes('wrong-parent') && parent !== null) calls.push(callOf(reparentParts, { parts: [row.joint], parent, keep: 'world' }));
  return calls.length > 0 ? calls : null;
}

function placeBelow(kit: Kit, parent: string | null): Vec3 {
  if (parent === null) return [0, 0, 0];
  const worlds = restWorlds(kit);
  return tailOf(kit, parent, new Set(jointsInOrder(kit)), worlds) ?? headOf(worlds, parent);
}
