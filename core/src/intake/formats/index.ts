import { bvh } from './bvh';
import { collada } from './collada';
import type { Format } from './format';
import { glb } from './glb';
import { gltf } from './gltf';
import { obj } from './obj';
import { ply } from './ply';
import { stl } from './stl';

export type { Format } from './format';

/** The formats that are read, in the order in which a file is asked whether it is one of them. */
export const FORMATS: readonly Format[] = [glb, ply, collada, bvh, stl, obj, gltf];
/** As people are told of them. */
const LISTED: readonly Format[] = [glb, gltf, ...FORMATS].filter((format, i, all) => all.indexOf(format) === i);

/** What a kit's source can be besides a single file of a format. */
const GATHERED: Readonly<Record<string, string>> = { frames: 'numbered mesh frames', zip: 'ZIP' };

/** “GLB, glTF, OBJ or PLY”. @param which Those that are meant; all where nothing is said. */
export function formatList(type: 'or' | 'and', which: (format: Format) => boolean = () => true): string {
  const list = new Intl.ListFormat('en-GB', { type: type === 'or' ? 'disjunction' : 'conjunction' });
  return list.format(LISTED.filter(which).map(({ short }) => short));
}

/** What a kit's source is, in words. */
export function formatTitle(id: string): string {
  return FORMATS.find((format) => format.id === id)?.title ?? GATHERED[id] ?? id;
}

const ofEnding = (fileName: string) => /\.([^./\\]+)$/.exec(fileName)?.[1].toLowerCase();

/** The format that a name speaks of. */
export function formatOfName(fileName: string): Format | undefined {
  const ending = ofEnding(fileName);
  return ending === undefined ? undefined : FORMATS.find(({ endings }) => endings.includes(ending));
}

/** Endings for a dialog that chooses files: models, what comes with them, and ZIPs of both. @param which Formats that are meant. */
export function fileEndings(which: (format: Format) => boolean = () => true): string[] {
  return [...new Set(FORMATS.filter(which).flatMap(({ endings, beside }) => [...endings, ...beside]))]
    .concat('zip')
    .map((ending) => `.${ending}`);
}

/** A file name that is numbered, of a format whose rows of files are frames; null for others. */
export function numberedFrame(fileName: string): { group: string; number: number } | null {
  const match = /^(.*?)[ _.-]*(\d+)\.[^.]+$/.exec(fileName);
  return match && formatOfName(fileName)?.numbered ? { group: match[1], number: Number(match[2]) } : null;
}
