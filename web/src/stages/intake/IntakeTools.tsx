import { ViewTools } from '../BenchTools';

export function IntakeTools() {
  return <ViewTools callouts />;
}
