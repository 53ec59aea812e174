'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { callOf, count, type Id } from '@itchkit/core/document';
import { wholeMesh } from '@itchkit/core/geometry';
import { setVertexWeights, type SkinField } from '@itchkit/core/rig';
import { NumberField } from '../../card/NumberField';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRun, useSetSlice, useSetUi, useUi } from '../../session/context';

/** The weights of picked vertices as numbers: those of the faces that were chosen on the bench. */
export function VertexTable({ field }: { field: SkinField }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const setRig = useSetSlice('rig');
  const faces = useUi((state) => state.faces);
  const vertices = useUi((state) => state.rig.vertices);
  const locked = useUi((state) => state.rig.locked);
  const part = vertices && kit.parts[vertices.part]?.mesh ? vertices.part : null;
  const take = () => {
    const mesh = faces && kit.parts[faces.part]?.mesh;
    if (!faces || !mesh) return;
    const { indices } = wholeMesh(kit.meshes[mesh], session.blobs);
    const chosen = new Set([...faces.chosen].flatMap((face) => [indices[3 * face], indices[3 * face + 1], indices[3 * face + 2]]));
    setRig({ vertices: { part: faces.part, chosen: [...chosen] } });
    setUi({ faces: null, pickMode: 'parts' });
  };
  return (
    <Fold title="Vertices as numbers" aside={part ? count(vertices!.chosen.length, 'vertex', 'vertices') : undefined}>
      {!part && (
        <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Pick faces under “Hold by one joint”, then take their corners here.</Box>
      )}
      <Buttons>
        <Button variant="outlined" disabled={!faces || faces.chosen.size === 0} onClick={take}>
          Take the corners of {faces ? faces.chosen.size : 0} faces
        </Button>
        {part && <Button onClick={() => setRig({ vertices: null })}>Let go</Button>}
      </Buttons>
      {part && (
        <Rows
          field={field}
          part={part}
          vertices={vertices!.chosen}
          onSet={(joint, weight) =>
            run(
              callOf(setVertexWeights, {
                part,
                vertices: vertices!.chosen,
                weights: { [joint]: weight },
                locked: locked.filter((id) => id !== joint),
              }),
            )
          }
        />
      )}
    </Fold>
  );
}

function Rows({
  field,
  part,
  vertices,
  onSet,
}: {
  field: SkinField;
  part: Id;
  vertices: number[];
  onSet: (joint: Id, weight: number) => void;
}) {
  const kit = useKit();
  const span = field.spans.find((one) => one.part === part);
  if (!span) return <Box sx={{ fontSize: 13 }}>No joint holds “{kit.parts[part].name}”.</Box>;
  const width = field.joints.length;
  const places = [...new Set(vertices.map((vertex) => field.placeOf[span.start + vertex]))].filter((place) => place !== undefined);
  const rows = field.joints
    .map((joint, j) => {
      const values = places.map((place) => field.rows[place * width + j]);
      return {
        joint,
        least: Math.min(...values),
        most: Math.max(...values),
        mean: values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length),
      };
    })
    .filter(({ most }) => most > 1e-4)
    .sort((a, b) => b.mean - a.mean);
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {rows.map(({ joint, least, most, mean }) => (
        <NumberField
          key={joint}
          label={kit.parts[joint].name}
          value={Number(mean.toFixed(4))}
          min={0}
          max={1}
          step={0.05}
          digits={4}
          hint={most - least > 1e-4 ? `${least.toFixed(3)} to ${most.toFixed(3)}, the mean` : undefined}
          onCommit={(weight) => onSet(joint, weight)}
        />
      ))}
    </Box>
  );
}
