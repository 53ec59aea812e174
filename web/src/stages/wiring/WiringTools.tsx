import { GizmoTools, ViewTools } from '../../bench/BenchTools';

export function WiringTools() {
  return (
    <>
      <GizmoTools />
      <ViewTools />
    </>
  );
}
