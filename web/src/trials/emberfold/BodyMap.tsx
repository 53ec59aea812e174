'use client';
import Box from '@mui/material/Box';
import type { ParameterRule } from '@itchkit/core/behaviour';
import type { Kit } from '@itchkit/core/document';
import type { FieldFrame, TakenPassage } from '@itchkit/core/trial';
import { litBefore } from '../../panels/route-map/map-graph';
import { mapWords } from '../../panels/route-map/map-words';
import { RouteMap } from '../../panels/route-map/RouteMap';

interface BodyMapProps {
  kit: Kit;
  frame: FieldFrame;
  taken: readonly TakenPassage[];
  parameters: readonly ParameterRule[];
}

/** Where each layer of the body is on the route map, and the ways that it has gone of late. */
export function BodyMap({ kit, frame, taken, parameters }: BodyMapProps) {
  const layers = kit.behaviour?.layers ?? [];
  if (layers.length === 0) return null;
  return (
    <Box sx={{ flex: '1 1 130px', minHeight: 130, border: 1, borderColor: 'divider', borderRadius: 1 }}>
      <RouteMap
        layers={layers}
        words={mapWords(kit, parameters)}
        layer={taken[taken.length - 1]?.layer ?? layers[0].id}
        now={Object.fromEntries(frame.layers.map(({ layer, state }) => [layer, state]))}
        lit={litBefore(taken.map(({ passage }) => passage))}
      />
    </Box>
  );
}
