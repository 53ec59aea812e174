'use client';
import Typography from '@mui/material/Typography';
import { formatTitle } from '@itchkit/core/intake';
import { Empty, Fact, Section } from '../../panels/Section';
import { useKit } from '../../session/context';
import { formatBytes, formatCount } from '../../format';
import { ArrivalClips } from './ArrivalClips';
import { ParkedSection } from './ParkedSection';
import { ReadingNotes } from './ReadingNotes';
import { Settle } from './Settle';

/** What was read, and in which unit and axes. */
export function IntakeCard() {
  const kit = useKit();
  const { source } = kit;
  if (!source) return <Empty>This kit was not made from a file.</Empty>;
  const { counts } = source;
  return (
    <>
      <Typography variant="h2" sx={{ px: 3, pt: 2.5 }}>
        What was read
      </Typography>
      <Section title={source.fileName}>
        <Fact name="Format">
          {formatTitle(source.format)}, <span className="figures">{formatBytes(source.bytes)}</span>
        </Fact>
        {source.generator && <Fact name="Written by">{source.generator}</Fact>}
        <Fact name="Parts">
          <span className="figures">{formatCount(counts.parts)}</span>
        </Fact>
        <Fact name="Triangles">
          <span className="figures">{formatCount(counts.triangles)}</span>, <span className="figures">{formatCount(counts.vertices)}</span>{' '}
          vertices
        </Fact>
        <Fact name="Materials">
          <span className="figures">{counts.materials}</span>, <span className="figures">{counts.images}</span>{' '}
          {counts.images === 1 ? 'texture' : 'textures'}
        </Fact>
        {((counts.joints ?? 0) > 0 || (counts.morphTargets ?? 0) > 0) && (
          <Fact name="Shape">
            <span className="figures">{formatCount(counts.joints ?? 0)}</span> {counts.joints === 1 ? 'joint' : 'joints'},{' '}
            <span className="figures">{formatCount(counts.morphTargets ?? 0)}</span>{' '}
            {counts.morphTargets === 1 ? 'morph target' : 'morph targets'}
          </Fact>
        )}
        <Fact name="Motion">
          <span className="figures">{counts.clips}</span> {counts.clips === 1 ? 'clip' : 'clips'},{' '}
          <span className="figures">{counts.skins}</span> {counts.skins === 1 ? 'skin' : 'skins'}
        </Fact>
      </Section>
      <Settle source={source} />
      <ParkedSection />
      <ArrivalClips />
      <ReadingNotes notes={source.notes} settled={source.settled} />
    </>
  );
}
