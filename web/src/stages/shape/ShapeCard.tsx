'use client';
import Typography from '@mui/material/Typography';
import { useEffect } from 'react';
import type { Part } from '@itchkit/core/document';
import { meshCounts } from '@itchkit/core/geometry';
import { formatCount } from '../../format';
import { Empty, Fact, Section } from '../../panels/Section';
import { useKit, useUi } from '../../session/context';
import { AlignSection } from './AlignSection';
import { FacesSection } from './FacesSection';
import { HingeSection } from './HingeSection';
import { ImagesSection } from './ImagesSection';
import { LevelsSection } from './LevelsSection';
import { MaterialsSection } from './MaterialsSection';
import { MeasuresSection } from './MeasuresSection';
import { MirrorSection } from './MirrorSection';
import { NameAndRole } from './NameAndRole';
import { PivotSection } from './PivotSection';
import { PointsSection } from './PointsSection';
import { RepeatSection } from './RepeatSection';
import { SimplifySection } from './SimplifySection';
import { SizeSection } from './SizeSection';
import { SplitJoinSection } from './SplitJoinSection';
import { SurfaceSection } from './SurfaceSection';
import { TransformSection } from './TransformSection';
import { TriangleChart } from './TriangleChart';
import { UvSection } from './UvSection';

/** What is picked on the bench, what is selected, or the kit as a whole. */
export function ShapeCard() {
  const kit = useKit();
  const mode = useUi((state) => state.pickMode);
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const parts = selection.map((id) => kit.parts[id]);
  // What is picked stands on top; the Card may have been scrolled past it.
  useEffect(() => void document.querySelector('[aria-label="Card"]')?.scrollTo({ top: 0 }), [mode]);
  return (
    <>
      {mode === 'points' && <PointsSection part={parts.length === 1 ? parts[0] : null} />}
      {mode === 'faces' && <FacesSection />}
      {parts.length === 0 ? <WholeKit /> : <Chosen parts={parts} />}
    </>
  );
}

function WholeKit() {
  const kit = useKit();
  return (
    <>
      <Empty>Choose a part on the bench or in Parts to see its numbers. Shift adds to the choice.</Empty>
      <TriangleChart />
      <SimplifySection ids={Object.keys(kit.parts)} />
      <LevelsSection />
      <SizeSection />
      <ImagesSection />
      <MeasuresSection />
    </>
  );
}

function Chosen({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const ids = parts.map((part) => part.id);
  const key = ids.join();
  const triangles = parts.reduce((sum, part) => sum + meshCounts(kit, part.mesh).triangles, 0);
  return (
    <>
      <Typography variant="h2" sx={{ px: 3, pt: 2.5, overflowWrap: 'anywhere' }}>
        {parts.length === 1 ? parts[0].name : `${parts.length} parts`}
      </Typography>
      <Section title="Part">
        <NameAndRole key={key} parts={parts} />
        <Fact name="Triangles">
          <span className="figures">{formatCount(triangles)}</span>
        </Fact>
      </Section>
      {parts.length === 1 && <TransformSection part={parts[0]} />}
      <PivotSection parts={parts} />
      {parts.length === 1 && <HingeSection part={parts[0]} />}
      <AlignSection parts={parts} />
      <RepeatSection key={`repeat ${key}`} parts={parts} />
      <MirrorSection parts={parts} />
      <SplitJoinSection key={`split ${key}`} parts={parts} />
      <SimplifySection ids={ids} />
      <SurfaceSection parts={parts} />
      <MaterialsSection key={`materials ${key}`} parts={parts} />
      {parts.length === 1 && <UvSection key={`uv ${key}`} part={parts[0]} />}
    </>
  );
}
