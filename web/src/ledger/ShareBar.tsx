import Box from '@mui/material/Box';
import type { Grade } from '@itchkit/core/rulebook';

/** Measured against its limit: the bar is what was measured, the upright line the limit. */
export function ShareBar({ share, grade }: { share: number; grade: Grade }) {
  const whole = Math.max(1, share) * 1.06;
  return (
    <Box
      component="svg"
      viewBox="0 0 100 8"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${Math.round(100 * share)} % of the limit`}
      sx={{ display: 'block', width: '100%', height: 8, my: 1 }}
    >
      <Box component="rect" x="0" y="2" width="100" height="4" sx={{ fill: (t) => t.vars!.palette.kit.line }} />
      <Box
        component="rect"
        x="0"
        y="2"
        width={Math.min(100, (100 * Math.min(share, 1)) / whole)}
        height="4"
        sx={{ fill: (t) => t.vars!.palette.kit.sea }}
      />
      {share > 1 && (
        <Box
          component="rect"
          x={100 / whole}
          y="2"
          width={(100 * (share - 1)) / whole}
          height="4"
          sx={{ fill: (t) => t.vars!.palette.kit[grade] }}
        />
      )}
      <Box component="rect" x={100 / whole - 0.4} y="0" width="0.8" height="8" sx={{ fill: (t) => t.vars!.palette.text.primary }} />
    </Box>
  );
}
