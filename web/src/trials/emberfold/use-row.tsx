'use client';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import type { BehavioursRules } from '@itchkit/core/behaviour';
import { figure } from '@itchkit/core/rulebook';
import { BodyRow, spreadable, type FieldBody, type FieldWish } from '@itchkit/core/trial';
import { Choice } from '../../card/Choice';
import { setSlice, useOpenKit } from '../../session/context';
import type { InTrial, RowPose } from '../trial-state';

/** How many stand beside the one that is worked. */
const BESIDE = 9;
const [ALONE, ALIKE] = ['', 'alike'];

interface Row {
  /** Hears what is passed in, frame by frame. */
  each: (wish: FieldWish, body: FieldBody) => void;
  /** How they stand now; null where there are none. @param turned The turn of a root for a facing, degrees */
  poses: (turned: (facing: number) => [number, number, number]) => RowPose[] | null;
  /** Where it is said who stands there. */
  choice: ReactNode;
}

/** Nine more bodies beside the one that is worked: alike, or each with another value of a number. */
export function useRow({ kit, blobs }: InTrial, rules: BehavioursRules): Row {
  const { ui } = useOpenKit();
  const [by, setBy] = useState(ALONE);
  const row = useRef<{ row: BodyRow; of: FieldBody; by: string } | null>(null);
  const numbers = spreadable(rules);
  useEffect(() => {
    if (by !== ALONE) return;
    row.current = null;
    setSlice(ui, 'trial', { row: null });
  }, [by, ui]);
  useEffect(() => () => setSlice(ui, 'trial', { row: null }), [ui]);
  const each = useCallback(
    (wish: FieldWish, of: FieldBody) => {
      if (by === ALONE) return;
      // Where the one is put down again, so are the others.
      if (row.current?.of !== of || row.current.by !== by) {
        const rule = spreadable(rules).find(({ name }) => name === by) ?? null;
        row.current = { row: new BodyRow(kit, blobs, rules, rule, BESIDE), of, by };
      }
      row.current.row.frame(wish);
    },
    [kit, blobs, rules, by],
  );
  const poses = useCallback((turned: (facing: number) => [number, number, number]) => {
    if (!row.current) return null;
    const { bodies, values, unit } = row.current.row;
    return bodies.map((body, i): RowPose => {
      const pose = body.newPose();
      body.pose(pose);
      const { place, facing } = body.now();
      return { pose, turn: turned(facing), place, facing, label: values.length > 0 ? `${figure(values[i], 1)} ${unit}` : '' };
    });
  }, []);
  const options = [
    [ALONE, 'nobody'] as const,
    [ALIKE, 'nine more, alike'] as const,
    ...numbers.map(({ name, title, min, max }) => [name, `nine more, ${title} from ${min} to ${max}`] as const),
  ];
  return { each, poses, choice: <Choice label="Beside it" value={by} options={options} onChange={setBy} /> };
}
