'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Binding } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/wiring';
import type { Variable } from '@itchkit/core/rulebook';
import type { LoadedPackage } from '@itchkit/core/ship';
import { Empty } from '../../frame/Section';
import { useOpenKit, useRulebook, useTrial } from '../../session/context';
import { Lever } from '../Lever';
import { Readout } from './Readout';

/** A lever for every variable that the package asks for, and what the parts do. */
export function TrialLevers() {
  const { trial } = useOpenKit();
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const levers = useTrial((state) => state.levers);
  if (!loaded || !rulebook)
    return (
      <Box sx={{ height: '100%', bgcolor: 'kit.sheet' }}>
        <Empty>The levers come here once the package is loaded.</Empty>
      </Box>
    );
  const rows = leverRows(loaded, rulebook.variables);
  const neutral = () => trial.setState({ levers: Object.fromEntries(rows.map(({ key, variable }) => [key, variable.neutral])) });
  return (
    <Box component="section" aria-label="Levers" sx={{ height: '100%', overflowY: 'auto', bgcolor: 'kit.sheet' }}>
      {rows.length === 0 && <Empty>The package asks for no variable of {rulebook.title}. Bind a part in Wiring.</Empty>}
      {rows.map(({ key, variable, bindings }) => (
        <Box
          key={key}
          sx={{
            px: 3,
            py: 1.75,
            borderBottom: 1,
            borderColor: 'divider',
            display: 'grid',
            gridTemplateColumns: 'minmax(120px, 170px) minmax(210px, 1fr) minmax(150px, 210px)',
            gap: 3,
            alignItems: 'center',
          }}
        >
          <Box sx={{ minWidth: 0 }}>
            <Box sx={{ fontSize: 13, fontWeight: 600 }}>{variable.title}</Box>
            <Box className="figures" sx={{ color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {key}
            </Box>
          </Box>
          <Lever
            name={key}
            variable={variable}
            value={levers[key] ?? variable.neutral}
            onChange={(next) => trial.setState({ levers: { ...trial.getState().levers, [key]: next } })}
          />
          <Box>
            {bindings.map((binding) => (
              <Readout key={binding.id} loaded={loaded} part={binding.part} variables={rulebook.variables} />
            ))}
          </Box>
        </Box>
      ))}
      {rows.length > 0 && (
        <Button color="inherit" onClick={neutral} sx={{ m: 2 }}>
          All levers to neutral
        </Button>
      )}
    </Box>
  );
}

function leverRows(loaded: LoadedPackage, variables: readonly Variable[]): { key: string; variable: Variable; bindings: Binding[] }[] {
  const rows = new Map<string, { key: string; variable: Variable; bindings: Binding[] }>();
  for (const binding of Object.values(loaded.kit.bindings)) {
    const key = leverKey(binding.variable, binding.index);
    const variable = variables.find((one) => one.name === binding.variable);
    const passedIn =
      variable && (variable.indices === 0 ? binding.index === null : binding.index !== null && binding.index < variable.indices);
    if (!passedIn) continue;
    const row = rows.get(key) ?? { key, variable, bindings: [] };
    row.bindings.push(binding);
    rows.set(key, row);
  }
  return [...rows.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}
