import type { ReactNode } from 'react';
import { Workspace } from '../../../workspace/Workspace';

/** The workspace outlives its stages: a stage is a route, and the bench is drawn once. */
export default async function KitLayout({ children, params }: { children: ReactNode; params: Promise<{ kit: string }> }) {
  const { kit } = await params;
  return (
    <>
      <Workspace kitId={kit} />
      {children}
    </>
  );
}
