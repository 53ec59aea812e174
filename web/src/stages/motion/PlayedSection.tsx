'use client';
import Box from '@mui/material/Box';
import { useMemo } from 'react';
import type { Clip } from '@itchkit/core/document';
import { Fact, Section } from '../../panels/Section';
import { useKit, useOpenKit, useRulebook, useUi } from '../../session/context';
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
  const { played } = useMemo(() => playedOnce(kit, clip, session.blobs), [kit, clip, session]);
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
      <Fact name="Keys">
        {formatCount(played.keys.made)} made, {formatCount(played.keys.played)} straight ones played
      </Fact>
      <Fact name="Turns">quaternions, a key every 85° at least</Fact>
      <Fact name="Rate">
        {clip.rate} frames a second
        {rulebook?.motion?.rate !== undefined && rulebook.motion.rate !== clip.rate
          ? `; ${rulebook.title} plays ${rulebook.motion.rate}`
          : ''}
      </Fact>
      <Fact name="Frames">
        0 to {frames}; {before} to {before + frames} on one timeline of all clips
      </Fact>
    </Section>
  );
}
