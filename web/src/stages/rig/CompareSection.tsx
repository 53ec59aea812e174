'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { callOf, newId, type Call, type Kit, type Vec3 } from '@itchkit/core/document';
import { restWorlds } from '@itchkit/core/geometry';
import { reparentParts } from '@itchkit/core/shape';
import {
  addJoints,
  compareSkeletons,
  headOf,
  jointsInOrder,
  jointsLike,
  nameJoints,
  referenceOf,
  tailOf,
  type JointRow,
  type JointState,
  type ReferenceJoint,
} from '@itchkit/core/rig';
import type { Rulebook } from '@itchkit/core/rulebook';
import { useState } from 'react';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRulebook, useRun, useSetUi } from '../../session/context';
import { useKitBeside } from '../../session/use-kit-beside';
import { guessScale } from './guess-scale';

const WORDS: Record<JointState, string> = {
  matched: 'as it should be',
  misnamed: 'another name',
  'wrong-parent': 'hangs elsewhere',
  misplaced: 'stands elsewhere',
  'other-rest': 'lies otherwise at rest',
  missing: 'missing',
  extra: 'not asked for',
};

/** The kit's skeleton beside the target's, or that of another kit of the shelf, joint by joint, with what sets each right. */
export function CompareSection() {
  const rulebook = useRulebook();
  return (
    <Fold
      title={rulebook?.skeleton ? `Beside ${rulebook.title}’s skeleton` : 'Beside another skeleton'}
      aside={rulebook?.skeleton && <Matched rulebook={rulebook} />}
    >
      <Beside rulebook={rulebook?.skeleton ? rulebook : null} />
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

function Beside({ rulebook }: { rulebook: Rulebook | null }) {
  const { kits, other, setOther, beside: loaded, failed } = useKitBeside();
  const beside = loaded && referenceOf(loaded.kit);
  const asked = rulebook ? referenceFrom(rulebook) : null;
  const reference = other === '' ? asked : beside;
  return (
    <>
      <Choice label="Beside" value={other} options={[['', rulebook ? rulebook.title : 'choose a kit'], ...kits]} onChange={setOther} />
      {failed && <Box sx={{ fontSize: 13 }}>That kit could not be read. Choose another.</Box>}
      {reference?.length === 0 && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>That kit has no joints.</Box>}
      {reference && reference.length > 0 && <Table title={other === '' ? rulebook!.title : (loaded?.name ?? '')} reference={reference} />}
      {other !== '' && loaded && <TakeOver other={loaded.kit} />}
    </>
  );
}

/** The joints of the other kit made in this one, at this one's size. */
function TakeOver({ other }: { other: Kit }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const joints = jointsInOrder(other);
  const [scale, setScale] = useState(() => guessScale(kit, other, session.blobs));
  const tops = Object.values(kit.parts).filter((part) => part.parent === null);
  const calls = () => {
    const ids = new Map(joints.map((id) => [id, newId()]));
    return callOf(addJoints, { joints: jointsLike(other, scale, (id) => ids.get(id)!, tops.length === 1 ? tops[0].id : null) });
  };
  if (joints.length === 0) return null;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '96px 1fr', gap: 1.5, alignItems: 'start' }}>
      <NumberField label="At" unit="×" value={scale} min={0.001} max={1000} step={0.05} digits={3} onCommit={setScale} />
      <TryButton calls={calls}>Make its {joints.length} joints here</TryButton>
    </Box>
  );
}

function Table({ title, reference }: { title: string; reference: ReferenceJoint[] }) {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const rows = compareSkeletons(kit, reference);
  const all = rows.flatMap((row) => mendOf(kit, row, reference, rows) ?? []);
  return (
    <>
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          fontSize: 12.5,
          '& td, & th': { py: 0.5, textAlign: 'left', borderBottom: 1, borderColor: 'divider', verticalAlign: 'top' },
        }}
      >
        <thead>
          <tr>
            <th>{title}</th>
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
                    <ButtonBase
                      onClick={() => setUi({ selection: [row.joint!] })}
                      sx={{ fontSize: 12.5, textDecoration: 'underline dotted', textAlign: 'left' }}
                    >
                      {kit.parts[row.joint].name}
                    </ButtonBase>
                  ) : (
                    '–'
                  )}
                  {!sound && (
                    <Box sx={{ color: row.states[0] === 'extra' || !row.needed ? 'text.secondary' : 'kit.stop' }}>
                      {row.states.map((state) => WORDS[state]).join(', ')}
                    </Box>
                  )}
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
    return [callOf(addJoints, { joints: [{ id: newId(), name: wanted.name, parent, at: row.place ?? placeBelow(kit, parent) }] })];
  }
  const calls: Call[] = [];
  if (row.states.includes('misnamed')) calls.push(callOf(nameJoints, { names: { [row.joint]: wanted.name } }));
  if (row.states.includes('wrong-parent') && parent !== null)
    calls.push(callOf(reparentParts, { parts: [row.joint], parent, keep: 'world' }));
  return calls.length > 0 ? calls : null;
}

function placeBelow(kit: Kit, parent: string | null): Vec3 {
  if (parent === null) return [0, 0, 0];
  const worlds = restWorlds(kit);
  return tailOf(kit, parent, new Set(jointsInOrder(kit)), worlds) ?? headOf(worlds, parent);
}
