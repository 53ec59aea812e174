'use client';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { count } from '@itchkit/core/document';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useUi } from '../../session/context';
import { keysOf } from '../../strip/chosen-keys';
import { beginValues, type MotionTool, type ToolContext, type ToolValue } from './motion-tool';
import { MOTION_TOOLS } from './tool-list';
import { toolContext } from './tool-context';

/** Every tool on keys: opened it shows its numbers; what it would do is seen on strip and bench before it is pressed. */
export function ToolsSection() {
  const [open, setOpen] = useState<string | null>(null);
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const refs = useUi((state) => state.keys);
  const selection = useUi((state) => state.selection);
  const context = toolContext(session, ui);
  if (!context) return null;
  const own = keysOf(context.clip, refs).length;
  const parts = selection.filter((id) => kit.parts[id]).length;
  const on =
    own > 0
      ? `${count(own, 'chosen key')}`
      : `all ${count(context.keys.length, 'key')} of ${parts > 0 && context.clip.tracks.some((track) => selection.includes(track.part)) ? 'the chosen parts' : 'the clip'}`;
  const groups = [...new Set(MOTION_TOOLS.map(({ group }) => group))];
  return (
    <Fold title="Tools" aside={on}>
      {groups.map((group) => (
        <Box key={group}>
          <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 0.5 }}>{group}</Box>
          {MOTION_TOOLS.filter((tool) => tool.group === group).map((tool) => (
            <Box
              key={tool.id}
              sx={{ borderLeft: 2, borderColor: open === tool.id ? 'kit.signal' : 'transparent', pl: open === tool.id ? 1.5 : 0, mb: 0.25 }}
            >
              <ButtonBase
                aria-expanded={open === tool.id}
                onClick={() => setOpen(open === tool.id ? null : tool.id)}
                sx={{
                  width: '100%',
                  justifyContent: 'flex-start',
                  fontSize: 13,
                  py: 0.5,
                  fontWeight: open === tool.id ? 600 : 400,
                  '&:hover': { color: 'kit.sea' },
                }}
              >
                {tool.title}
              </ButtonBase>
              {open === tool.id && <ToolForm tool={tool} context={context} />}
            </Box>
          ))}
        </Box>
      ))}
    </Fold>
  );
}

function ToolForm({ tool, context }: { tool: MotionTool; context: ToolContext }) {
  const { session, ui } = useOpenKit();
  const [typed, setTyped] = useState<Record<string, ToolValue>>({});
  const values = { ...beginValues(tool, context), ...typed };
  const blocked = tool.blocked?.(context) ?? null;
  const set = (id: string, value: ToolValue) => setTyped((before) => ({ ...before, [id]: value }));
  const calls = () => {
    const now = toolContext(session, ui);
    return now && tool.calls(now, values);
  };
  return (
    <Box sx={{ display: 'grid', gap: 2, pb: 2, pt: 0.5 }}>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{tool.about}</Box>
      {tool.fields.length > 0 && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: 0.5 }}>
          {tool.fields.map((field) =>
            field.kind === 'number' ? (
              <NumberField
                key={field.id}
                label={field.label}
                unit={field.unit}
                step={field.step}
                min={field.min}
                max={field.max}
                digits={field.digits}
                value={Number(values[field.id])}
                onCommit={(value) => set(field.id, value)}
              />
            ) : (
              <Box key={field.id} sx={{ gridColumn: '1 / -1' }}>
                <Choice
                  label={field.label}
                  value={String(values[field.id])}
                  options={field.options}
                  onChange={(value) => set(field.id, value)}
                />
              </Box>
            ),
          )}
        </Box>
      )}
      {blocked ? (
        <Box role="note" sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          {blocked}.
        </Box>
      ) : (
        <TryButton variant="contained" calls={calls} step={tool.title}>
          {tool.verb}
        </TryButton>
      )}
    </Box>
  );
}
