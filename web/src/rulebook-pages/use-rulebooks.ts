import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useRouter } from 'next/navigation';
import { KitError } from '@itchkit/core/document';
import { rulebookText, type Rulebook } from '@itchkit/core/rulebook';
import { api, ApiError, OfflineError } from '../api';
import { allRulebooks, learnRulebooks, newestOf } from '../rulebooks';
import { saveAs } from '../panels/save-as';

const KEY = ['rulebooks'];

/** All rulebooks, newest versions; people's own are fetched. */
export function useRulebooks() {
  return useQuery({
    queryKey: KEY,
    queryFn: async () => {
      learnRulebooks(await api.listRulebooks());
      return allRulebooks();
    },
  });
}

export function sentenceOf(error: unknown): string {
  return error instanceof KitError || error instanceof ApiError || error instanceof OfflineError
    ? error.message
    : 'Something went wrong. Nothing was changed; reload the page and try again.';
}

/** What can be done with a rulebook as a whole. */
export function useRulebookActions() {
  const client = useQueryClient();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const changed = () => client.invalidateQueries({ queryKey: KEY });
  const attempt = async (run: () => Promise<void>) => {
    try {
      await run();
      await changed();
    } catch (error) {
      enqueueSnackbar(sentenceOf(error), { variant: 'error' });
    }
  };
  return {
    changed,
    /** Makes a copy to be changed, and opens it. */
    copy: (rulebook: Rulebook) =>
      attempt(async () => {
        const id = freeId(`${rulebook.id}-own`);
        await api.saveRulebook({ ...rulebook, id, version: '0.1.0', title: `${rulebook.title}, own copy` });
        learnRulebooks(await api.listRulebooks());
        router.push(`/rulebooks/${id}/edit`);
      }),
    remove: (rulebook: Rulebook) =>
      attempt(async () => {
        await api.deleteRulebook(rulebook.id);
        enqueueSnackbar(
          `“${rulebook.title}” was deleted. Kits that are prepared for it keep it as their target, and find it again once it is imported.`,
        );
      }),
    importFiles: (files: readonly File[]) =>
      attempt(async () => {
        for (const file of files) {
          const saved = await api.saveRulebook(parseJson(await file.text(), file.name));
          enqueueSnackbar(`“${saved.title}” ${saved.version} was taken in.`);
        }
      }),
  };
}

function parseJson(text: string, fileName: string): unknown {
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) return value;
  } catch {
    // Said below.
  }
  throw new KitError('json', `“${fileName}” is not JSON, so it is no rulebook. Export the rulebook again.`, fileName);
}

function freeId(id: string): string {
  if (!newestOf(id)) return id;
  for (let n = 2; ; n++) if (!newestOf(`${id}-${n}`)) return `${id}-${n}`;
}

/** Gives a rulebook to the person as a JSON file. */
export function exportRulebook(rulebook: Rulebook): void {
  const text = new Blob([`${rulebookText(rulebook)}\n`], { type: 'application/json' });
  saveAs(`${rulebook.id}-${rulebook.version}.rulebook.json`, text);
}
