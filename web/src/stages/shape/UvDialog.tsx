'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useTheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, useState } from 'react';
import { count, type Id, type Part } from '@itchkit/core/document';
import { uvLayout, uvMap } from '@itchkit/core/geometry';
import { Choice } from '../../card/Choice';
import { Fact } from '../../panels/Section';
import { useKit, useOpenKit } from '../../session/context';
import { drawUvMap } from './draw-uv-map';

const SIDE = 520;

/** The UVs of one part over its picture: islands, what lies on top of one another, what lies outside. */
export function UvDialog({ part, onClose }: { part: Part; onClose: () => void }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const theme = useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [set, setSet] = useState(0);
  const [withPicture, setWithPicture] = useState(true);
  const mesh = kit.meshes[part.mesh!];
  const sets = Array.from({ length: 8 }, (_, n) => n).filter((n) => mesh.primitives.some(({ attributes }) => attributes[`TEXCOORD_${n}`]));
  const map = useMemo(() => uvMap(mesh, session.blobs, set), [mesh, session, set]);
  const picture = mesh.primitives.flatMap(({ material }) =>
    material === null ? [] : (kit.materials[material].baseColorTexture?.image ?? []),
  )[0] as Id | undefined;
  const bitmap = useBitmap(withPicture ? picture : undefined);
  const dark = theme.palette.mode === 'dark';

  useEffect(() => {
    if (canvas.current && map) drawUvMap(canvas.current, map, bitmap, getComputedStyle(canvas.current));
  }, [map, bitmap, dark]);

  const outside = map?.outside.reduce((sum, one) => sum + one, 0) ?? 0;
  return (
    <Dialog open onClose={onClose} maxWidth="md">
      <DialogTitle>UVs of {part.name}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: `${SIDE}px 230px`, gap: 5 }}>
        {map ? (
          <canvas
            ref={canvas}
            width={2 * SIDE}
            height={2 * SIDE}
            role="img"
            aria-label={`UV islands of ${part.name}`}
            style={{ width: SIDE, height: SIDE }}
          />
        ) : (
          <Box sx={{ p: 4, color: 'text.secondary' }}>
            “{part.name}” has no UVs. They are made where the model is; take in a new version of the file when it has some.
          </Box>
        )}
        <Box sx={{ display: 'grid', gap: 2, alignContent: 'start' }}>
          {sets.length > 1 && <Choice label="UV set" value={set} options={sets.map((n) => [n, `set ${n}`] as const)} onChange={setSet} />}
          {picture !== undefined && (
            <FormControlLabel
              control={<Checkbox size="small" checked={withPicture} onChange={(event) => setWithPicture(event.target.checked)} />}
              label={`Over “${kit.images[picture].name}”`}
            />
          )}
          {map && (
            <Box>
              <Fact name="Islands">{map.islands.toLocaleString('en')}</Fact>
              <Fact name="On top">
                <Box component="span" sx={{ color: map.overlap > 0.001 ? 'kit.stop' : undefined }}>
                  {(100 * map.overlap).toFixed(1)} % of what is covered
                </Box>
              </Fact>
              <Fact name="Outside">
                <Box component="span" sx={{ color: outside > 0 ? 'kit.warn' : undefined }}>
                  {outside === 0 ? 'nothing' : count(outside, 'triangle')}
                </Box>
              </Fact>
              <Fact name="Fingerprint">
                <span className="figures">{uvLayout(mesh, session.blobs, set) ?? 'none'}</span>
              </Fact>
              <Box sx={{ mt: 2, fontSize: 12, color: 'text.secondary', lineHeight: 1.5 }}>
                Red lies on top of something else, brown lies outside of the square. The fingerprint is what a rulebook’s fixed layout is
                held against.
              </Box>
            </Box>
          )}
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button variant="contained" onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function useBitmap(image: Id | undefined): ImageBitmap | null {
  const kit = useKit();
  const { session } = useOpenKit();
  const [made, setMade] = useState<{ image: Id; bitmap: ImageBitmap } | null>(null);
  const source = image === undefined ? undefined : kit.images[image];
  useEffect(() => {
    if (!source) return;
    let live = true;
    void createImageBitmap(new Blob([session.blobs.get(source.blob) as Uint8Array<ArrayBuffer>], { type: source.mediaType }))
      .then((bitmap) => live && setMade({ image: source.id, bitmap }))
      .catch(() => undefined);
    return () => {
      live = false;
    };
  }, [source, session]);
  return made && made.image === image ? made.bitmap : null;
}
