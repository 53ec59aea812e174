'use client';
import Box from '@mui/material/Box';
import { useMemo, useState } from 'react';
import { callOf, count, type Axis, type Id, type Link, type LinkKind, type Vec3 } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/formula';
import { invertMatrix, ownBounds, restWorlds, sideOfBounds, sizeOf, transformPoint } from '@itchkit/core/geometry';
import { figure, type Rulebook } from '@itchkit/core/rulebook';
import { pivotToAnchor } from '@itchkit/core/shape';
import {
  addLink,
  LINK_METRES,
  proposeLink,
  removeLinks,
  renewLinks,
  spanOfTables,
  tablesOf,
  worstGap,
  type LinkGap,
  type ProposedLink,
} from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit } from '../../session/context';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** What the chosen parts are linked with, and what links them: turns that are worked out of where what carries them stands. */
export function LinkSection({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const own = (kit.links ?? []).filter((link) => link.parts.some((id) => parts.includes(id)));
  return (
    <Fold title="Links" aside={own.length || undefined}>
      {own.map((link) => (
        <Linked key={link.id} link={link} rulebook={rulebook} />
      ))}
      {own.length === 0 && parts.length <= 2 && <NewLink key={parts.join()} parts={parts} rulebook={rulebook} />}
      {own.length === 0 && parts.length > 2 && <Box sx={small}>Choose two parts that are to meet, or one that rolls.</Box>}
    </Fold>
  );
}

const DOES = { meet: 'meet', aim: 'aim at one another', roll: 'rolls' } as const satisfies Record<LinkKind, string>;

function worstOf(kit: ReturnType<typeof useKit>, link: Link): LinkGap | null {
  try {
    return worstGap(kit, link);
  } catch {
    return null;
  }
}

/** How far a link is off at most, in words. */
function howFar(worst: LinkGap | null, unit: string): string {
  if (worst === null) return 'no table to go by';
  const mm = 1000 * worst.metres;
  return mm < 0.001 ? 'exact' : `at most ${figure(mm)} mm off, at ${figure(worst.value)} ${unit}`;
}

/** A link that there is: how well its tables keep it, and what can be done with it. */
function Linked({ link, rulebook }: { link: Link; rulebook: Rulebook }) {
  const kit = useKit();
  const worst = useMemo(() => worstOf(kit, link), [kit, link]);
  const { from, to } = spanOfTables(kit, link);
  const unit = rulebook.variables.find(({ name }) => name === link.variable)?.unit ?? '';
  const rows = tablesOf(kit, link)[0]?.rows.length ?? 0;
  const off = worst === null || worst.metres > 2 * LINK_METRES;
  const whole = from <= link.min && to >= link.max;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ fontSize: 13 }}>
        {link.parts.map((id) => kit.parts[id].name).join(' and ')} {DOES[link.kind]}
      </Box>
      <Box className="figures" sx={{ ...small, color: off ? 'kit.stop' : 'text.secondary' }}>
        {leverKey(link.variable, link.index)}: {count(rows, 'row')}, {howFar(worst, unit)}
      </Box>
      {!whole && (
        <Box sx={{ ...small, color: 'kit.stop' }}>
          They reach one another from {figure(from)} to {figure(to)} {unit} alone.
        </Box>
      )}
      <Buttons>
        {off && (
          <TryButton variant="contained" calls={() => callOf(renewLinks, { links: [link.id] })}>
            Work it out again
          </TryButton>
        )}
        <TryButton variant="outlined" calls={() => callOf(removeLinks, { links: [link.id] })}>
          Let go, keep the tables
        </TryButton>
      </Buttons>
    </Box>
  );
}

/** A pivot that stands further from the middle than this share of the size is not that of a wheel. */
const WOBBLES = 0.02;

const AXES = [0, 1, 2].map((axis) => [axis as Axis, 'xyz'[axis]] as const);
const KINDS = [
  ['meet', 'Their ends meet'],
  ['aim', 'They aim at one another'],
] as const satisfies readonly (readonly [LinkKind, string])[];

/** A link to be: proposed as the kit has it, every number of it can be said otherwise. */
function NewLink({ parts, rulebook }: { parts: Id[]; rulebook: Rulebook }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const rolls = parts.length === 1;
  const [kind, setKind] = useState<LinkKind>(rolls ? 'roll' : 'meet');
  const [on, setOn] = useState<Id | null>(null);
  const [said, setSaid] = useState<Partial<ProposedLink>>({});
  const proposed = useMemo(() => proposeLink(kit, session.blobs, kind, parts, on), [kit, session, kind, parts, on]);
  const variable = rulebook.variables.find(({ name }) => name === proposed?.variable);
  const names = parts.map((id) => kit.parts[id].name);
  const link = proposed && { ...proposed, ...said, kind, on };
  const lever = link ? leverKey(link.variable, link.index) : '';
  const calls = () => callOf(addLink, { ...link!, min: variable!.min, max: variable!.max, neutral: variable!.neutral });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {link && variable ? (
        <Box sx={small}>
          {rolls ? `${names[0]} rolls by the way that it goes` : `${names[0]} and ${names[1]} turn about their pivots as they have to`}{' '}
          while {lever} moves what carries {rolls ? 'it, or what it rolls on' : 'them'}.
        </Box>
      ) : (
        <Box sx={small}>
          {names.join(' and ')}{' '}
          {rolls ? 'can roll as it is carried along, or on what moves' : 'can be linked as what carries one of them moves'}: bind that to a
          variable first.
        </Box>
      )}
      {!rolls && <Choice label="Link" value={kind as (typeof KINDS)[number][0]} options={KINDS} onChange={setKind} />}
      {rolls && (
        <On
          part={parts[0]}
          on={on}
          onChange={(one) => {
            setOn(one);
            setSaid({});
          }}
        />
      )}
      {link && variable && (
        <>
          <Box sx={{ display: 'grid', gridTemplateColumns: rolls ? '1fr' : '1fr 1fr', gap: 1 }}>
            {parts.map((id, i) => (
              <Choice
                key={id}
                label={`Axis of ${names[i]}`}
                value={link.axes[i]}
                options={AXES}
                onChange={(axis) => setSaid({ ...said, axes: link.axes.map((one, k) => (k === i ? axis : one)) })}
              />
            ))}
          </Box>
          {link.at && !rolls && <Meeting part={parts[0]} at={link.at} onChange={(at) => setSaid({ ...said, at })} />}
          {rolls && <PivotFirst part={parts[0]} axis={link.axes[0]} />}
          {link.at && rolls && <Radius part={parts[0]} at={link.at} onChange={(at) => setSaid({ ...said, at })} />}
          <Buttons>
            <TryButton variant="contained" calls={calls}>
              Work it out
            </TryButton>
          </Buttons>
        </>
      )}
    </Box>
  );
}

/** A wheel whose pivot stands beside its middle would wobble: that is said, and mended with one press. */
function PivotFirst({ part, axis }: { part: Id; axis: Axis }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const bounds = useMemo(() => ownBounds(kit, session.blobs, kit.parts[part]), [kit, session, part]);
  const aside = [0, 1, 2].map((i) => (i === axis ? 0 : sideOfBounds(bounds, i, 'middle')));
  const widest = Math.max(...sizeOf(bounds));
  if (!(Math.hypot(...aside) > WOBBLES * widest)) return null;
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      <Box sx={{ ...small, color: 'kit.stop' }}>Its pivot does not stand in its middle: it would wobble.</Box>
      <Buttons>
        <TryButton variant="outlined" calls={() => callOf(pivotToAnchor, { parts: [part], anchor: [0, 0, 0] })}>
          Put its pivot in its middle
        </TryButton>
      </Buttons>
    </Box>
  );
}

/** How far from its axle a wheel touches, millimetres. */
function Radius({ part, at, onChange }: { part: Id; at: Vec3; onChange: (at: Vec3) => void }) {
  const kit = useKit();
  const world = useMemo(() => restWorlds(kit).get(part)!, [kit, part]);
  const there = transformPoint(world, at);
  const radius = Math.hypot(...there.map((value, i) => value - world[12 + i]));
  const set = (mm: number) => mm > 0 && radius > 0 && onChange(at.map((value) => (value * mm) / 1000 / radius) as Vec3);
  return <NumberField label="Radius" unit="mm" digits={2} value={1000 * radius} onCommit={set} />;
}

/** Where two ends meet, in the world at rest, millimetres. */
function Meeting({ part, at, onChange }: { part: Id; at: Vec3; onChange: (at: Vec3) => void }) {
  const kit = useKit();
  const world = useMemo(() => Float64Array.from(restWorlds(kit).get(part)!), [kit, part]);
  const there = transformPoint(world, at);
  const set = (axis: number, mm: number) => {
    const back = invertMatrix(world);
    if (back)
      onChange(
        transformPoint(
          back,
          there.map((value, i) => (i === axis ? mm / 1000 : value)),
        ),
      );
  };
  return (
    <Box>
      <Box sx={{ ...small, mb: 0.75 }}>They meet at (of the whole kit)</Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}>
        {['x', 'y', 'z'].map((name, axis) => (
          <NumberField
            key={name}
            label={`Meet at ${name}`}
            caption={name}
            unit="mm"
            digits={2}
            value={1000 * there[axis]}
            onCommit={(mm) => set(axis, mm)}
          />
        ))}
      </Box>
    </Box>
  );
}

/** What a wheel rolls on: the ground, or a part that moves. */
function On({ part, on, onChange }: { part: Id; on: Id | null; onChange: (on: Id | null) => void }) {
  const kit = useKit();
  const moving = new Set(Object.values(kit.bindings).flatMap((binding) => (binding.part === part ? [] : [binding.part])));
  const options = [['', 'the ground'] as const, ...[...moving].map((id) => [id, kit.parts[id].name] as const)];
  return <Choice label="Rolls on" value={on ?? ''} options={options} onChange={(id) => onChange(id === '' ? null : id)} />;
}
