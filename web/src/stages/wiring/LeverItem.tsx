'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Link from '@mui/material/Link';
import Close from '@mui/icons-material/Close';
import { callOf } from '@itchkit/core/document';
import { removeBinding } from '@itchkit/core/wiring';
import { Lever } from '../../card/Lever';
import { useKit, useOpenKit, useRun, useUi } from '../../session/context';
import type { BoundLever } from './levers';

/** A variable with a lever to see on the bench what follows it, and the parts that do. */
export function LeverItem({ lever: { key, variable, bindings }, chosen }: { lever: BoundLever; chosen: string | undefined }) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const value = useUi((state) => state.wiring.levers[key]) ?? variable?.neutral ?? 0;
  return (
    <Box
      sx={{
        px: 3,
        py: 1.25,
        borderBottom: 1,
        borderColor: 'divider',
        boxShadow: (t) => (bindings.some(({ id }) => id === chosen) ? `inset 3px 0 0 ${t.vars!.palette.kit.signal}` : 'none'),
      }}
    >
      <Box className="figures" sx={{ color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis' }}>
        {key}
      </Box>
      {bindings.map((binding) => {
        const name = kit.parts[binding.part]?.name;
        return (
          <Box key={binding.id} sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
            <Box component="span" sx={{ flex: 1, minWidth: 0 }}>
              <Link
                component="button"
                aria-current={binding.id === chosen}
                onClick={() => ui.setState({ binding: binding.id, selection: [binding.part], held: null })}
                sx={{ fontWeight: binding.id === chosen ? 700 : 500, fontSize: 13, textAlign: 'left', overflowWrap: 'anywhere' }}
              >
                {name}
              </Link>
            </Box>
            <IconButton
              size="small"
              aria-label={`Unbind ${name} from ${key}`}
              onClick={() => run(callOf(removeBinding, { bindings: [binding.id] }))}
              sx={{ p: 0.25 }}
            >
              <Close sx={{ fontSize: 15 }} />
            </IconButton>
          </Box>
        );
      })}
      {variable ? (
        <Lever
          name={key}
          variable={variable}
          value={value}
          onChange={(next) =>
            ui.setState(({ wiring }) => ({ wiring: { ...wiring, levers: { ...wiring.levers, [key]: next } }, held: null }))
          }
        />
      ) : (
        <Box sx={{ fontSize: 12.5, color: 'kit.stop' }}>The target has no variable of this name.</Box>
      )}
    </Box>
  );
}
