'use client';
import Box from '@mui/material/Box';
import type { ParameterRule } from '@itchkit/core/behaviour';
import { count } from '@itchkit/core/document';
import { compareBehaviours, type BehaviourRow } from '@itchkit/core/ship';
import { Choice } from '../../../card/Choice';
import { Fold } from '../../../panels/Fold';
import { useKit, useSetSlice } from '../../../session/context';
import { useKitBeside } from '../../../session/use-kit-beside';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** What this kit plays beside what another one of the shelf does: what differs, by names. */
export function BesideSection({ parameters }: { parameters: readonly ParameterRule[] }) {
  const kit = useKit();
  const { kits, other, setOther, beside, failed } = useKitBeside();
  const compared = beside && compareBehaviours(kit, beside.kit, parameters);
  return (
    <Fold title="Beside another kit" aside={compared && other !== '' ? compared.differ.length : undefined}>
      <Choice label="Behaviour of" value={other} options={[['', 'choose a kit'] as const, ...kits]} onChange={setOther} />
      {failed && <Box sx={{ ...small, mt: 1 }}>That kit could not be read. Choose another.</Box>}
      {other !== '' && beside && compared && (
        <Box sx={{ mt: 1.5 }}>
          {beside.kit.behaviour === undefined && <Box sx={small}>“{beside.name}” says nothing of what plays when.</Box>}
          {compared.differ.length > 0 && <Rows title={beside.name} rows={compared.differ} />}
          <Box role="status" sx={{ ...small, mt: 1 }}>
            {compared.differ.length === 0
              ? `Nothing differs: ${count(compared.alike, 'thing')} alike.`
              : `${count(compared.differ.length, 'thing')} differ, ${compared.alike.toLocaleString('en')} alike.`}
          </Box>
        </Box>
      )}
    </Fold>
  );
}

function Rows({ title, rows }: { title: string; rows: readonly BehaviourRow[] }) {
  const kit = useKit();
  const set = useSetSlice('behaviour');
  const layerOf = ({ of }: BehaviourRow) => kit.behaviour?.layers.find(({ name }) => name === of);
  return (
    <Box
      component="table"
      aria-label={`Behaviour beside ${title}`}
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        fontSize: 12,
        lineHeight: 1.45,
        '& td, & th': { py: 0.5, pr: 1, textAlign: 'left', borderBottom: 1, borderColor: 'divider', verticalAlign: 'top' },
      }}
    >
      <thead>
        <tr>
          <th scope="col">what</th>
          <th scope="col">here</th>
          <th scope="col">{title}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const layer = layerOf(row);
          const what = row.of === null ? row.name : `${row.of}: ${row.name}`;
          return (
            <tr key={what}>
              <td>
                {layer ? (
                  <Box
                    component="button"
                    type="button"
                    onClick={() => set({ layer: layer.id, view: 'passages', search: row.name.split(' → ')[0] })}
                    sx={{
                      all: 'unset',
                      cursor: 'pointer',
                      textDecoration: 'underline dotted',
                      '&:focus-visible': { outline: '2px solid' },
                    }}
                  >
                    {what}
                  </Box>
                ) : (
                  what
                )}
              </td>
              <td>{row.here ?? '–'}</td>
              <td>{row.there ?? '–'}</td>
            </tr>
          );
        })}
      </tbody>
    </Box>
  );
}
