import { zip } from 'fflate';
import { formatOfName, MAX_FILE_BYTES, numberedFrame } from '@itchkit/core/intake';
import { formatBytes } from './format';

/** A file as react-dropzone gives it: with its path in the folder that was dropped. */
export type DroppedFile = File & { path?: string; relativePath?: string };

export interface Bundle {
  name: string;
  files: DroppedFile[];
}

const isModel = ({ name }: DroppedFile) => formatOfName(name) !== undefined || isZip(name);
const isZip = (name: string) => /\.zip$/i.test(name);

const pathOf = (file: DroppedFile) => (file.path || file.webkitRelativePath || file.name).replace(/^\.?\//, '');
const isHidden = (path: string) => path.split('/').some((step) => step.startsWith('.') || step === '__MACOSX');

/**
 * What belongs together among dropped files: a folder is one model with its pictures, loose files beside a single model
 * are its own, numbered meshes are a set. Everything else is taken in file by file.
 */
export function gatherDrop(files: DroppedFile[]): Bundle[] {
  const folders = new Map<string, DroppedFile[]>();
  const loose: DroppedFile[] = [];
  for (const file of files) {
    const path = pathOf(file);
    if (isHidden(path)) continue;
    const slash = path.indexOf('/');
    if (slash < 0) loose.push(file);
    else folders.set(path.slice(0, slash), [...(folders.get(path.slice(0, slash)) ?? []), file]);
  }
  const bundles = [...folders].map(([name, inside]) => ({ name: `${name}.zip`, files: inside }));
  return [...bundles, ...gatherLoose(loose)];
}

function gatherLoose(files: DroppedFile[]): Bundle[] {
  const models = files.filter(isModel);
  const alone = () => files.map((file) => ({ name: file.name, files: [file] }));
  if (files.length < 2) return alone();
  if (models.length === 1 && !isZip(models[0].name)) return [{ name: models[0].name, files }];
  const stems = models.map((file) => numberedFrame(file.name)?.group);
  const groups = new Set(stems.filter((stem) => stem !== undefined));
  const frames =
    groups.size > 0 &&
    [...groups].every((group) => stems.filter((stem) => stem === group).length > 1) &&
    stems.filter((stem) => stem === undefined).length <= 1;
  return frames ? [{ name: `${[...groups][0] || 'frames'}.zip`, files }] : alone();
}

export class TooLargeDropError extends Error {}

/** The file itself, or several in a ZIP that packs nothing, made here. @throws {TooLargeDropError} */
export async function bundleFile({ name, files }: Bundle): Promise<File> {
  const size = files.reduce((sum, file) => sum + file.size, 0);
  if (size > MAX_FILE_BYTES)
    throw new TooLargeDropError(
      `“${name}” is ${formatBytes(size)}; up to ${formatBytes(MAX_FILE_BYTES)} are taken in. Simplify it, or split it into several files.`,
    );
  if (files.length === 1 && !pathOf(files[0]).includes('/')) return files[0];
  const entries: Record<string, Uint8Array> = {};
  for (const file of files) entries[pathOf(file)] = new Uint8Array(await file.arrayBuffer());
  const packed = await new Promise<Uint8Array>((resolve, reject) =>
    zip(entries, { level: 0 }, (error, data) => (error ? reject(error) : resolve(data))),
  );
  return new File([packed as Uint8Array<ArrayBuffer>], name.replace(/\.[^.]*$/, '.zip'), { type: 'application/zip' });
}
