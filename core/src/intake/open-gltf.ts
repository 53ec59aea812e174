import { Logger, WebIO, type Document, type JSONDocument } from '@gltf-transform/core';
import { KHRONOS_EXTENSIONS, ALL_EXTENSIONS } from '@gltf-transform/extensions';
import type { ReadingNote } from '../document';
import { precheckGltf, type GltfJson } from './gltf-precheck';
import { IntakeError, invalid } from './intake-error';
import { unweave } from './unweave';
import type { Companions } from './companions';

/** Draco's decoder comes from where core runs (core/node for Node); without it such files are refused in a sentence. */
export const DRACO: { load: (() => Promise<unknown>) | null } = { load: null };

const EXTENSIONS = ALL_EXTENSIONS.filter(
  (one) =>
    KHRONOS_EXTENSIONS.includes(one) ||
    ['EXT_meshopt_compression', 'EXT_texture_webp', 'EXT_mesh_gpu_instancing'].includes(one.EXTENSION_NAME),
);
/** Required ones that change nothing which a kit keeps. */
const HARMLESS = new Set(['KHR_lights_punctual', 'KHR_xmp_json_ld', 'KHR_materials_variants', 'KHR_node_visibility']);

export interface OpenedGltf {
  document: Document;
  json: GltfJson;
  binary: boolean;
}

/**
 * A glTF file as a document: container and references checked, files beside it fetched from `beside`, Draco and Meshopt decoded.
 *
 * @throws {IntakeError} where the file is refused
 */
export async function openGltf(bytes: Uint8Array, fileName: string, beside: Companions, notes: ReadingNote[]): Promise<OpenedGltf> {
  const { json, binary } = precheckGltf(bytes, fileName);
  const resources = gather(json, fileName, binary, beside, notes);
  checkRequired(json, fileName);
  const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).registerExtensions(EXTENSIONS);
  const used = Array.isArray(json.extensionsUsed) ? json.extensionsUsed.map(String) : [];
  if (used.includes('KHR_draco_mesh_compression')) {
    if (!DRACO.load)
      throw new IntakeError(
        'extension',
        `“${fileName}” is packed with Draco, which can't be unpacked here. Export it without compression.`,
        'extensionsRequired',
      );
    io.registerDependencies({ 'draco3d.decoder': await DRACO.load() });
  }
  if (used.includes('EXT_meshopt_compression')) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder');
    await MeshoptDecoder.ready;
    io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  }
  try {
    const source: JSONDocument = binary ? await io.binaryToJSON(bytes) : { json: json as never, resources: {} };
    Object.assign(source.resources, resources);
    unweave(source);
    return { document: await io.readJSON(source), json, binary };
  } catch (error) {
    throw invalid(fileName, 'its data', error instanceof Error ? error.message.replace(/\.$/, '') : 'its parts do not fit together');
  }
}

/** The files that it names, from beside it. A buffer that is not there is refused, an image noted. */
function gather(
  json: GltfJson,
  fileName: string,
  binary: boolean,
  beside: Companions,
  notes: ReadingNote[],
): Record<string, Uint8Array<ArrayBuffer>> {
  const found: Record<string, Uint8Array<ArrayBuffer>> = {};
  const fetchBeside = (uri: unknown, where: string): boolean => {
    if (uri === undefined) return true;
    if (typeof uri !== 'string') throw invalid(fileName, where, 'its address is not text');
    if (uri.startsWith('data:')) return true;
    if (/^[a-z][a-z0-9+.-]*:|^\/\//i.test(uri))
      throw new IntakeError(
        'remote',
        `“${fileName}” wants data from another machine (${where}); that is never fetched. Export it with its data inside (GLB).`,
        where,
      );
    const data = beside(decode(uri));
    if (data) found[uri] = data as Uint8Array<ArrayBuffer>;
    return data !== undefined;
  };
  json.buffers?.forEach((buffer, i) => {
    const where = `buffers[${i}]`;
    if (buffer.uri === undefined && !(binary && i === 0) && !isFallback(buffer))
      throw new IntakeError('missing-file', `“${fileName}” has a buffer with no data (${where}). Export it as GLB.`, where);
    if (!fetchBeside(buffer.uri, where)) {
      throw new IntakeError(
        'missing-file',
        `“${fileName}” needs the file “${decode(String(buffer.uri))}”, which is not with it. Drop its folder, or a ZIP of both, or export it with its data inside (GLB).`,
        where,
      );
    }
    const data = found[String(buffer.uri)];
    if (data && typeof buffer.byteLength === 'number' && data.length < buffer.byteLength) {
      throw new IntakeError(
        'truncated',
        `“${decode(String(buffer.uri))}” is cut short: it holds ${data.length.toLocaleString('en')} bytes of ${buffer.byteLength.toLocaleString('en')}. Copy or export it again.`,
        where,
      );
    }
  });
  json.images?.forEach((image, i) => {
    if (!fetchBeside(image.uri, `images[${i}]`))
      notes.push({
        grade: 'warn',
        code: 'missing-file',
        message: `Left out: the image “${decode(String(image.uri))}” is not with the file. Drop its folder, or a ZIP of both.`,
        part: null,
      });
  });
  return found;
}

/** The fallback buffer of EXT_meshopt_compression has no data, and needs none. */
function isFallback(buffer: { extensions?: unknown }): boolean {
  const extension = (buffer.extensions as Record<string, { fallback?: unknown }> | undefined)?.EXT_meshopt_compression;
  return extension?.fallback === true;
}

function checkRequired(json: GltfJson, fileName: string): void {
  if (!Array.isArray(json.extensionsRequired)) return;
  const known = new Set<string>([...EXTENSIONS.map((one) => one.EXTENSION_NAME as string), ...HARMLESS]);
  const unknown = json.extensionsRequired.map(String).filter((name) => !known.has(name));
  if (unknown.length > 0)
    throw new IntakeError(
      'extension',
      `“${fileName}” can't be read without the extension ${unknown.join(', ').slice(0, 200)}, which is not known here. Export it without it.`,
      'extensionsRequired',
    );
}

function decode(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
