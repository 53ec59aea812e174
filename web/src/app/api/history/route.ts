import { database } from '../../../server/database';
import { historyFigures, keepHouse, policySchema, savePolicy, type HistoryPolicy } from '../../../server/history-store';
import { json, jsonBody, route } from '../../../server/route';

export const dynamic = 'force-dynamic';

/** What is kept of old revisions and of kits off the shelf. */
export const GET = route(async () => json(await historyFigures(database())));

/** Keeps as much as is said from now on, and lets go of what is more. */
export const PUT = route(async (request) => {
  await savePolicy(database(), await jsonBody<HistoryPolicy>(request, policySchema));
  await keepHouse(database());
  return json(await historyFigures(database()));
});
