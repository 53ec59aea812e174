'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { callOf, count, freeName, newId } from '@itchkit/core/document';
import { floodTriangles, graphOf, growTriangles, runsOf, shrinkTriangles, wholeMesh } from '@itchkit/core/geometry';
import { splitFaces } from '@itchkit/core/shape';
import { TryButton } from '../../card/TryButton';
import { NumberField } from '../../card/NumberField';
import { Buttons } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { useKit, useOpenKit, useSetUi, useUi } from '../../session/context';
import { SplitChoiceFields, useSplitChoice } from './SplitChoiceFields';

/** The chosen faces: made more, fewer, others; and split off. */
export function FacesSection() {
  const kit = useKit();
  const { session } = useOpenKit();
  const setUi = useSetUi();
  const faces = useUi((state) => state.faces);
  const spread = useUi((state) => state.spreadDegrees);
  const [choice, setChoice] = useSplitChoice();
  const [name, setName] = useState<string | null>(null);
  const part = faces ? kit.parts[faces.part] : undefined;
  const mesh = part?.mesh ? kit.meshes[part.mesh] : null;
  const free = part ? freeName(`${part.name}_piece`, new Set(Object.values(kit.parts).map((one) => one.name))) : '';

  const change = (edit: (chosen: ReadonlySet<number>) => Set<number>) =>
    faces && setUi({ faces: { part: faces.part, chosen: edit(faces.chosen) } });
  const graph = () => graphOf(mesh!, session.blobs);
  const total = mesh ? wholeMesh(mesh, session.blobs).starts.at(-1)! : 0;
  const byMaterial = (chosen: ReadonlySet<number>) => {
    const { starts } = wholeMesh(mesh!, session.blobs);
    const wanted = new Set(
      mesh!.primitives.flatMap((primitive, p) =>
        [...chosen].some((face) => face >= starts[p] && face < starts[p + 1]) ? [primitive.material] : [],
      ),
    );
    const all = new Set(chosen);
    mesh!.primitives.forEach((primitive, p) => {
      if (wanted.has(primitive.material)) for (let face = starts[p]; face < starts[p + 1]; face++) all.add(face);
    });
    return all;
  };
  const [id, setId] = useState(newId);
  const split = () =>
    faces ? callOf(splitFaces, { part: faces.part, faces: runsOf(faces.chosen), id, name: name?.trim() || free, ...choice }) : null;
  const done = () => {
    setName(null);
    setId(newId());
    setUi({ faces: null, selection: [id], pickMode: 'parts' });
  };

  return (
    <Section
      title="Chosen faces"
      aside={
        <span style={{ fontSize: 12 }}>
          {part && mesh ? `${faces!.chosen.size.toLocaleString('en')} of ${total.toLocaleString('en')} of ${part.name}` : 'none'}
        </span>
      }
    >
      <Box sx={{ display: 'grid', gap: 2, mt: 1 }}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1.5, alignItems: 'start' }}>
          <NumberField
            label="A click spreads up to edges of"
            unit="°"
            value={spread ?? 0}
            min={0}
            max={180}
            step={5}
            digits={1}
            hint="0 takes single faces, 180 a whole piece"
            onCommit={(degrees) => setUi({ spreadDegrees: degrees > 0 ? degrees : null })}
          />
        </Box>
        {part && mesh && (
          <>
            <Buttons>
              <Button variant="outlined" onClick={() => change((chosen) => growTriangles(graph(), chosen))}>
                Grow
              </Button>
              <Button variant="outlined" onClick={() => change((chosen) => shrinkTriangles(graph(), chosen))}>
                Shrink
              </Button>
              <Button variant="outlined" onClick={() => change((chosen) => floodTriangles(graph(), chosen, 180))}>
                Whole pieces
              </Button>
              <Button variant="outlined" onClick={() => change(byMaterial)}>
                Same material
              </Button>
              <Button
                variant="outlined"
                onClick={() =>
                  change((chosen) => new Set(Array.from({ length: total }, (_, face) => face).filter((face) => !chosen.has(face))))
                }
              >
                The others
              </Button>
              <Button onClick={() => setUi({ faces: null })}>Let go</Button>
            </Buttons>
            <SplitChoiceFields choice={choice} onChange={setChoice} name={name ?? free} onName={setName} />
            <TryButton variant="contained" disabled={faces!.chosen.size === 0 || faces!.chosen.size === total} calls={split} onDone={done}>
              Split off {count(faces!.chosen.size, 'face')}
            </TryButton>
          </>
        )}
      </Box>
    </Section>
  );
}
