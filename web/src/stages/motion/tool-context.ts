import type { StoreApi } from 'zustand';
import { rulebookOf } from '../../rulebooks';
import type { Session } from '../../session/session';
import type { UiState } from '../../session/ui-store';
import { toolKeys } from '../../strip/chosen-keys';
import { whereInClip } from '../../strip/playing';
import type { ToolContext } from './motion-tool';

/** What tools of Motion work on just now; null where no clip is open. */
export function toolContext(session: Session, ui: StoreApi<UiState>): ToolContext | null {
  const at = whereInClip(session, ui);
  if (!at) return null;
  const { kit, blobs } = session;
  const { keys, selection } = ui.getState();
  const parts = selection.filter((id) => kit.parts[id]);
  return { kit, blobs, clip: at.clip, keys: toolKeys(at.clip, keys, parts), parts, time: at.time, rulebook: rulebookOf(kit.targets[0]) };
}
