import Box from '@mui/material/Box';
import type { ReadingNote } from '@itchkit/core/document';
import { Section } from '../../panels/Section';
import { GradeSign } from '../../ledger/GradeCount';

/** What was left out or mended while reading; each named. */
export function ReadingNotes({ notes: all, settled }: { notes: ReadingNote[]; settled: boolean }) {
  // What is taken to be so until it is settled is no news once it is.
  const notes = all.filter(({ code }) => !settled || code !== 'unit-not-said');
  return (
    <Section title="Left out or mended">
      {notes.length === 0 ? (
        <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Nothing: all that the file holds is in the kit.</Box>
      ) : (
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 13, lineHeight: 1.5 }}>
          {notes.map((note, i) => (
            <Box component="li" key={i} sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', py: 0.5 }}>
              <GradeSign grade={note.grade} size={9} />
              <span>{note.message}</span>
            </Box>
          ))}
        </Box>
      )}
    </Section>
  );
}
