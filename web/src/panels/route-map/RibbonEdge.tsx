import Box from '@mui/material/Box';
import { EdgeLabelRenderer, type Edge, type EdgeProps } from '@xyflow/react';
import { arrowPath, ribbonPath, shortened, type Lit, type Ribbon } from './map-graph';

export type RibbonData = Pick<Ribbon, 'points' | 'flag'> & {
  asks: string;
  /** From where to where. */
  said: string;
  lit?: Lit;
  chosen: boolean;
  onChoose?: () => void;
};

/** By which token of the look it is drawn. */
function colourOf(chosen: boolean, lit: Lit | undefined): 'signal' | 'good' | 'note' | 'sea' | 'inkSoft' {
  if (chosen) return 'signal';
  if (lit === 'taken') return 'good';
  if (lit === 'waits') return 'note';
  return lit ? 'sea' : 'inkSoft';
}

/** How strongly a line is drawn: one that was taken fades. */
const strengthOf = (lit: Lit | undefined): number => (typeof lit === 'object' ? Math.max(0.45, 1 - 0.6 * lit.ago) : 1);

/** A passage as a line with a flag that says what it asks. */
export function RibbonEdge({ data }: EdgeProps<Edge<RibbonData>>) {
  if (!data || data.points.length < 2) return null;
  const { points, flag, asks, said, lit, chosen, onChoose } = data;
  const colour = colourOf(chosen, lit);
  const lighted = chosen || lit !== undefined;
  return (
    <>
      <Box
        component="path"
        d={ribbonPath(points)}
        onClick={onChoose}
        sx={{
          fill: 'none',
          stroke: (t) => t.vars!.palette.kit[colour],
          strokeWidth: lighted ? 5 : 3,
          strokeLinejoin: 'round',
          strokeDasharray: lit === 'waits' ? '9 5' : undefined,
          opacity: lighted ? strengthOf(lit) : 0.55,
          cursor: onChoose ? 'pointer' : undefined,
        }}
      />
      <Box component="path" d={arrowPath(points)} sx={{ fill: (t) => t.vars!.palette.kit[colour], opacity: lighted ? 1 : 0.8 }} />
      <EdgeLabelRenderer>
        <Box
          component={onChoose ? 'button' : 'div'}
          {...(onChoose ? { type: 'button', onClick: onChoose, 'aria-pressed': chosen } : { role: 'img' })}
          aria-label={`${said}: ${asks}`}
          data-lit={typeof lit === 'object' ? 'before' : lit}
          className="nopan"
          sx={{
            all: 'unset',
            boxSizing: 'border-box',
            position: 'absolute',
            pointerEvents: 'all',
            cursor: onChoose ? 'pointer' : 'default',
            transform: `translate(${flag.x}px, ${flag.y}px)`,
            width: flag.width,
            height: flag.height,
            pl: '6px',
            fontSize: 11,
            lineHeight: `${flag.height}px`,
            whiteSpace: 'nowrap',
            color: lighted ? 'kit.sheet' : 'text.primary',
            bgcolor: lighted ? `kit.${colour}` : 'kit.line',
            // A pennant: its fly is cut out.
            clipPath: 'polygon(0 0, 100% 0, calc(100% - 6px) 50%, 100% 100%, 0 100%)',
            '&:focus-visible': { bgcolor: 'kit.ink', color: 'kit.sheet' },
          }}
        >
          {shortened(asks)}
        </Box>
      </EdgeLabelRenderer>
    </>
  );
}
