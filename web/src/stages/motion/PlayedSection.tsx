'use client';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import { useMemo } from 'react';
import type { Clip } from '@itchkit/core/document';
import { playedDifferences, type PlayedDifference } from '@itchkit/core/rulebook';
import { Fact, Section } from '../../panels/Section';
import { useKit, useOpenKit, useRulebook, useSetUi, useUi } from '../../session/context';
import { formatCount } from '../../format';
import { playedOnce, playedWords } from '../../strip/use-as-played';

/** How the package's clip differs from the one that was made; while it is looked at. */
export function PlayedSection({ clip }: { clip: Clip }) {
  const on = useUi((state) => state.strip.asPlayed);
  return on ? <Played clip={clip} /> : null;
}

function Played({ clip }: { clip: Clip }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const rulebook = useRulebook();
  const { played } = useMemo(() => playedOnce(kit, clip, session.blobs, rulebook), [kit, clip, session, rulebook]);
  const frames = Math.round(clip.lengthSeconds * clip.rate);
  // Where all clips lie on one timeline they follow one another in the order of the list.
  const before = Object.values(kit.clips)
    .filter((one) => one.order < clip.order)
    .reduce((sum, one) => sum + Math.round(one.lengthSeconds * one.rate) + 1, 0);
  return (
    <Section title="As it will play" aside={<span style={{ fontSize: 12 }}>for {rulebook?.title ?? 'any platform'}</span>}>
      <Box role="status" data-testid="played-words" sx={{ fontSize: 12.5, mb: 1 }}>
        {playedWords(kit, played)}
      </Box>
      <Differences of={rulebook ? playedDifferences(kit, clip, rulebook) : []} />
      <Fact name="Keys">
        {formatCount(played.keys.made)} made, {formatCount(played.keys.played)} straight ones played
      </Fact>
      <Fact name="Turns">quaternions, a key every 85° at least</Fact>
      <Fact name="Rate">{clip.rate} frames a second</Fact>
      <Fact name="Frames">
        0 to {frames}; {before} to {before + frames} on one timeline of all clips
      </Fact>
    </Section>
  );
}

/** What the platform does otherwise, and where; a click chooses the part. */
function Differences({ of }: { of: PlayedDifference[] }) {
  const setUi = useSetUi();
  if (of.length === 0) return null;
  return (
    <Box component="ul" aria-label="What differs" sx={{ m: 0, mb: 1, pl: 4, fontSize: 12.5, lineHeight: 1.5, color: 'kit.warn' }}>
      {of.map(({ what, part }) => (
        <li key={what}>
          {part === null ? (
            what
          ) : (
            <Link
              component="button"
              color="inherit"
              sx={{ font: 'inherit', textAlign: 'left' }}
              onClick={() => setUi({ selection: [part] })}
            >
              {what}
            </Link>
          )}
        </li>
      ))}
    </Box>
  );
}
