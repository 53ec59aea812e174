'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { callOf, count, type Id } from '@itchkit/core/document';
import { atLevel, kitCounts, meshCounts } from '@itchkit/core/geometry';
import { dropLevels, makeLevels } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { formatCount } from '../../format';
import { useKit, useRulebook, useRun, useSetSlice, useUi } from '../../session/context';

/** The simpler shapes that the target shows from afar: made, looked at, taken out. */
export function LevelsSection() {
  const rulebook = useRulebook();
  if (!rulebook?.levels) return null;
  return (
    <Fold title="Levels of detail">
      <Levels />
    </Fold>
  );
}

function Levels() {
  const kit = useKit();
  const run = useRun();
  const setShape = useSetSlice('shape');
  const rulebook = useRulebook();
  const levels = rulebook?.levels ?? [];
  // What is of few triangles is shown whole from afar too.
  const few = Math.min(Infinity, ...(rulebook?.rules.filter((rule) => rule.check === 'geometry.levels').map((rule) => rule.limit!) ?? []));
  const shown = useUi((state) => state.shape.level);
  useEffect(() => () => setShape({ level: null }), [setShape]);
  const parts: Id[] = Object.values(kit.parts)
    .filter((part) => part.mesh !== null && (few === Infinity || meshCounts(kit, part.mesh).triangles > few))
    .map((part) => part.id);
  const has = (name: string) => Object.values(kit.meshes).filter((mesh) => mesh.levels?.some((level) => level.name === name));
  const worst = (name: string) => Math.max(0, ...has(name).map((mesh) => mesh.levels!.find((level) => level.name === name)!.errorMm));
  return (
    <>
      {levels.map(({ name, share, about }) => (
        <Box key={name} sx={{ fontSize: 13 }}>
          <b>{name}</b>, {Math.round(100 * share)} %: {about}
          <Box className="figures" sx={{ color: 'text.secondary' }}>
            {has(name).length === 0
              ? 'not made yet'
              : `${formatCount(kitCounts(atLevel(kit, name)).triangles)} triangles, off by ${worst(name).toFixed(1)} mm`}
          </Box>
        </Box>
      ))}
      <Choice
        label="Look at"
        value={shown ?? ''}
        options={[['', 'the kit itself'], ...levels.filter(({ name }) => has(name).length > 0).map(({ name }) => [name, name] as const)]}
        onChange={(name) => setShape({ level: name || null })}
      />
      <Buttons>
        <TryButton
          disabled={parts.length === 0}
          calls={() => callOf(makeLevels, { parts, levels: levels.map(({ name, share }) => ({ name, share })) })}
        >
          Make them of {count(parts.length, 'part')}
        </TryButton>
        <Button
          disabled={!levels.some(({ name }) => has(name).length > 0)}
          onClick={() => run(callOf(dropLevels, { parts: Object.keys(kit.parts) }))}
        >
          Take them out
        </Button>
      </Buttons>
    </>
  );
}
