import { createHash } from 'node:crypto';
import { DRACO, hashWith } from '@itchkit/core';

/** Gives core what Node does better than plain TypeScript: SHA-256 by OpenSSL, and Google's Draco decoder. Call it once. */
export function equipNode(): void {
  hashWith((bytes) => createHash('sha256').update(bytes).digest('hex'));
  DRACO.load = async () => {
    const { default: draco3d } = await import('draco3d');
    return draco3d.createDecoderModule();
  };
}
