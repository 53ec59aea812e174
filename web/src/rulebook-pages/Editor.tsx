'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { nextVersion, rulebookText, type Rulebook } from '@itchkit/core/rulebook';
import { api } from '../api';
import { isShipped, learnRulebooks, newestOf } from '../rulebooks';
import { EditorForms } from './EditorForms';
import { JsonPane } from './JsonPane';
import { PageLayout } from './PageLayout';
import { readDraft } from './read-draft';
import { sentenceOf, useRulebookActions, useRulebooks } from './use-rulebooks';

/** A rulebook being changed: forms and its JSON side by side, each following the other. */
export function Editor({ id }: { id: string }) {
  const { isPending } = useRulebooks();
  const rulebook = isPending ? undefined : newestOf(id);
  if (!rulebook || isShipped(id)) {
    const refusal = rulebook
      ? `“${rulebook.title}” ships with Itch Kit and can’t be changed. Make a copy of it first.`
      : `There is no rulebook “${id}” here. Import it again.`;
    return (
      <PageLayout title="Rulebook" within>
        <Box sx={{ p: 6 }} role={isPending ? undefined : 'alert'}>
          {isPending ? 'Opening the rulebook …' : refusal}
        </Box>
      </PageLayout>
    );
  }
  return <Open key={rulebook.id} rulebook={rulebook} />;
}

function Open({ rulebook }: { rulebook: Rulebook }) {
  const [saved, setSaved] = useState(rulebook);
  const [text, setText] = useState(() => rulebookText(rulebook));
  const [past, setPast] = useState<string[]>([]);
  const [saving, setSaving] = useState(false);
  const { enqueueSnackbar } = useSnackbar();
  const { changed } = useRulebookActions();
  const router = useRouter();
  const draft = readDraft(text);
  const dirty = text !== rulebookText(saved);

  const change = (next: string) => {
    setPast((list) => [...list.slice(-199), text]);
    setText(next);
  };
  const undo = () => {
    const last = past.at(-1);
    if (last === undefined) return;
    setPast(past.slice(0, -1));
    setText(last);
  };
  const save = async (value: Rulebook) => {
    setSaving(true);
    try {
      const made = await api.saveRulebook(value);
      learnRulebooks(await api.listRulebooks());
      await changed();
      setSaved(value);
      enqueueSnackbar(`“${made.title}” ${made.version} is saved.`);
      if (made.id !== rulebook.id) router.replace(`/rulebooks/${made.id}/edit`);
    } catch (error) {
      enqueueSnackbar(sentenceOf(error), { variant: 'error' });
    } finally {
      setSaving(false);
    }
  };

  return (
    <PageLayout
      title={draft.value?.title ?? saved.title}
      within
      tools={
        <>
          <Button onClick={undo} disabled={past.length === 0}>
            Undo
          </Button>
          <Button
            onClick={() =>
              draft.value &&
              void save({ ...draft.value, version: nextVersion(draft.value.version) }).then(() =>
                setText(rulebookText({ ...draft.value!, version: nextVersion(draft.value!.version) })),
              )
            }
            disabled={draft.error !== null || saving}
          >
            Save as a newer version
          </Button>
          <Button
            variant="contained"
            onClick={() => draft.value && void save(draft.value)}
            disabled={draft.error !== null || saving || !dirty}
          >
            {dirty ? `Save ${draft.value?.version ?? ''}` : 'Saved'}
          </Button>
        </>
      }
    >
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: 'minmax(0, 1.25fr) minmax(0, 1fr)' }}>
        <Box sx={{ overflowY: 'auto', px: 5, py: 4 }}>
          {draft.error && (
            <Alert severity="error" variant="outlined" sx={{ mb: 3 }}>
              {draft.error.path ? <b>{draft.error.path}: </b> : null}
              {draft.error.message}
            </Alert>
          )}
          {draft.value ? (
            <EditorForms rulebook={draft.value} error={draft.error} onChange={(next) => change(rulebookText(next))} />
          ) : (
            <Box sx={{ color: 'text.secondary' }}>The forms come back when the JSON can be read.</Box>
          )}
        </Box>
        <JsonPane text={text} error={draft.error} onChange={change} />
      </Box>
    </PageLayout>
  );
}
