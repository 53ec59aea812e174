'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { useColorScheme } from '@mui/material/styles';
import { isTaken, isTyping, matchesKey } from '../panels/command';
import { useOpenKit, useRulebook, useRun, useUi } from '../session/context';
import type { StageDefinition } from '../stages/stage';
import { commandsOf, type PanelName } from './command-list';

/** Controls that Space works: a box is ticked and a list opened, and nothing is played meanwhile. */
const SPACE_IS_THEIRS = 'button, a, input, select, summary, [role="button"], [role="slider"], [role="combobox"], [role="checkbox"]';

/** Every command of the workspace, with its keys. */
export function useCommands(stage: StageDefinition) {
  const { session, ui } = useOpenKit();
  const router = useRouter();
  const run = useRun();
  const rulebook = useRulebook();
  // What commands are blocked by changes with these.
  useUi((state) => state.selection);
  useUi((state) => state.keys);
  useUi((state) => state.clip);
  useUi((state) => state.strip);
  const [panel, setPanel] = useState<PanelName | null>(null);

  const { mode, systemMode, setMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  const list = commandsOf(stage, {
    session,
    ui,
    rulebook,
    run,
    go: (address) => router.push(address),
    setPanel,
    dark,
    switchScheme: () => setMode(dark ? 'light' : 'dark'),
  });

  const latest = useRef(list);
  useEffect(() => {
    latest.current = list;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (document.querySelector('[role="dialog"], [role="menu"]')) return;
      // Enter and Space belong to the control that has the keyboard.
      if (event.key === ' ' && event.target instanceof HTMLElement && event.target.closest(SPACE_IS_THEIRS)) return;
      const command = latest.current.find((one) => !one.blocked && matchesKey(event, one.keys));
      if (!command) return;
      if (isTyping(event.target) && !command.whileTyping && !(command.whileTaken && isTaken(event.target))) return;
      event.preventDefault();
      command.run();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return {
    list,
    finderOpen: panel === 'finder',
    helpOpen: panel === 'help',
    historyOpen: panel === 'history',
    openHistory: () => setPanel('history'),
    openFinder: () => setPanel('finder'),
    openHelp: () => setPanel('help'),
    close: () => setPanel(null),
  };
}
