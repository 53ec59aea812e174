'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { callOf, freeName, newId, type Id, type Kit, type Material, type Part } from '@itchkit/core/document';
import { assignMaterial } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { useTrying } from '../../card/TryButton';
import { Fold } from '../../panels/Fold';
import { useKit, useRulebook, useRun } from '../../session/context';
import { MaterialEditor } from './MaterialEditor';
import { hexColour } from './colour';

/** Materials that some parts show, in order of first use. */
function materialsOf(kit: Kit, parts: readonly Part[]): Material[] {
  const ids = new Set(
    parts.flatMap((part) => (part.mesh === null ? [] : kit.meshes[part.mesh].primitives.flatMap(({ material }) => material ?? []))),
  );
  return [...ids].map((id) => kit.materials[id]);
}

/** What the chosen parts are painted with, and what else they could be. */
export function MaterialsSection({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const shown = parts.filter((part) => part.mesh !== null);
  if (shown.length === 0) return null;
  return (
    <Fold title="Materials" aside={materialsOf(kit, shown).length || 'none'}>
      <Materials parts={shown} />
    </Fold>
  );
}

const NEW = 'new';

function Materials({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const run = useRun();
  const rulebook = useRulebook();
  const own = materialsOf(kit, parts);
  const [open, setOpen] = useState<Id | null>(own.length === 1 ? own[0].id : null);
  const taken = new Set(Object.values(kit.materials).map(({ name }) => name));
  const slot = rulebook?.materials?.slots?.find(({ name }) => !taken.has(name));
  const by = useTrying();
  const assigning = (id: string, material: Id) =>
    callOf(assignMaterial, {
      parts: parts.map((part) => part.id),
      material,
      ...(id === NEW ? { name: slot?.name ?? freeName('material', taken) } : {}),
    });
  const assign = (id: string) => {
    by.stop();
    const material = id === NEW ? newId() : id;
    if (run(assigning(id, material))) setOpen(material);
  };
  return (
    <>
      {own.map((material) => (
        <Box key={material.id}>
          <ButtonBase
            onClick={() => setOpen(open === material.id ? null : material.id)}
            aria-expanded={open === material.id}
            sx={{
              width: '100%',
              gap: 2,
              py: 0.75,
              px: 1,
              fontSize: 13,
              justifyContent: 'flex-start',
              borderRadius: 1,
              '&:hover': { bgcolor: 'kit.card' },
            }}
          >
            <Box
              sx={{
                width: 18,
                height: 18,
                borderRadius: 0.5,
                border: 1,
                borderColor: 'divider',
                bgcolor: hexColour(material.baseColor),
                flex: 'none',
              }}
            />
            <Box component="span" sx={{ flex: 1, textAlign: 'left', overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {material.name}
            </Box>
            <Box component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
              {material.baseColorTexture ? kit.images[material.baseColorTexture.image]?.name : 'plain'}
            </Box>
          </ButtonBase>
          {open === material.id && <MaterialEditor material={material} />}
        </Box>
      ))}
      <Box sx={{ mt: 1 }}>
        <Choice
          label="Give all their faces"
          value=""
          options={[
            ['', 'choose a material'],
            [NEW, slot ? `a new one: ${slot.name}` : 'a new one'],
            ...Object.values(kit.materials).map(({ id, name }) => [id, name] as const),
          ]}
          onChange={(id) => id !== '' && assign(id)}
          tries={{ by, calls: (id) => (id === '' ? null : assigning(id, id === NEW ? 'tried' : id)) }}
        />
      </Box>
      {own.length === 0 && (
        <Button variant="outlined" onClick={() => assign(NEW)}>
          Make a material
        </Button>
      )}
    </>
  );
}
