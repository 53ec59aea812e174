import Box from '@mui/material/Box';

export function Mark({ size = 22 }: { size?: number }) {
  return (
    <Box component="svg" viewBox="0 0 32 32" aria-hidden sx={{ width: size, height: size, flex: 'none' }}>
      <Box
        component="rect"
        x="8"
        y="8"
        width="16"
        height="16"
        transform="rotate(45 16 16)"
        sx={{ fill: 'none', stroke: (t) => t.vars!.palette.kit.sea, strokeWidth: 2.5 }}
      />
      <Box component="circle" cx="16" cy="16" r="4.5" sx={{ fill: (t) => t.vars!.palette.kit.signal }} />
    </Box>
  );
}
