import { database } from '../../../../server/database';
import { loadPackage } from '../../../../server/package-store';
import { route } from '../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { id }) => {
  const { fileName, bytes } = await loadPackage(database(), id);
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${fileName.replaceAll(/[^\w.-]/g, '_')}"` },
  });
});
