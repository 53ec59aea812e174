import { ensureBuild } from './lib/build.mjs';
import { main, say } from './lib/say.mjs';
import { setUp } from './lib/setup.mjs';

await main(async () => {
  await setUp({ database: !process.env.DATABASE_URL });
  await ensureBuild();
  say('Everything is set up. “npm run demo” starts Itch Kit.');
});
