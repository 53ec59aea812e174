import Divider from '@mui/material/Divider';
import { GizmoTools, ViewTools } from '../BenchTools';
import { HierarchyTools } from './HierarchyTools';

export function ShapeTools() {
  return (
    <>
      <GizmoTools />
      <HierarchyTools />
      <Divider orientation="vertical" flexItem sx={{ mx: 1 }} />
      <ViewTools callouts />
    </>
  );
}
