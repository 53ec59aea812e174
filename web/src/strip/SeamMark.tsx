'use client';
import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { Clip } from '@itchkit/core/document';
import { useKit } from '../session/context';
import { MEETS_WITHIN, useSeam } from './seam';
import { useTimeScale } from './time-scale';

/** A stitched line at the clip's end; red where a loop does not meet its start. */
export function SeamMark({ clip }: { clip: Clip }) {
  const scale = useTimeScale();
  const kit = useKit();
  const theme = useTheme();
  const figure = useSeam(clip);
  const seam = figure && figure.millimetres > MEETS_WITHIN ? figure : null;
  const colour = seam ? theme.vars!.palette.kit.stop : theme.vars!.palette.kit.inkSoft;
  const off = seam ? `${Number(seam.millimetres.toPrecision(3))} mm` : '';
  const label = seam?.part ? `Seam: “${kit.parts[seam.part]?.name}” ends ${off} from where it begins` : '';
  return (
    <Box
      data-testid="seam"
      data-meets={seam === null}
      title={label || undefined}
      sx={{
        position: 'absolute',
        top: 34,
        bottom: 0,
        left: scale.x(clip.lengthSeconds) - 4,
        width: 9,
        zIndex: 2,
        pointerEvents: seam ? 'auto' : 'none',
        background: `repeating-linear-gradient(to bottom, ${colour} 0 6px, transparent 6px 10px) center / 2px 100% no-repeat`,
      }}
    >
      {seam && (
        <Box
          component="span"
          sx={{
            position: 'absolute',
            right: 8,
            bottom: 4,
            fontSize: 11,
            color: 'kit.stop',
            whiteSpace: 'nowrap',
            bgcolor: 'kit.sheet',
            px: 0.5,
          }}
        >
          seam off by {off}
        </Box>
      )}
    </Box>
  );
}
