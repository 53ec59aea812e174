'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Link from '@mui/material/Link';
import Tooltip from '@mui/material/Tooltip';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import { useMemo, useState, type DragEvent } from 'react';
import { callOf, count, type Id } from '@itchkit/core/document';
import { restWorlds } from '@itchkit/core/geometry';
import { fittingName, type Rulebook } from '@itchkit/core/rulebook';
import { insertParent } from '@itchkit/core/shape';
import { chainOf, liftLevel, type Level } from '@itchkit/core/wiring';
import { TryButton, useTrying } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useRun, useSetUi } from '../../session/context';
import { OtherPlace, OtherSide } from './GiveWiring';

/**
 * What carries the chosen part, from the ground up: a level for each variable, more of them put in between, and all of it on the other
 * side.
 */
export function ChainSection({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const [first] = parts;
  const chain = useMemo(() => chainOf(kit, first), [kit, first]);
  const run = useRun();
  const [dragged, setDragged] = useState<Id | null>(null);
  const depthOf = (part: Id) => chain.findIndex((level) => level.part === part);
  /** A level is dropped on one that carries it: it comes to stand there, and carries that. */
  const dragOf = (level: Level) => ({
    dragged: dragged === level.part,
    takes: dragged !== null && level.keys.length > 0 && depthOf(level.part) < depthOf(dragged),
    onDrag: (on: boolean) => setDragged(on ? level.part : null),
    onDrop: () => {
      run(callOf(liftLevel, { part: dragged!, above: level.part }));
      setDragged(null);
    },
  });
  const carrier = () => {
    const world = restWorlds(kit).get(first)!;
    const name = fittingName(rulebook, `${kit.parts[first].name}_carrier`, 'driven') ?? `${kit.parts[first].name}_carrier`;
    return callOf(insertParent, { parts, name, at: [world[12], world[13], world[14]], role: 'driven' });
  };
  return (
    <Fold title="Chain" aside={<span className="figures">{count(chain.filter(({ keys }) => keys.length > 0).length, 'level')}</span>}>
      <Box component="ol" aria-label="From the ground up" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {chain.map((level, i) => (
          <LevelItem
            key={level.part}
            level={level}
            below={chain.slice(0, i)}
            depth={i}
            chosen={level.part === first}
            drag={dragOf(level)}
          />
        ))}
      </Box>
      <Buttons>
        <TryButton variant="outlined" calls={carrier}>
          Put a carrier above
        </TryButton>
      </Buttons>
      <OtherSide parts={parts} rulebook={rulebook} />
      {parts.length === 2 && <OtherPlace from={parts[0]} to={parts[1]} rulebook={rulebook} />}
    </Fold>
  );
}

interface LevelDrag {
  dragged: boolean;
  /** Whether what is dragged can be dropped here. */
  takes: boolean;
  onDrag(on: boolean): void;
  onDrop(): void;
}

interface LevelProps {
  level: Level;
  below: Level[];
  depth: number;
  chosen: boolean;
  drag: LevelDrag;
}

function LevelItem({ level, below, depth, chosen, drag }: LevelProps) {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const { trying, stop } = useTrying();
  const { name } = kit.parts[level.part];
  // The driven level that carries it, if there is one: they can change places.
  const above = level.keys.length > 0 ? below.findLast(({ keys }) => keys.length > 0) : undefined;
  const lift = () => callOf(liftLevel, { part: level.part, above: above!.part });
  const title = above ? `Let ${name} carry ${kit.parts[above.part].name}` : '';
  return (
    <Box
      component="li"
      data-level={name}
      draggable={level.keys.length > 0}
      onDragStart={(event: DragEvent) => {
        event.dataTransfer.setData('text/plain', name);
        event.dataTransfer.effectAllowed = 'move';
        drag.onDrag(true);
      }}
      onDragEnd={() => drag.onDrag(false)}
      onDragOver={(event: DragEvent) => drag.takes && event.preventDefault()}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        if (drag.takes) drag.onDrop();
      }}
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        pl: Math.min(depth, 6) * 1.5,
        minHeight: 26,
        fontSize: 13,
        cursor: level.keys.length > 0 ? 'grab' : undefined,
        opacity: drag.dragged ? 0.5 : 1,
        outline: drag.takes ? '1px dashed' : 'none',
        outlineColor: 'kit.sea',
        outlineOffset: -1,
      }}
    >
      <Link
        component="button"
        aria-current={chosen}
        onClick={() => setUi({ selection: [level.part], ...(level.bindings[0] ? { binding: level.bindings[0] } : {}) })}
        sx={{ font: 'inherit', fontWeight: chosen ? 700 : 400, textAlign: 'left' }}
      >
        {name}
      </Link>
      <Box component="span" className="figures" sx={{ flex: 1, color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis' }}>
        {level.keys.join(', ')}
      </Box>
      {above && (
        <Tooltip title={title}>
          <IconButton
            size="small"
            aria-label={title}
            {...trying(lift)}
            onClick={() => {
              stop();
              run(lift());
            }}
            sx={{ p: 0.25 }}
          >
            <ArrowUpward sx={{ fontSize: 15 }} />
          </IconButton>
        </Tooltip>
      )}
    </Box>
  );
}
