import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import NextLink from 'next/link';

/** While a kit is opened, or where it can't be. */
export function Opening({ failure }: { failure: string | null }) {
  return (
    <Box component="main" sx={{ height: '100vh', display: 'grid', placeContent: 'center', gap: 4, textAlign: 'center', px: 4 }}>
      {failure === null ? (
        <>
          <Box>Opening the kit …</Box>
          <LinearProgress aria-label="Opening the kit" sx={{ width: 260 }} />
        </>
      ) : (
        <>
          <Box role="alert">{failure}</Box>
          <Box>
            <Button component={NextLink} href="/" variant="contained">
              Go to the shelf
            </Button>
          </Box>
        </>
      )}
    </Box>
  );
}
