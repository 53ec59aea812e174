'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import LinearProgress from '@mui/material/LinearProgress';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { clipsInOrder, count, type Kit } from '@itchkit/core/document';
import { formatList, inSpaceOf } from '@itchkit/core/intake';
import { fitsOn, MOTION_SKELETONS, type JointRoles } from '@itchkit/core/motion';
import { api } from '../../api';
import { Choice } from '../../card/Choice';
import { useKit, useOpenKit } from '../../session/context';
import { useReading } from '../intake/use-reading';
import { SKELETON_TITLES } from './role-titles';
import { libraryOf, takenFrom, type MotionSource } from './motion-source';

interface Props {
  roles: JointRoles;
  chosen: MotionSource | null;
  onChoose: (source: MotionSource) => void;
}

/** Where motions come from: the library that ships, another kit of the shelf, a file. */
export function MotionSources({ roles, chosen, onChoose }: Props) {
  return (
    <>
      {MOTION_SKELETONS.map((kind) => {
        const motions = libraryOf(kind).filter((motion) => fitsOn(motion, roles));
        if (motions.length === 0)
          return (
            <Heading key={kind}>
              {SKELETON_TITLES[kind]}: joints for {count(libraryOf(kind).length, 'motion')} are not known yet
            </Heading>
          );
        return (
          <Box key={kind}>
            <Heading>{SKELETON_TITLES[kind]}</Heading>
            {motions.map((motion) => (
              <Row
                key={motion.id}
                title={motion.title}
                seconds={motion.seconds}
                about={motion.about}
                on={chosen?.kind === 'library' && chosen.motion.id === motion.id}
                onClick={() => onChoose({ kind: 'library', motion })}
              />
            ))}
          </Box>
        );
      })}
      <Elsewhere chosen={chosen} onChoose={onChoose} />
    </>
  );
}

/** Clips of another kit, or of a file that is read beside this one. */
export function Elsewhere({ chosen, onChoose }: Omit<Props, 'roles'>) {
  const { session } = useOpenKit();
  const kit = useKit();
  const [other, setOther] = useState('');
  const { state, read, cancel } = useReading(false);
  const { getInputProps, open } = useDropzone({ onDrop: (files) => void read(files), noClick: true, noDrag: true });
  const shelf = useQuery({ queryKey: ['kits'], queryFn: api.listKits });
  const loaded = useQuery({
    queryKey: ['motions-of', other],
    enabled: other !== '',
    queryFn: async () => inSpaceOf(session.kit, await session.bring((await api.loadKit(other)).document), session.blobs),
  });
  const kits = (shelf.data ?? []).filter(({ id }) => id !== session.id);
  const lists: [string, Kit][] = [];
  if (other !== '' && loaded.data) lists.push([loaded.data.name, loaded.data]);
  if (state.step === 'read') lists.push([state.brought.fileName, state.brought.next]);
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Heading>From elsewhere</Heading>
      <Choice
        label="Another kit"
        value={other}
        options={[['', 'none'], ...kits.map(({ id, name }) => [id, name] as const)]}
        onChange={setOther}
      />
      {loaded.isError && <Box sx={{ fontSize: 13 }}>That kit could not be read. Choose another.</Box>}
      <input {...getInputProps({ 'aria-label': 'File with motions' })} />
      {state.step === 'reading' ? (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          <LinearProgress
            variant={state.share < 1 ? 'determinate' : 'indeterminate'}
            value={100 * state.share}
            aria-label={`Reading ${state.name}`}
            sx={{ flex: 1 }}
          />
          <Button size="small" onClick={cancel}>
            Cancel
          </Button>
        </Box>
      ) : (
        <Button variant="outlined" onClick={open} sx={{ justifySelf: 'start' }}>
          From a file …
        </Button>
      )}
      {state.step === 'failed' && (
        <Box role="alert" sx={{ pl: 3, borderLeft: 4, borderColor: 'kit.stop', fontSize: 13, lineHeight: 1.5 }}>
          {state.message}
        </Box>
      )}
      {lists.map(([from, source]) => (
        <Box key={from}>
          <Heading>
            {from}
            {Object.keys(source.clips).length === 0 && `: no motion in it. Choose ${formatList('or', ({ clips }) => clips)} with clips`}
          </Heading>
          {clipsInOrder(source).map((clip) => (
            <Row
              key={clip.id}
              title={clip.name}
              seconds={clip.lengthSeconds}
              on={chosen?.kind === 'taken' && chosen.clip.id === clip.id && chosen.from === from}
              onClick={() => onChoose(takenFrom(from, source, clip, kit, session.blobs))}
            />
          ))}
        </Box>
      ))}
    </Box>
  );
}

function Heading({ children }: { children: ReactNode }) {
  return <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 0.5 }}>{children}</Box>;
}

interface RowProps {
  title: string;
  seconds: number;
  about?: string;
  on: boolean;
  onClick: () => void;
}

function Row({ title, seconds, about, on, onClick }: RowProps) {
  return (
    <ButtonBase
      aria-pressed={on}
      onClick={onClick}
      sx={{
        width: '100%',
        display: 'block',
        textAlign: 'left',
        py: 0.5,
        pl: 1,
        fontSize: 13,
        borderLeft: 3,
        borderColor: on ? 'kit.signal' : 'transparent',
      }}
    >
      <b>{title}</b> <span className="figures">{Number(seconds.toFixed(2))} s</span>
      {about && <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{about}</Box>}
    </ButtonBase>
  );
}
