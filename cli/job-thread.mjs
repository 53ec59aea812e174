// The thread that the command line does its jobs in.
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

createRequire(import.meta.url)(join(dirname(fileURLToPath(import.meta.url)), 'dist/jobs.cjs'));
