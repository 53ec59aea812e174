import * as THREE from 'three';
import type { Blobs, Image, Sha, TextureSlot } from '@itchkit/core/document';

/** glTF 2.0, 5.26: how a texture goes on beyond its edges. */
const WRAPS: Record<number, THREE.Wrapping> = {
  10497: THREE.RepeatWrapping,
  33071: THREE.ClampToEdgeWrapping,
  33648: THREE.MirroredRepeatWrapping,
};

/** Textures of material slots. A picture is decoded once, however many slots read it in their own ways. */
export class SlotTextures {
  private readonly pictures = new Map<Sha, THREE.TextureSource<ImageBitmap | null>>();
  private readonly made = new Map<string, THREE.Texture>();

  /** @param onArrival Called when a picture has been decoded. */
  constructor(private readonly onArrival: () => void) {}

  /** @param colour Whether the picture is of colours (sRGB) or of data. */
  get(slot: TextureSlot, image: Image, blobs: Blobs, colour: boolean): THREE.Texture {
    const key = JSON.stringify([image.blob, colour, slot.wrapS, slot.wrapT, slot.texCoord, slot.transform]);
    let texture = this.made.get(key);
    if (texture) return texture;
    texture = new THREE.Texture();
    texture.source = this.pictureOf(image, blobs);
    texture.wrapS = WRAPS[slot.wrapS] ?? THREE.RepeatWrapping;
    texture.wrapT = WRAPS[slot.wrapT] ?? THREE.RepeatWrapping;
    texture.channel = slot.texCoord;
    texture.flipY = false;
    if (colour) texture.colorSpace = THREE.SRGBColorSpace;
    if (slot.transform) {
      // KHR_texture_transform: moved, turned and sized about the corner.
      texture.offset.fromArray(slot.transform.offset);
      texture.repeat.fromArray(slot.transform.scale);
      texture.rotation = slot.transform.rotation;
    }
    texture.needsUpdate = texture.source.data !== null;
    this.made.set(key, texture);
    return texture;
  }

  /** Lets go of all but those that are still shown. */
  keep(shown: readonly THREE.Texture[]): void {
    const kept = new Set(shown);
    for (const [key, texture] of this.made) {
      if (kept.has(texture)) continue;
      texture.dispose();
      this.made.delete(key);
    }
    const sources = new Set([...this.made.values()].map(({ source }) => source));
    for (const [sha, source] of this.pictures) if (!sources.has(source)) this.pictures.delete(sha);
  }

  private pictureOf({ blob, mediaType }: Image, blobs: Blobs): THREE.TextureSource<ImageBitmap | null> {
    const known = this.pictures.get(blob);
    if (known) return known;
    const source = new THREE.TextureSource<ImageBitmap | null>(null);
    this.pictures.set(blob, source);
    const data = new Blob([blobs.get(blob) as Uint8Array<ArrayBuffer>], { type: mediaType });
    createImageBitmap(data).then(
      (bitmap) => {
        source.data = bitmap;
        source.needsUpdate = true;
        for (const texture of this.made.values()) if (texture.source === source) texture.needsUpdate = true;
        this.onArrival();
      },
      // A picture that the browser can't decode is not shown; the Ledger says what is wrong with it.
      () => undefined,
    );
    return source;
  }
}
