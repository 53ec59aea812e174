import { fileURLToPath } from 'node:url';
import { dirname, join } from 'node:path';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
/** Everything that a run leaves behind and git ignores. */
export const DATA = process.env.ITCHKIT_DATA ?? join(ROOT, '.data');
export const WEB = join(ROOT, 'web');
/** What goes wrong in the application is written here. */
export const LOG = join(DATA, 'log', 'itchkit.log');
