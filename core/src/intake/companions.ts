/** What lies beside a file, by path relative to it; undefined where it is not there. */
export type Companions = (path: string) => Uint8Array | undefined;

/** A file that came with no others. */
export const ALONE: Companions = () => undefined;

/** A path without `.` and `..`, with slashes; one that leaves its root resolves to nothing that is in it. */
export function cleanPath(path: string): string {
  const out: string[] = [];
  for (const step of path.replaceAll('\\', '/').split('/')) {
    if (step === '..') out.pop();
    else if (step !== '.' && step !== '') out.push(step);
  }
  return out.join('/');
}
