'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { callOf, slotsOf, type Image, type Kit } from '@itchkit/core/document';
import { convertImage, dropUnusedMaterials, duplicatesOf, mergeDuplicates, resizeImage } from '@itchkit/core/shape';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { formatBytes } from '../../format';
import { useKit } from '../../session/context';
import { powerOfTwo } from './power-of-two';
import { useImageUpload } from './use-image-upload';

const users = (kit: Kit, image: Image) =>
  Object.values(kit.materials).filter((material) => slotsOf(material).some((slot) => slot.image === image.id));

/** The kit's pictures: what shows them, how large they are, and what can be done about it. */
export function ImagesSection() {
  const kit = useKit();
  const upload = useImageUpload();
  const images = Object.values(kit.images);
  const { images: same, materials: alike } = duplicatesOf(kit);
  const unused = images.filter((image) => users(kit, image).length === 0).length;
  if (images.length === 0) return null;
  return (
    <Fold title="Pictures" aside={images.length}>
      {images.map((image) => {
        const by = users(kit, image);
        const [width, height] = [powerOfTwo(image.width), powerOfTwo(image.height)];
        const other = image.mediaType === 'image/png' ? 'image/jpeg' : 'image/png';
        return (
          <Box key={image.id} sx={{ pb: 1.5, borderBottom: 1, borderColor: 'divider' }}>
            <Box sx={{ fontSize: 13, fontWeight: 600, overflowWrap: 'anywhere' }}>{image.name}</Box>
            <Box className="figures" sx={{ color: 'text.secondary', mb: 0.5 }}>
              {image.width} × {image.height}, {image.mediaType.replace('image/', '').toUpperCase()}, {formatBytes(image.bytes)}
            </Box>
            <Box sx={{ fontSize: 12.5, color: 'text.secondary', mb: 1 }}>
              {by.length === 0 ? 'nothing shows it' : `shown by ${by.map(({ name }) => name).join(', ')}`}
            </Box>
            <Buttons>
              <Button size="small" variant="outlined" onClick={() => void upload(image.id)}>
                Replace …
              </Button>
              {(width !== image.width || height !== image.height) && (
                <TryButton size="small" calls={() => callOf(resizeImage, { image: image.id, width, height })}>
                  To {width} × {height}
                </TryButton>
              )}
              {image.mediaType !== 'image/webp' && (
                <TryButton size="small" calls={() => callOf(convertImage, { image: image.id, mediaType: other })}>
                  As {other === 'image/png' ? 'PNG' : 'JPEG'}
                </TryButton>
              )}
            </Buttons>
          </Box>
        );
      })}
      <Buttons>
        <TryButton disabled={same.size + alike.size === 0} calls={() => callOf(mergeDuplicates, {})}>
          Merge {same.size + alike.size} duplicates
        </TryButton>
        <TryButton disabled={unused === 0} calls={() => callOf(dropUnusedMaterials, {})}>
          Take out unused
        </TryButton>
      </Buttons>
    </Fold>
  );
}
