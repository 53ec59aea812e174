import { callOf, type Clip, type KeyTrack } from '@itchkit/core/document';
import { copyKeys, pasteKeys, removeKeys } from '@itchkit/core/motion';
import type { Command } from '../../panels/command';
import { keysOf, keysWithin } from '../../strip/chosen-keys';
import { keyEverything, whereInClip } from '../../strip/playing';
import { setSlice } from '../../session/context';
import type { CommandContext } from '../stage';
import { beginValues } from './motion-tool';
import { MOTION_TOOLS } from './tool-list';
import { toolContext } from './tool-context';
import { twinPairs } from '../../parts/twin-pairs';

/** What Motion does to keys: every tool with the numbers that it begins with, and the clipboard. */
export function motionCommands({ session, ui, run }: CommandContext): Command[] {
  const context = () => toolContext(session, ui);
  const now = context();
  const noClip = now ? null : 'Open a clip first';
  const refs = () => {
    const at = whereInClip(session, ui);
    return at ? keysOf(at.clip, ui.getState().keys).map(({ track, key }) => ({ track: track.id, time: key.time })) : [];
  };
  const chosen = noClip ?? (refs().length === 0 ? 'Choose keys first' : null);
  const { copied, folded } = ui.getState().strip;
  const pasting = noClip ?? (copied === null ? 'Copy keys first' : null);
  const copy = () => setSlice(ui, 'strip', { copied: copyKeys(session.kit, { clip: now!.clip.id, keys: refs() }) });
  const keyTracks = (clip: Clip) => clip.tracks.filter((track): track is KeyTrack => track.kind === 'keys');
  /** @param onto Every copied track onto a part; null puts them where they were. */
  const paste = (onto: string | null) => {
    const at = whereInClip(session, ui)!;
    const tracks = copied!.filter(({ part }) => onto !== null || session.kit.parts[part]);
    if (tracks.length > 0) run(callOf(pasteKeys, { clip: at.clip.id, time: at.time, tracks, ...(onto === null ? {} : { onto }) }));
  };
  const one = now?.parts.length === 1 ? now.parts[0] : null;
  const twin = one === null ? undefined : twinPairs(session.kit, session.blobs)[one];
  return [
    { id: 'motion.copy', title: 'Copy the chosen keys', group: 'Keys', keys: ['Ctrl C'], blocked: chosen, run: copy },
    {
      id: 'motion.cut',
      title: 'Cut the chosen keys',
      group: 'Keys',
      keys: ['Ctrl X'],
      blocked: chosen,
      run: () => {
        copy();
        run(callOf(removeKeys, { clip: now!.clip.id, keys: refs() }));
      },
    },
    { id: 'motion.paste', title: 'Paste keys here', group: 'Keys', keys: ['Ctrl V'], blocked: pasting, run: () => paste(null) },
    {
      id: 'motion.paste-onto',
      title: 'Paste keys onto the chosen part',
      group: 'Keys',
      keys: ['Ctrl Shift V'],
      blocked: pasting ?? (one === null ? 'Choose one part' : null),
      run: () => paste(one),
    },
    {
      id: 'motion.paste-twin',
      title: 'Paste keys onto the twin of the chosen part, as they are',
      group: 'Keys',
      keys: [],
      blocked: pasting ?? (twin === undefined || twin === one ? 'Choose a part that has a twin' : null),
      run: () => paste(twin!),
    },
    {
      id: 'motion.column',
      title: 'Choose all keys at this time',
      group: 'Keys',
      keys: ['J'],
      blocked: noClip,
      run: () => {
        const at = whereInClip(session, ui)!;
        ui.setState({ keys: keysWithin(keyTracks(at.clip), at.time - 0.5 / at.clip.rate, at.time + 0.5 / at.clip.rate) });
      },
    },
    {
      id: 'motion.all-keys',
      title: 'Choose all keys',
      group: 'Keys',
      keys: ['Ctrl A'],
      blocked: noClip,
      run: () => ui.setState({ keys: keysWithin(keyTracks(now!.clip), -Infinity, Infinity) }),
    },
    {
      id: 'motion.key-everything',
      title: 'Key everything that moves, here',
      group: 'Keys',
      keys: ['Shift K'],
      blocked: noClip,
      run: () => keyEverything(session, ui, run),
    },
    {
      id: 'motion.fold',
      title: folded.length > 0 ? 'Unfold all rows of the strip' : 'Fold all rows of the strip',
      group: 'Keys',
      keys: [],
      blocked: noClip,
      run: () => setSlice(ui, 'strip', { folded: folded.length > 0 ? [] : [...new Set(now!.clip.tracks.map(({ part }) => part))] }),
    },
    ...MOTION_TOOLS.map((tool): Command => {
      const blocked = noClip ?? tool.blocked?.(now!) ?? null;
      const calls = () => {
        const at = context()!;
        return tool.calls(at, beginValues(tool, at));
      };
      return {
        id: `motion.${tool.id}`,
        title: `${tool.title}: ${tool.about}`,
        group: 'Motion tools',
        keys: [],
        blocked,
        calls,
        run: () => run(calls(), tool.title),
      };
    }),
  ];
}
