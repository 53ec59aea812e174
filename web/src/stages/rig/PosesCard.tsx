'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { useEffect, useMemo, useState } from 'react';
import { count, type Kit } from '@itchkit/core/document';
import { bendPoses, jointsInOrder, wholePoses, type PoseFigures, type TestPose } from '@itchkit/core/rig';
import { Buttons } from '../../panels/Fold';
import { Empty, Section } from '../../panels/Section';
import { useKit, useOpenKit, useSetSlice, useUi } from '../../session/context';
import { ContactSheet } from './ContactSheet';
import { JobProgress } from './JobProgress';
import { PoseFigure } from './PoseFigure';
import { useRigJob } from './use-rig-job';

/** Measured figures belong to the kit they were measured on. */
const known = new WeakMap<Kit, Map<string, PoseFigures>>();

/** Poses that prove a rig before a key is set: every joint to its limits, and a few of the whole; with what each does to the body. */
export function PosesCard() {
  const kit = useKit();
  const { session } = useOpenKit();
  const setRig = useSetSlice('rig');
  const shown = useUi((state) => state.rig.pose);
  const poses = useMemo(() => [...wholePoses(kit), ...bendPoses(kit, held(kit))], [kit]);
  const { share, start, cancel } = useRigJob();
  const [told, setTold] = useState(0);
  const [sheet, setSheet] = useState(false);
  // What is known of the pose in view is drawn on it.
  useEffect(() => setRig({ crossed: (shown && known.get(kit)?.get(shown.id)?.outline) ?? null }), [kit, shown, told, setRig]);
  if (poses.length === 0) return <Empty>There is nothing to pose: no joint holds anything. Fit a skeleton, and solve its weights.</Empty>;
  const figures = known.get(kit) ?? new Map<string, PoseFigures>();
  const measure = () =>
    start(async (job, tell) => {
      const found = new Map(figures);
      known.set(kit, found);
      await job.measure(kit, session.blobs, poses, (i, one) => {
        found.set(poses[i].id, one);
        setTold((n) => n + 1);
        tell((i + 1) / poses.length);
      });
    });
  const whole = poses.filter(({ turns }) => turns.length > 1);
  const bends = poses.filter(({ turns }) => turns.length === 1);
  return (
    <>
      <Section title="Test poses" aside={<span style={{ fontSize: 12 }}>rest is never touched</span>}>
        <Box sx={{ mt: 1, display: 'grid', gap: 1.5 }}>
          {share !== null ? (
            <JobProgress label="Measuring" share={share} onCancel={cancel} />
          ) : (
            <Buttons>
              <Button variant="contained" onClick={() => void measure()}>
                Measure all {poses.length}
              </Button>
              <Button variant="outlined" onClick={() => setSheet(true)}>
                Contact sheet
              </Button>
            </Buttons>
          )}
        </Box>
      </Section>
      {[
        { title: 'The whole body', list: whole },
        { title: 'Joint by joint', list: sortWorst(bends, figures) },
      ].map(
        ({ title, list }) =>
          list.length > 0 && (
            <Section key={title} title={title}>
              {list.map((pose) => (
                <PoseRow
                  key={pose.id}
                  pose={pose}
                  figures={figures.get(pose.id)}
                  on={shown?.id === pose.id}
                  names={kit.parts}
                  onClick={() => setRig({ pose: shown?.id === pose.id ? null : pose })}
                />
              ))}
            </Section>
          ),
      )}
      {sheet && <ContactSheet poses={poses} figures={figures} onClose={() => setSheet(false)} />}
    </>
  );
}

/** Joints that hold something. */
function held(kit: Kit) {
  const skins = new Set(Object.values(kit.skins).flatMap((skin) => skin.joints));
  return jointsInOrder(kit).filter((id) => skins.has(id));
}

/** Those that lose most volume first, once they are measured. */
function sortWorst(poses: TestPose[], figures: ReadonlyMap<string, PoseFigures>): TestPose[] {
  return poses.every(({ id }) => figures.has(id))
    ? [...poses].sort((a, b) => badness(figures.get(b.id)!) - badness(figures.get(a.id)!))
    : poses;
}

const badness = ({ volume, crossings }: PoseFigures) => Math.abs(1 - volume) + crossings / 1000;

function PoseRow({
  pose,
  figures,
  on,
  names,
  onClick,
}: {
  pose: TestPose;
  figures: PoseFigures | undefined;
  on: boolean;
  names: Kit['parts'];
  onClick: () => void;
}) {
  const where = figures?.at[0] === undefined ? '' : `: by ${names[figures.at[0]]?.name}`;
  return (
    <ButtonBase
      onClick={onClick}
      aria-pressed={on}
      title={
        figures
          ? `${(100 * figures.volume).toFixed(1)} % of the volume at rest; ${count(figures.crossings, 'pair')} of triangles through one another${where}`
          : undefined
      }
      sx={{
        width: '100%',
        display: 'flex',
        gap: 1,
        justifyContent: 'space-between',
        px: 1,
        py: 0.5,
        fontSize: 13,
        textAlign: 'left',
        borderRadius: 0.5,
        bgcolor: on ? 'kit.card' : undefined,
        fontWeight: on ? 700 : 400,
      }}
    >
      <span>{pose.title}</span>
      <PoseFigure figures={figures} />
    </ButtonBase>
  );
}
