import { MemoryBlobs, restWorlds, runChecks, checkRulebook, meshCounts } from '@itchkit/core';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { lanternRay, nightWatchKeeper } from './rigged-kits';

const book = (id: string) => checkRulebook(JSON.parse(readFileSync(join(import.meta.dirname ?? __dirname, '../../rulebooks', `${id}.rulebook.json`), 'utf8')));

test('x', async () => {
  for (const [make, id] of [
    [nightWatchKeeper, 'emberfold'],
    [lanternRay, 'cubbin'],
  ] as const) {
    const blobs = new MemoryBlobs();
    const t = Date.now();
    const kit = await make(book(id), blobs);
    const worlds = restWorlds(kit);
    console.log(id, Date.now() - t, 'ms', JSON.stringify(Object.values(kit.parts).map((p) => meshCounts(kit, p.mesh).triangles)));
    console.log(
      Object.values(kit.parts)
        .map(
          (p) =>
            p.name +
            ' ' +
            Array.from(worlds.get(p.id)!.subarray(12, 15))
              .map((v) => v.toFixed(3))
              .join(','),
        )
        .join('\n'),
    );
    console.log(
      runChecks({ kit, rulebook: book(id), blobs })
        .map((f) => f.grade + ' ' + f.stage + ' ' + f.message)
        .join('\n'),
    );
  }
});
