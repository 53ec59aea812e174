import Box from '@mui/material/Box';
import { Handle, Position, type Node, type NodeProps } from '@xyflow/react';
import { shortened } from './map-graph';

export type HaltData = {
  name: string;
  plays: string;
  /** Where the layer begins. */
  first: boolean;
  /** Whether the layer is in it. */
  here: boolean;
  onChoose?: () => void;
  /** Whether lines can be drawn from it. */
  draws: boolean;
};
export type DistrictData = { title: string };

/** A state: a ring, filled where the layer is in it, its name and what it plays; a bar stands before the one where the layer begins. */
export function HaltNode({ data: { name, plays, first, here, onChoose, draws } }: NodeProps<Node<HaltData>>) {
  const anywhere = plays === '';
  return (
    <Box
      component={onChoose ? 'button' : 'div'}
      {...(onChoose && { type: 'button', onClick: onChoose, 'aria-pressed': here, 'aria-label': `State ${name}, plays ${plays}` })}
      data-halt={name}
      data-here={here}
      className="nopan"
      sx={{
        font: 'inherit',
        // What can be neither dragged nor selected would let the pointer through.
        pointerEvents: 'all',
        color: 'text.primary',
        width: '100%',
        height: '100%',
        boxSizing: 'border-box',
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        px: 1,
        textAlign: 'left',
        bgcolor: here ? 'kit.card' : 'kit.sheet',
        border: 1.5,
        borderStyle: anywhere ? 'dashed' : 'solid',
        borderColor: here ? 'kit.signal' : 'kit.line',
        borderRadius: '10px 21px 21px 10px',
        borderLeftWidth: first ? 5 : 1.5,
        borderLeftColor: first ? 'kit.sea' : undefined,
        cursor: onChoose ? 'pointer' : 'default',
        '&:focus-visible': { outline: '2px solid', outlineColor: 'kit.signal', outlineOffset: 1 },
        '& .react-flow__handle': {
          width: 12,
          height: 12,
          border: 2,
          borderColor: 'kit.sheet',
          bgcolor: 'kit.sea',
          borderRadius: '50%',
          opacity: 0,
          minWidth: 0,
        },
        '&:hover .source, & .source.connecting, & .target.valid': { opacity: draws ? 1 : 0 },
      }}
    >
      <Handle type="target" position={Position.Left} isConnectable={draws && !anywhere} />
      <Box
        component="span"
        sx={{
          width: 13,
          height: 13,
          flex: 'none',
          borderRadius: '50%',
          border: 3,
          boxSizing: 'border-box',
          borderColor: here ? 'kit.signal' : 'kit.inkSoft',
          bgcolor: here ? 'kit.signal' : 'transparent',
        }}
      />
      <Box component="span" sx={{ minWidth: 0, lineHeight: 1.25, whiteSpace: 'nowrap' }}>
        <Box component="span" sx={{ display: 'block', fontSize: 12.5, fontWeight: 600 }}>
          {shortened(name)}
        </Box>
        {!anywhere && plays !== name && (
          <Box component="span" sx={{ display: 'block', fontSize: 11, color: 'text.secondary' }}>
            {shortened(plays)}
          </Box>
        )}
      </Box>
      <Handle type="source" position={Position.Right} isConnectable={draws} />
    </Box>
  );
}

/** What a layer is called, above its halts. */
export function DistrictNode({ data }: NodeProps<Node<DistrictData>>) {
  return <Box sx={{ fontSize: 12, fontWeight: 600, color: 'text.secondary', whiteSpace: 'nowrap' }}>{data.title}</Box>;
}
