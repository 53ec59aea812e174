import { readFileSync } from 'node:fs';
import { MemoryBlobs } from '@itchkit/core/document';
import { readFile } from '@itchkit/core/intake';
import { equipNode } from '@itchkit/core/node';

// Reads the file that is named, or none, and says the most memory that this process ever had, in bytes.
async function main(): Promise<void> {
  equipNode();
  const path = process.argv[2];
  if (path) await readFile(new Uint8Array(readFileSync(path)), 'sea.glb', new MemoryBlobs());
  process.stdout.write(String(process.resourceUsage().maxRSS * 1024));
}

void main();
