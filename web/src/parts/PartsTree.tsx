'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import VisibilityOutlined from '@mui/icons-material/VisibilityOutlined';
import VisibilityOffOutlined from '@mui/icons-material/VisibilityOffOutlined';
import ChevronRight from '@mui/icons-material/ChevronRight';
import ExpandMore from '@mui/icons-material/ExpandMore';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { Tree, type NodeRendererProps, type RowRendererProps, type TreeApi } from 'react-arborist';
import { callOf, childrenOf, count, partsInOrder, type Id, type Kit } from '@itchkit/core/document';
import { renameParts, reparentParts, setHidden } from '@itchkit/core/shape';
import { roleOf } from '@itchkit/core/rulebook';
import { useTrying } from '../card/TryButton';
import { isTyping } from '../panels/command';
import { Empty } from '../panels/Section';
import { useKit, useOpenKit, useRulebook, useRun, useUi } from '../session/context';

interface Row {
  id: Id;
  name: string;
  hidden: boolean;
  role: string | null;
  /** Empty where nothing hangs below; a list all the same, so that something can be hung there. */
  children: Row[];
}

const ROW_HEIGHT = 26;

/** The tree in one pass: parents come before their children. */
function rowsOf(kit: Kit, role: (id: Id) => string | null): Row[] {
  const roots: Row[] = [];
  const rows = new Map<Id, Row>();
  for (const part of partsInOrder(kit)) {
    const row: Row = { id: part.id, name: part.name, hidden: part.hidden, role: role(part.id), children: [] };
    rows.set(part.id, row);
    if (part.parent === null) roots.push(row);
    else rows.get(part.parent)!.children.push(row);
  }
  return roots;
}

/**
 * Letters, digits and Delete are the workspace's keys here too, not the tree's search for a name; arrows, Space and Enter are the tree's.
 * Tab is the browser's: the tree would look for its own stop, which is left out, and never go on.
 */
function passOn(event: KeyboardEvent) {
  if (event.key === 'Tab') return event.stopPropagation();
  const own = event.key === ' ' || (event.key.length > 1 && !['Delete', 'Backspace', 'Escape'].includes(event.key));
  if (own || event.ctrlKey || event.metaKey || isTyping(event.target)) return;
  event.stopPropagation();
  event.preventDefault();
  window.dispatchEvent(new window.KeyboardEvent('keydown', event.nativeEvent));
}

/** Space and Enter choose the row with the keyboard (with Ctrl besides others), F2 makes its name a field. Whether it was one of these. */
function keyOfTree(event: KeyboardEvent, tree: TreeApi<Row> | undefined): boolean {
  const row = tree?.focusedNode ?? tree?.firstNode;
  if (!tree || !row || isTyping(event.target) || ![' ', 'Enter', 'F2'].includes(event.key)) return false;
  event.preventDefault();
  event.stopPropagation();
  if (event.key === 'F2') void tree.edit(row.id);
  else if (!event.ctrlKey && !event.metaKey) tree.select(row.id);
  else if (row.isSelected) tree.deselect(row.id);
  else tree.selectMulti(row.id);
  return true;
}

/** The tree of parts: drag to hang elsewhere (nothing moves on the bench; with Alt its numbers stay and it moves along), F2 to rename. */
export function PartsTree() {
  const kit = useKit();
  const rulebook = useRulebook();
  const run = useRun();
  const selection = useUi((state) => state.selection);
  const { ui } = useOpenKit();
  const holder = useRef<HTMLDivElement>(null);
  const tree = useRef<TreeApi<Row>>(undefined);
  /** Whether Alt was held when the row was let go: then its numbers are kept, and it moves along. */
  const withAlt = useRef(false);
  const { begin, stop } = useTrying();
  /** What is tried while rows are dragged, as text: the same place is asked about at every move of the pointer. */
  const dragged = useRef('');
  const hanging = (dragIds: Id[], parentId: Id | null, index: number) =>
    callOf(reparentParts, {
      parts: dragIds,
      parent: parentId,
      place: placeAmong(kit, dragIds, parentId, index),
      keep: withAlt.current ? 'local' : 'world',
    });
  const hidden = Object.values(kit.parts).filter((part) => part.hidden).length;
  /** Parts that the tree does not list, since something above them is folded. */
  const [folded, setFolded] = useState(0);
  const [size, setSize] = useState({ width: 280, height: 200 });
  const data = useMemo(() => rowsOf(kit, (id) => (rulebook ? roleOf(rulebook, kit.parts[id]) : kit.parts[id].role)), [kit, rulebook]);

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setSize({ width: entry.contentRect.width, height: entry.contentRect.height }));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);

  // The list inside the tree is what scrolls, so it is what the keyboard has to reach; the tree's own stop is left out.
  useEffect(() => {
    const container = holder.current?.querySelector<HTMLElement>('[role="tree"]');
    const scroller = container?.querySelector<HTMLElement>(':scope > div');
    if (!container || !scroller) return;
    container.tabIndex = -1;
    scroller.tabIndex = 0;
    scroller.setAttribute('role', 'group');
  });

  // What is picked on the bench or in the Ledger is shown as picked here.
  useEffect(() => {
    const api = tree.current;
    if (!api) return;
    const same = api.selectedIds.size === selection.length && selection.every((id) => api.selectedIds.has(id));
    if (same) return;
    api.setSelection({ ids: selection, anchor: selection[0] ?? null, mostRecent: selection.at(-1) ?? null });
    if (selection.length > 0) void api.scrollTo(selection[selection.length - 1]);
  }, [selection]);

  return (
    <Box component="section" aria-label="Parts" sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', px: 3, pt: 2.5, pb: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Parts
        </Typography>
        <Typography className="figures" color="text.secondary">
          {Object.keys(kit.parts).length}
        </Typography>
      </Box>
      <Box
        ref={holder}
        // While the list is scrolled it would let the pointer through, and for a moment after: a press then chose nothing, or let all go.
        sx={{ flex: 1, minHeight: 0, '& [role="tree"] > div > div:last-of-type': { pointerEvents: 'auto !important' } }}
        onKeyDownCapture={(event) => !keyOfTree(event, tree.current) && passOn(event)}
        onKeyDown={(event) => !event.ctrlKey && !event.metaKey && event.stopPropagation()}
        onDragEndCapture={() => {
          dragged.current = '';
          stop();
        }}
        onDragOverCapture={(event) => (withAlt.current = event.altKey)}
      >
        {data.length === 0 ? (
          <Empty>There are no parts. Drop a file on the shelf to start a kit from it.</Empty>
        ) : (
          <Tree<Row>
            ref={tree}
            data={data}
            renderRow={TreeRow}
            width={size.width}
            height={size.height}
            rowHeight={ROW_HEIGHT}
            indent={14}
            aria-label="Parts of the kit"
            onToggle={() =>
              queueMicrotask(() => setFolded(tree.current ? Object.keys(kit.parts).length - tree.current.visibleNodes.length : 0))
            }
            onSelect={(nodes) => {
              // By ids: the tree has no nodes for what lies in a folded part.
              const ids = tree.current ? [...tree.current.selectedIds].filter((id) => kit.parts[id]) : nodes.map((node) => node.id);
              // What is chosen by now, not when the rows were drawn: what came between would win over this press afterwards.
              const chosen = ui.getState().selection;
              if (ids.length !== chosen.length || ids.some((id) => !chosen.includes(id))) ui.setState({ selection: ids, held: null });
            }}
            disableDrop={({ dragNodes, parentNode, index }) => {
              const call = hanging(
                dragNodes.map((node) => node.id),
                parentNode.isRoot ? null : parentNode.id,
                index,
              );
              if (JSON.stringify(call) !== dragged.current) {
                dragged.current = JSON.stringify(call);
                queueMicrotask(() => begin(() => call));
              }
              return false;
            }}
            onMove={({ dragIds, parentId, index }) => {
              stop();
              run(hanging(dragIds, parentId, index));
            }}
            onRename={({ id, name }) => {
              if (name.trim() !== '' && name !== kit.parts[id].name) run(callOf(renameParts, { names: { [id]: name.trim() } }));
            }}
          >
            {PartRow}
          </Tree>
        )}
      </Box>
      {(hidden > 0 || folded > 0) && (
        <Box sx={{ px: 3, py: 0.75, fontSize: 12, color: 'text.secondary', borderTop: 1, borderColor: 'divider' }}>
          {[hidden > 0 && count(hidden, 'hidden part'), folded > 0 && count(folded, 'folded part')].filter(Boolean).join(' and ')}{' '}
          {hidden + folded === 1 ? 'goes' : 'go'} into the package all the same.
        </Box>
      )}
    </Box>
  );
}

/** arborist counts the dragged rows among their new siblings; the operation counts the others alone. */
function placeAmong(kit: Kit, dragged: Id[], parent: Id | null, index: number): number {
  return childrenOf(kit, parent)
    .slice(0, index)
    .filter((part) => !dragged.includes(part.id)).length;
}

/** What has nothing below it is neither open nor folded. */
function TreeRow({ node, attrs, innerRef, children }: RowRendererProps<Row>) {
  return (
    <div
      {...attrs}
      aria-expanded={node.data.children.length > 0 ? node.isOpen : undefined}
      aria-selected={node.isSelected}
      ref={innerRef}
      onFocus={(event) => event.stopPropagation()}
      onClick={(event) => node.handleClick(event)}
    >
      {children}
    </div>
  );
}

function PartRow({ node, style, dragHandle }: NodeRendererProps<Row>) {
  const by = useTrying();
  const run = useRun();
  const { id, name, hidden, role } = node.data;
  return (
    <Box
      ref={dragHandle}
      style={style}
      data-part={name}
      onDoubleClick={() => void node.edit()}
      sx={{
        height: ROW_HEIGHT,
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        pr: 1,
        cursor: 'default',
        fontSize: 13,
        opacity: hidden ? 0.55 : 1,
        bgcolor: node.isSelected ? 'kit.card' : undefined,
        boxShadow: (t) => {
          if (node.willReceiveDrop) return `inset 0 0 0 1.5px ${t.vars!.palette.kit.sea}`;
          return node.isSelected ? `inset 3px 0 0 ${t.vars!.palette.kit.signal}` : 'none';
        },
        '& .eye': { visibility: hidden ? 'visible' : 'hidden' },
        '&:hover .eye, &:focus-within .eye': { visibility: 'visible' },
      }}
    >
      <Box component="span" onClick={() => node.toggle()} sx={{ width: 18, display: 'inline-flex', color: 'text.secondary', ml: 1 }}>
        {node.data.children.length > 0 && (node.isOpen ? <ExpandMore sx={{ fontSize: 16 }} /> : <ChevronRight sx={{ fontSize: 16 }} />)}
      </Box>
      {node.isEditing ? (
        <Box
          component="input"
          autoFocus
          aria-label="New name"
          defaultValue={name}
          onFocus={(event) => event.currentTarget.select()}
          onBlur={() => node.reset()}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'Escape') return;
            event.stopPropagation();
            if (event.key === 'Enter') void node.submit(event.currentTarget.value);
            else node.reset();
            // The field goes away: its row has the keyboard again.
            node.tree.focus(node.id);
            requestAnimationFrame(() => node.tree.listEl.current?.focus());
          }}
          sx={{
            flex: 1,
            minWidth: 0,
            font: 'inherit',
            color: 'inherit',
            bgcolor: 'kit.card',
            border: 1,
            borderColor: 'kit.sea',
            borderRadius: 0.5,
            px: 0.5,
          }}
        />
      ) : (
        <Box component="span" sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {name}
        </Box>
      )}
      {role && (
        <Box component="span" sx={{ fontSize: 11, color: 'kit.sea', flex: 'none' }}>
          {role}
        </Box>
      )}
      <IconButton
        className="eye"
        size="small"
        tabIndex={-1}
        aria-label={hidden ? `Show ${name}` : `Hide ${name}`}
        {...by.trying(() => callOf(setHidden, { parts: [id], hidden: !hidden }))}
        onClick={(event) => {
          event.stopPropagation();
          by.stop();
          run(callOf(setHidden, { parts: [id], hidden: !hidden }));
        }}
        sx={{ p: 0.25 }}
      >
        {hidden ? <VisibilityOffOutlined sx={{ fontSize: 15 }} /> : <VisibilityOutlined sx={{ fontSize: 15 }} />}
      </IconButton>
    </Box>
  );
}
