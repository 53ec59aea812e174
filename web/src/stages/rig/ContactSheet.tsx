'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { count } from '@itchkit/core/document';
import { useEffect, useRef, useState } from 'react';
import { strikePose, type PoseFigures, type TestPose } from '@itchkit/core/rig';
import { BenchView } from '../../bench/bench-view';
import { useKit, useOpenKit, useSetSlice } from '../../session/context';
import { DAY } from '../../theme/tokens';
import { PoseFigure } from './PoseFigure';
import { crossedMarks } from './rig-marks';

interface Props {
  poses: TestPose[];
  figures: ReadonlyMap<string, PoseFigures>;
  onClose: () => void;
}

/** A small picture of every pose, drawn one after the other; a click shows it on the bench. */
export function ContactSheet({ poses, figures, onClose }: Props) {
  const kit = useKit();
  const { session } = useOpenKit();
  const setRig = useSetSlice('rig');
  const [pictures, setPictures] = useState<Record<string, string>>({});
  // Pictures are drawn with what is known as each is drawn; a figure that comes in later does not draw all of them anew.
  const known = useRef(figures);
  useEffect(() => {
    known.current = figures;
  }, [figures]);
  useEffect(() => {
    let going = true;
    const urls: string[] = [];
    const holder = document.createElement('div');
    holder.style.cssText = 'position:fixed;left:-2000px;width:220px;height:220px';
    document.body.append(holder);
    const nothing = () => undefined;
    const view = new BenchView(holder, DAY, { pick: nothing, point: nothing, face: nothing, swung: nothing, moved: nothing });
    void (async () => {
      view.setKit(kit, session.blobs);
      // Pictures of materials arrive a moment later.
      await new Promise((resolve) => setTimeout(resolve, 300));
      for (const pose of poses) {
        if (!going || !view.poser) break;
        strikePose(kit, view.poser, pose);
        view.posed();
        const outline = known.current.get(pose.id)?.outline;
        view.setOverlay('crossed', outline?.length ? crossedMarks(outline, DAY) : null);
        const png = await view.thumbnail(176, 176, true);
        if (!png || !going) break;
        const url = URL.createObjectURL(png);
        urls.push(url);
        setPictures((before) => ({ ...before, [pose.id]: url }));
      }
      view.dispose();
      holder.remove();
    })();
    return () => {
      going = false;
      urls.forEach((url) => URL.revokeObjectURL(url));
    };
  }, [kit, poses, session]);
  const drawn = Object.keys(pictures).length;
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>Contact sheet</DialogTitle>
      <DialogContent>
        <Box role="status" sx={{ fontSize: 13, mb: 2, color: 'text.secondary' }}>
          {drawn < poses.length
            ? `Drawing ${drawn} of ${poses.length}`
            : `${count(poses.length, 'pose')}; beside each stands what it does to the body’s volume, and whether it runs through itself.`}
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(150px, 1fr))', gap: 1.5 }}>
          {poses.map((pose) => (
            <Box
              key={pose.id}
              component="button"
              onClick={() => {
                setRig({ pose });
                onClose();
              }}
              sx={{
                border: 1,
                borderColor: 'divider',
                borderRadius: 1,
                p: 1,
                bgcolor: 'kit.card',
                color: 'text.primary',
                font: 'inherit',
                fontSize: 12,
                textAlign: 'left',
                cursor: 'pointer',
              }}
            >
              <Box sx={{ height: 132, display: 'grid', placeItems: 'center' }}>
                {pictures[pose.id] ? (
                  <Box component="img" src={pictures[pose.id]} alt={pose.title} sx={{ maxWidth: '100%', maxHeight: 132 }} />
                ) : (
                  '…'
                )}
              </Box>
              {pose.title} <PoseFigure figures={figures.get(pose.id)} />
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
