'use client';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { callOf, ROLES, type Part, type Role } from '@itchkit/core/document';
import { removeParts, renameParts, setHidden, setRole } from '@itchkit/core/shape';
import { patternOf, roleOf } from '@itchkit/core/rulebook';
import { Choice } from '../../card/Choice';
import { TryButton, useTrying } from '../../card/TryButton';
import { useDraft } from '../../card/use-draft';
import { Buttons } from '../../panels/Fold';
import { useKit, useRulebook, useRun, useSetUi } from '../../session/context';
import { FONT } from '../../theme/tokens';

export function NameAndRole({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const run = useRun();
  const rulebook = useRulebook();
  const [part] = parts;
  const role = parts.every((one) => one.role === part.role) ? part.role : null;
  const found = rulebook ? roleOf(rulebook, { name: part.name, role: null }) : null;
  const by = useTrying();
  const setUi = useSetUi();
  const ids = parts.map((one) => one.id);
  const { draft, field, taken } = useDraft(part.name, {
    take(text) {
      const name = text.trim();
      if (name !== '' && name !== part.name) run(callOf(renameParts, { names: { [part.id]: name } }));
    },
    onDraft(text) {
      const name = text?.trim() ?? '';
      if (name === '' || name === part.name) by.stop();
      else by.begin(() => callOf(renameParts, { names: { [part.id]: name } }));
    },
  });
  const giving = (role: Role | null) => callOf(setRole, { parts: ids, role });
  const clash = draft !== null && Object.values(kit.parts).some(({ id, name }) => id !== part.id && name === draft.trim());
  const hidden = parts.every((one) => one.hidden);
  return (
    <Box sx={{ display: 'grid', gap: 3, mb: 2, mt: 1 }}>
      {parts.length === 1 && (
        <TextField
          label="Name"
          {...field}
          error={clash}
          helperText={clash ? 'Another part has this name' : rulebook && patternOf(rulebook, roleOf(rulebook, part))?.explain}
          slotProps={{ htmlInput: { ...taken, style: { fontFamily: FONT.figures, fontSize: 12 } }, formHelperText: { sx: { mx: 0.5 } } }}
        />
      )}
      <Choice<Role | ''>
        label="Role"
        value={role ?? ''}
        options={[['', found ? `by name (${found})` : 'none'], ...ROLES.map((one) => [one, one] as const)]}
        onChange={(one) => run(giving(one || null))}
        help={part.role === null && found ? `By its name: ${found}` : undefined}
        tries={{ by, calls: (one) => giving(one || null) }}
      />
      <Buttons>
        <TryButton calls={() => callOf(setHidden, { parts: ids, hidden: !hidden })}>{hidden ? 'Show' : 'Hide'}</TryButton>
        <TryButton calls={() => callOf(removeParts, { parts: ids })} onDone={() => setUi({ selection: [] })}>
          Delete
        </TryButton>
      </Buttons>
    </Box>
  );
}
