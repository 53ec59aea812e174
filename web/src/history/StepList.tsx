import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import { Empty } from '../panels/Section';
import { useOpenKit, useSession } from '../session/context';

/** Every step of this window, undone ones paler; a click goes to where it was just done. */
export function StepList() {
  const { session } = useOpenKit();
  const undo = useSession((state) => state.undo);
  const redo = useSession((state) => state.redo);
  const viewing = useSession((state) => state.viewing);
  const steps = [...undo, ...redo.toReversed()];
  if (viewing) return <Empty>Go back to the kit to step through what was done to it.</Empty>;
  if (steps.length === 0) return <Empty>Nothing has been done in this window yet. What was done before stands under Revisions.</Empty>;
  return (
    <List dense component="ol" sx={{ m: 0, p: 0 }} aria-label="Steps">
      {['As it was opened', ...steps.map((step) => step.title)].map((title, done) => (
        <li key={done}>
          <ListItemButton
            selected={done === undo.length}
            aria-current={done === undo.length ? 'step' : undefined}
            onClick={() => session.stepTo(done)}
            sx={{ px: 4, py: 0.5, opacity: done > undo.length ? 0.62 : 1 }}
          >
            <ListItemText primary={title} slotProps={{ primary: { sx: { fontSize: 13 } } }} />
            {done > 0 && <span className="figures">{done}</span>}
          </ListItemButton>
        </li>
      ))}
    </List>
  );
}
