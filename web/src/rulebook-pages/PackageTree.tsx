import Box from '@mui/material/Box';
import type { Holds, Output } from '@itchkit/core/rulebook';
import { TreeList } from './TreeList';

export const HOLDS_WORDS: Record<Holds, string> = {
  model: 'the model with all its clips (GLB)',
  level: 'the model in a simpler shape, one file a level',
  'model-at-rest': 'the model without clips (GLB)',
  clip: 'a file a clip: the same parts, moving (GLB)',
  texture: 'a file an image, as it is',
  materials: 'the materials (JSON)',
  'bindings-table': 'the bindings, a row a pose (CSV)',
  'switches-table': 'what is shown at which values, a row a span (CSV)',
  assembly: 'the bodies of the assembly and what couples them, told in the axes of both (JSON)',
  'grounds-table': 'tiles, states, seats, colliders, walkway, what shines, and the sheet of facts (JSON)',
  'behaviour-table': 'what plays when: layers, states and passages (JSON)',
  'clip-list': 'the clips, with their frames and loop modes (CSV)',
};

/** The package's files as they will lie, for a kit called “tide crane”. */
export function PackageTree({ packaging }: { packaging: Output[] }) {
  const items = new Map<string, { id: string; name: string; parent: string | null }>();
  const add = (path: string, note: string) => {
    const steps = path.split('/');
    steps.forEach((step, i) => {
      const id = steps.slice(0, i + 1).join('/');
      const last = i === steps.length - 1;
      items.set(id, { id, name: last ? `${step}   ${note}` : `${step}/`, parent: i === 0 ? null : steps.slice(0, i).join('/') });
    });
  };
  add('manifest.json', 'what is in the package, and what the checks said');
  for (const { path, holds } of packaging)
    add(
      path
        .replaceAll('{kit}', 'tide_crane')
        .replaceAll('{clip}', '⟨clip⟩')
        .replaceAll('{texture}', '⟨image⟩.png')
        .replaceAll('{level}', '⟨level⟩'),
      HOLDS_WORDS[holds],
    );
  return (
    <Box sx={{ whiteSpace: 'pre-wrap' }}>
      <TreeList items={[...items.values()]} />
    </Box>
  );
}
