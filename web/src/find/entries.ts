import { clipsInOrder, partsInOrder, type Kit } from '@itchkit/core/document';
import { STAGE_TITLES, type Rulebook, type Stage } from '@itchkit/core/rulebook';
import type { Command } from '../panels/command';
import type { Found } from './finder';
import { PLACES, type Place } from './places';

/** Something that can be found and done. */
export interface Entry extends Found, Pick<Command, 'keys' | 'blocked' | 'calls' | 'run'> {}

interface Doing {
  toPlace(place: Place): void;
  toPart(id: string): void;
  toClip(id: string): void;
  to(address: string): void;
}

/** What else a command is looked for by, where its title and the trade's synonyms do not say it. */
const COMMAND_WORDS: Record<string, string> = {
  'mend-all': 'fix everything automatically repair',
  ledger: 'findings problems what is wrong errors checks',
  card: 'properties inspector panel details',
  help: 'shortcuts hotkeys',
  'shape.flip': 'flip normals invert faces',
  scheme: 'dark light mode theme',
  shelf: 'all kits home',
  frame: 'focus zoom view all',
  'let-go': 'deselect clear selection',
  history: 'revisions versions restore older',
};

/** All that can be found in an open kit, each thing once. */
export function entriesOf(
  kit: Kit,
  {
    commands,
    kits,
    rulebooks,
    stages,
    doing,
  }: {
    commands: readonly Command[];
    kits: readonly { id: string; name: string }[];
    rulebooks: readonly Pick<Rulebook, 'id' | 'title' | 'summary'>[];
    /** Those that the target has. */
    stages: readonly Stage[];
    doing: Doing;
  },
): Entry[] {
  const known = new Set(commands.map(({ title }) => title.toLowerCase()));
  const missing = (stage: Stage) => (stages.includes(stage) ? null : 'The target asks nothing of that stage');
  return [
    ...commands.map((command) => ({ ...command, words: COMMAND_WORDS[command.id] })),
    ...PLACES.filter(({ title }) => !known.has(title.toLowerCase())).map((place): Entry => ({
      id: `place.${place.stage}.${place.section ?? ''}.${place.title}`,
      title: place.title,
      group: [STAGE_TITLES[place.stage], place.section === place.title ? null : place.section].filter(Boolean).join(', '),
      words: place.words,
      keys: [],
      blocked: missing(place.stage),
      run: () => doing.toPlace(place),
    })),
    ...partsInOrder(kit).map(({ id, name }): Entry => ({
      id: `part.${id}`,
      title: name,
      group: 'Parts',
      keys: [],
      run: () => doing.toPart(id),
    })),
    ...clipsInOrder(kit).map(({ id, name }): Entry => ({
      id: `clip.${id}`,
      title: name,
      group: 'Clips',
      keys: [],
      blocked: missing('motion'),
      run: () => doing.toClip(id),
    })),
    ...kits.map(({ id, name }): Entry => ({
      id: `kit.${id}`,
      title: name,
      group: 'Kits',
      keys: [],
      run: () => doing.to(`/kits/${id}/intake`),
    })),
    ...rulebooks.map(({ id, title, summary }): Entry => ({
      id: `rulebook.${id}`,
      title,
      group: 'Rulebooks',
      words: `rulebook ${summary}`,
      keys: [],
      run: () => doing.to(`/rulebooks/${id}`),
    })),
  ];
}
