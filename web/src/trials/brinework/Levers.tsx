'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Fragment, useMemo } from 'react';
import { ordersOf, setByHand, type Lever as TrialLever, type Order } from '@itchkit/core/trial';
import type { Rulebook } from '@itchkit/core/rulebook';
import { isShown } from '@itchkit/core/wiring';
import { Lever } from '../../card/Lever';
import { setSlice, useOpenKit } from '../../session/context';
import { useTrial, type InTrial } from '../trial-state';
import { Readout } from './Readout';
import { RecordButton } from './RecordButton';
import { useOrders } from './use-orders';

interface LeversProps {
  rows: TrialLever[];
  /** What moves levers, and is none itself. */
  orders: Order[];
  loaded: InTrial;
  rulebook: Rulebook;
  /** A duty of that name was written by working the levers. */
  onWritten(name: string): void;
}

/** A lever for every variable that the package asks for, with what can be ordered of it, and what each does. */
export function Levers({ rows, orders, loaded, rulebook, onWritten }: LeversProps) {
  const { ui } = useOpenKit();
  const levers = useTrial((state) => state.levers);
  const moving = useMemo(() => ordersOf(rows, rulebook.variables), [rows, rulebook]);
  useOrders(moving);
  const set = (key: string, value: number) =>
    setSlice(ui, 'trial', { levers: setByHand(ui.getState().trial.levers, { [key]: value }, moving) });
  const neutral = () => setSlice(ui, 'trial', { levers: Object.fromEntries(rows.map(({ key, variable }) => [key, variable.neutral])) });
  return (
    <>
      {rows.map(({ key, variable, bindings, switches }) => (
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
          <Lever name={key} variable={variable} value={levers[key] ?? variable.neutral} onChange={(next) => set(key, next)} />
          <Box sx={{ minWidth: 0 }}>
            {bindings.map((binding) => (
              <Readout key={binding.id} loaded={loaded} part={binding.part} variables={rulebook.variables} />
            ))}
            {switches.map((one) => (
              <Box key={one.id} sx={{ fontSize: 12.5 }}>
                {loaded.kit.parts[one.part].name} is {isShown(one, levers[key] ?? variable.neutral) ? 'shown' : 'hidden'}
              </Box>
            ))}
          </Box>
          {orders
            .filter(({ position }) => position.key === key)
            .map((order) => (
              <Fragment key={order.key}>
                <Box
                  sx={{ fontSize: 12, color: 'text.secondary', minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}
                  title={order.key}
                >
                  {order.variable.title}
                </Box>
                <Lever
                  name={order.key}
                  variable={order.variable}
                  value={levers[order.key] ?? order.variable.neutral}
                  onChange={(next) => set(order.key, next)}
                />
                <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{paceOf(order)}</Box>
              </Fragment>
            ))}
        </Box>
      ))}
      {rows.length > 0 && (
        <Box sx={{ m: 2, display: 'flex', gap: 1.5, alignItems: 'center' }}>
          <Button color="inherit" onClick={neutral}>
            All levers to neutral
          </Button>
          <RecordButton worked={[...rows, ...orders]} orders={moving} onWritten={onWritten} />
        </Box>
      )}
    </>
  );
}

/** How fast an order moves what it moves. */
function paceOf({ moves: { how, perSecond }, variable, position }: Order): string {
  const unit = position.variable.unit;
  return how === 'to' ? `goes there, ${perSecond} ${unit}/s at most` : `${perSecond} ${unit}/s for each 1 ${variable.unit}`;
}
