import { GizmoTools, ViewTools } from '../BenchTools';

export function ShapeTools() {
  return (
    <>
      <GizmoTools />
      <ViewTools callouts />
    </>
  );
}
