import { GizmoTools, ViewTools } from '../BenchTools';

export function WiringTools() {
  return (
    <>
      <GizmoTools />
      <ViewTools />
    </>
  );
}
