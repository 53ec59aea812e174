'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Link from '@mui/material/Link';
import Close from '@mui/icons-material/Close';
import { callOf, type Binding } from '@itchkit/core/document';
import { leverKey, removeBinding } from '@itchkit/core/wiring';
import type { Variable } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRun, useUi } from '../../session/context';
import { Lever } from '../../card/Lever';

/** A binding and a lever to see it move on the bench. */
export function BindingRowItem({ binding, variable, chosen }: { binding: Binding; variable: Variable | undefined; chosen: boolean }) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const key = leverKey(binding.variable, binding.index);
  const value = useUi((state) => state.wiring.levers[key]) ?? variable?.neutral ?? 0;
  return (
    <Box
      sx={{
        px: 3,
        py: 1.5,
        borderBottom: 1,
        borderColor: 'divider',
        boxShadow: (t) => (chosen ? `inset 3px 0 0 ${t.vars!.palette.kit.signal}` : 'none'),
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, mb: 0.5 }}>
        <Link
          component="button"
          onClick={() => ui.setState({ binding: binding.id, selection: [binding.part], held: null })}
          sx={{ fontWeight: 600, fontSize: 13, textAlign: 'left' }}
        >
          {kit.parts[binding.part]?.name}
        </Link>
        <Box component="span" className="figures" sx={{ flex: 1, color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {key}
        </Box>
        <IconButton
          size="small"
          aria-label={`Unbind ${kit.parts[binding.part]?.name} from ${key}`}
          onClick={() => run(callOf(removeBinding, { bindings: [binding.id] }))}
          sx={{ p: 0.25 }}
        >
          <Close sx={{ fontSize: 15 }} />
        </IconButton>
      </Box>
      {variable ? (
        <Lever
          name={key}
          variable={variable}
          value={value}
          onChange={(next) => ui.setState(({ wiring }) => ({ wiring: { levers: { ...wiring.levers, [key]: next } }, held: null }))}
        />
      ) : (
        <Box sx={{ fontSize: 12.5, color: 'kit.stop' }}>The target has no variable of this name.</Box>
      )}
    </Box>
  );
}
