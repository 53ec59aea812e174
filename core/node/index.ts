import { createHash, webcrypto } from 'node:crypto';
import { hashBesideWith, hashWith } from '@itchkit/core/document';
import { DRACO } from '@itchkit/core/intake';

/**
 * Gives core what Node does better than plain TypeScript: SHA-256 by OpenSSL, on its thread pool too, and Google's Draco decoder. Call it
 * once.
 */
export function equipNode(): void {
  hashWith((bytes) => createHash('sha256').update(bytes).digest('hex'));
  hashBesideWith(async (bytes) => Buffer.from(await webcrypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>)).toString('hex'));
  DRACO.load = async () => {
    const { default: draco3d } = await import('draco3d');
    return draco3d.createDecoderModule();
  };
}
