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
import { useValue } from './use-value';

/** A variable with a lever to see on the bench what follows it, and the parts that do. */
export function LeverItem({ lever, chosen }: { lever: BoundLever; chosen: string | undefined }) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const { key, variable, bindings, switches, feeds } = lever;
  const value = useValue(lever);
  const set = useUi((state) => state.wiring.levers[key] !== undefined);
  const workedOut = () =>
    ui.setState(({ wiring }) => {
      const { [key]: _, ...levers } = wiring.levers;
      return { wiring: { ...wiring, levers } };
    });
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
      {variable?.expression !== undefined && (
        <Box className="figures" sx={{ fontSize: 12, color: 'text.secondary', overflowWrap: 'anywhere' }}>
          = {variable.expression}{' '}
          {set && (
            <Link component="button" onClick={workedOut} sx={{ fontSize: 12, verticalAlign: 'baseline' }}>
              work it out again
            </Link>
          )}
        </Box>
      )}
      {feeds.length > 0 && <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{feeds.join(', ')} is worked out of it</Box>}
      {switches.length > 0 && (
        <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          shows{' '}
          {switches.map(({ id, part }, i) => (
            <span key={id}>
              {i > 0 && ', '}
              <Link
                component="button"
                onClick={() => ui.setState({ selection: [part], held: null })}
                sx={{ fontSize: 12.5, verticalAlign: 'baseline' }}
              >
                {kit.parts[part]?.name}
              </Link>
            </span>
          ))}
        </Box>
      )}
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
