import type { StoreApi } from 'zustand';
import { callOf, type Call, type Clip, type KeyTrack } from '@itchkit/core/document';
import { copyKeys, pasteKeys, removeKeys } from '@itchkit/core/motion';
import type { Stage } from '@itchkit/core/rulebook';
import type { Command } from '../../frame/command';
import type { Session } from '../../session/session';
import type { UiState } from '../../session/ui-store';
import { keysOf, keysWithin } from '../../strip/chosen-keys';
import { keyEverything, whereInClip } from '../../strip/playing';
import { beginValues, type ToolContext } from './motion-tool';
import { MOTION_TOOLS } from './tool-list';
import { twinPairs } from './twin-pairs';

interface Around {
  stage: Stage;
  session: Session;
  ui: StoreApi<UiState>;
  context: () => ToolContext | null;
  run: (calls: Call | Call[], title?: string) => boolean;
}

/** What Motion does to keys: every tool with the numbers that it begins with, and the clipboard. */
export function motionCommands({ stage, session, ui, context, run }: Around): Command[] {
  const outside = stage === 'motion' ? null : 'In Motion';
  const now = stage === 'motion' ? context() : null;
  const noClip = outside ?? (now ? null : 'Open a clip first');
  const refs = () => {
    const at = whereInClip(session, ui);
    return at ? keysOf(at.clip, ui.getState().keys).map(({ track, key }) => ({ track: track.id, time: key.time })) : [];
  };
  const chosen = noClip ?? (refs().length === 0 ? 'Choose keys first' : null);
  const { copied, folded } = ui.getState().motion;
  const pasting = noClip ?? (copied === null ? 'Copy keys first' : null);
  const setMotion = (change: Partial<UiState['motion']>) => ui.setState({ motion: { ...ui.getState().motion, ...change } });
  const copy = () => setMotion({ copied: copyKeys(session.kit, { clip: now!.clip.id, keys: refs() }) });
  const keyTracks = (clip: Clip) => clip.tracks.filter((track): track is KeyTrack => track.kind === 'keys');
  /** @param onto Every copied track onto a part; null puts them where they were. */
  const paste = (onto: string | null) => {
    const at = whereInClip(session, ui)!;
    const tracks = copied!.filter(({ part }) => onto !== null || session.kit.parts[part]);
    if (tracks.length > 0 && run(callOf(pasteKeys, { clip: at.clip.id, time: at.time, tracks, ...(onto === null ? {} : { onto }) }))) {
      const after = session.kit.clips[at.clip.id];
      const places = new Set(tracks.map(({ part, property, axis }) => `${onto ?? part} ${property} ${axis}`));
      const last = Math.max(...tracks.flatMap(({ keys }) => keys.map(({ time }) => time)));
      ui.setState({
        keys: keysWithin(
          keyTracks(after).filter(({ part, property, axis }) => places.has(`${part} ${property} ${axis}`)),
          at.time,
          at.time + last,
        ),
      });
    }
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
        if (run(callOf(removeKeys, { clip: now!.clip.id, keys: refs() }))) ui.setState({ keys: [] });
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
      run: () => setMotion({ folded: folded.length > 0 ? [] : [...new Set(now!.clip.tracks.map(({ part }) => part))] }),
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
