'use client';
import Typography from '@mui/material/Typography';
import { meshCounts } from '@itchkit/core';
import { formatCount } from '../../format';
import { Empty, Fact, Section } from '../../frame/Section';
import { useKit, useUi } from '../../session/context';
import { NameAndRole } from './NameAndRole';
import { PivotSection } from './PivotSection';
import { RepeatSection } from './RepeatSection';
import { TransformSection } from './TransformSection';
import { TriangleChart } from './TriangleChart';

/** What is selected: its name and role, its placement, its pivot. */
export function ShapeCard() {
  const kit = useKit();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  if (selection.length === 0)
    return (
      <>
        <Empty>Choose a part on the bench or in Parts to see its numbers. Shift adds to the choice.</Empty>
        <TriangleChart />
      </>
    );
  const parts = selection.map((id) => kit.parts[id]);
  const triangles = parts.reduce((sum, part) => sum + meshCounts(kit, part.mesh).triangles, 0);
  return (
    <>
      <Typography variant="h2" sx={{ px: 3, pt: 2.5, overflowWrap: 'anywhere' }}>
        {parts.length === 1 ? parts[0].name : `${parts.length} parts`}
      </Typography>
      <Section title="Part">
        <NameAndRole key={selection.join()} parts={parts} />
        <Fact name="Triangles">
          <span className="figures">{formatCount(triangles)}</span>
        </Fact>
      </Section>
      {parts.length === 1 && <TransformSection part={parts[0]} />}
      <PivotSection parts={parts} />
      <RepeatSection key={`repeat ${selection.join()}`} parts={parts} />
    </>
  );
}
