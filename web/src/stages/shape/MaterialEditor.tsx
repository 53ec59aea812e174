'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, type Material } from '@itchkit/core/document';
import { setMaterial, setTexture, type TextureSlotName } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { useDraft } from '../../card/use-draft';
import { NumberField } from '../../card/NumberField';
import { TryButton, useTrying } from '../../card/TryButton';
import { useKit, useRulebook, useRun } from '../../session/context';
import { hexColour, linearOf } from './colour';
import { useImageUpload } from './use-image-upload';

const SLOTS: [TextureSlotName, string][] = [
  ['baseColorTexture', 'Colour picture'],
  ['normalTexture', 'Normal map'],
  ['emissiveTexture', 'Glow picture'],
  ['metallicRoughnessTexture', 'Metal and roughness'],
  ['occlusionTexture', 'Occlusion'],
];
const ALPHA: [Material['alphaMode'], string][] = [
  ['OPAQUE', 'opaque'],
  ['MASK', 'cut out'],
  ['BLEND', 'blended'],
];
const FROM_FILE = 'file';

type Fields = Partial<
  Pick<Material, 'name' | 'baseColor' | 'emissive' | 'roughness' | 'metallic' | 'normalScale' | 'alphaMode' | 'alphaCutoff' | 'doubleSided'>
>;

/** A material's name, colour, glow, surface and pictures. */
export function MaterialEditor({ material }: { material: Material }) {
  const kit = useKit();
  const run = useRun();
  const rulebook = useRulebook();
  const upload = useImageUpload();
  const by = useTrying();
  const setting = (fields: Fields) => callOf(setMaterial, { material: material.id, ...fields });
  const set = (fields: Fields) => {
    by.stop();
    run(setting(fields));
  };
  const tryIt = (fields: Fields | null) => (fields === null ? by.stop() : by.begin(() => setting(fields)));
  /** A field of one number. */
  const field = (make: (value: number) => Fields) => ({
    onCommit: (value: number) => set(make(value)),
    onDraft: (value: number | null) => tryIt(value === null ? null : make(value)),
  });
  const tinted = material.baseColorTexture !== null && material.baseColor.slice(0, 3).some((value) => value !== 1);
  const show = async (slot: TextureSlotName, image: string) => {
    by.stop();
    const id = image === FROM_FILE ? await upload(null) : image;
    if (id !== undefined) run(callOf(setTexture, { material: material.id, slot, image: id === '' ? null : id }));
  };
  return (
    <Box sx={{ display: 'grid', gap: 2, p: 1.5, pt: 2 }}>
      <NameField
        key={material.name}
        material={material}
        names={rulebook?.materials?.slots?.map(({ name }) => name) ?? []}
        onCommit={(name) => set({ name })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <ColourField
          label="Colour"
          value={material.baseColor}
          onDraft={(rgb) => tryIt({ baseColor: [...rgb, material.baseColor[3]] })}
          onCommit={(rgb) => set({ baseColor: [...rgb, material.baseColor[3]] })}
        />
        <ColourField
          label="Glow"
          value={material.emissive}
          onDraft={(rgb) => tryIt({ emissive: rgb })}
          onCommit={(rgb) => set({ emissive: rgb })}
        />
        <NumberField label="Roughness" value={material.roughness} min={0} max={1} step={0.05} {...field((roughness) => ({ roughness }))} />
        <NumberField label="Metal" value={material.metallic} min={0} max={1} step={0.05} {...field((metallic) => ({ metallic }))} />
        <Choice
          label="See-through"
          value={material.alphaMode}
          options={ALPHA}
          onChange={(alphaMode) => set({ alphaMode })}
          tries={{ by, calls: (alphaMode) => setting({ alphaMode }) }}
        />
        {material.alphaMode === 'MASK' ? (
          <NumberField
            label="Cut below"
            value={material.alphaCutoff}
            min={0}
            max={1}
            step={0.05}
            {...field((alphaCutoff) => ({ alphaCutoff }))}
          />
        ) : (
          <NumberField
            label="Opacity"
            value={material.baseColor[3]}
            min={0}
            max={1}
            step={0.05}
            disabled={material.alphaMode === 'OPAQUE'}
            {...field((alpha) => ({ baseColor: [material.baseColor[0], material.baseColor[1], material.baseColor[2], alpha] }))}
          />
        )}
        {material.normalTexture && (
          <NumberField
            label="Normal strength"
            value={material.normalScale}
            min={-10}
            max={10}
            step={0.1}
            {...field((normalScale) => ({ normalScale }))}
          />
        )}
      </Box>
      <FormControlLabel
        {...by.trying(() => setting({ doubleSided: !material.doubleSided }))}
        control={<Checkbox size="small" checked={material.doubleSided} onChange={(event) => set({ doubleSided: event.target.checked })} />}
        label="Seen from both sides"
      />
      {tinted && <TryButton calls={() => setting({ baseColor: [1, 1, 1, material.baseColor[3]] })}>Tint to white</TryButton>}
      {SLOTS.map(([slot, label]) => (
        <Choice
          key={slot}
          label={label}
          value={material[slot]?.image ?? ''}
          options={[['', 'none'], ...Object.values(kit.images).map(({ id, name }) => [id, name] as const), [FROM_FILE, 'from a file …']]}
          onChange={(image) => void show(slot, image)}
          tries={{
            by,
            calls: (image) =>
              image === FROM_FILE ? null : callOf(setTexture, { material: material.id, slot, image: image === '' ? null : image }),
          }}
        />
      ))}
    </Box>
  );
}

/** Free, or one of the names that the target knows. */
function NameField({ material, names, onCommit }: { material: Material; names: string[]; onCommit: (name: string) => void }) {
  const { field, taken } = useDraft(material.name, { take: (text) => text.trim() !== '' && onCommit(text.trim()) });
  if (names.length > 0)
    return (
      <TextField select size="small" label="Name" value={material.name} onChange={(event) => onCommit(event.target.value)}>
        {[...new Set([material.name, ...names])].map((name) => (
          <MenuItem key={name} value={name}>
            {name}
          </MenuItem>
        ))}
      </TextField>
    );
  return <TextField size="small" label="Name" {...field} slotProps={{ htmlInput: { ...taken, maxLength: 200 } }} />;
}

/** Taken when the picker is left: each colour on the way would be a step of undo. */
function ColourField({
  label,
  value,
  onCommit,
  onDraft,
}: {
  label: string;
  value: readonly number[];
  onCommit: (rgb: [number, number, number]) => void;
  onDraft: (rgb: [number, number, number]) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <TextField
      size="small"
      type="color"
      label={label}
      value={draft ?? hexColour(value)}
      onChange={(event) => {
        setDraft(event.target.value);
        onDraft(linearOf(event.target.value));
      }}
      onBlur={() => {
        if (draft !== null && draft !== hexColour(value)) onCommit(linearOf(draft));
        setDraft(null);
      }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { 'aria-label': label, style: { height: 18, padding: '7px 10px', cursor: 'pointer' } },
      }}
    />
  );
}
