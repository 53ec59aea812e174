import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { RevisionRow } from '../api';
import { saveAs } from '../panels/save-as';

/** Changes that did not fit when they were brought back, kept beside the revision that they were to go on. */
export function RevisionNote({ note, revision }: { note: NonNullable<RevisionRow['notes']>[number]; revision: number }) {
  const download = () => saveAs(`set-aside-${revision}.json`, new Blob([JSON.stringify(note, null, 2)], { type: 'application/json' }));
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', fontSize: 12.5, color: 'kit.warn' }}>
      <Box sx={{ flex: 1 }}>Set aside: “{note.title}” did not fit.</Box>
      <Button size="small" color="inherit" onClick={download}>
        Download
      </Button>
    </Box>
  );
}
