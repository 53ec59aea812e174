import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { figure } from '@itchkit/core/document';
import { anchorWords, CHECKS, FIELD_WORDS, type PivotRule, type Rulebook } from '@itchkit/core/rulebook';
import { Fact } from '../panels/Section';
import { BookTable } from './BookTable';
import { NamesSection } from './NamesSection';
import { PackageTree } from './PackageTree';
import { RulesSection } from './RulesSection';
import { SizeClasses } from './SizeClasses';
import { TreeList } from './TreeList';
import { VariablesSection } from './VariablesSection';

export interface BookletSection {
  id: string;
  title: string;
  content: ReactNode;
}

const AXES = ['x', 'y', 'z'];

/** The sections that a rulebook has anything to say in. */
export function bookletSections(rulebook: Rulebook): BookletSection[] {
  const { sizeClasses, hierarchy, pivots, materials, uv, levels, skeleton, motion, variables, packaging } = rulebook;
  const sections: (BookletSection | false | undefined)[] = [
    { id: 'space', title: 'Space', content: <Space rulebook={rulebook} /> },
    sizeClasses && { id: 'size', title: 'Size classes', content: <SizeClasses classes={sizeClasses} /> },
    { id: 'names', title: 'Names', content: <NamesSection rulebook={rulebook} /> },
    (hierarchy?.parents || hierarchy?.drivenOrder || hierarchy?.anchors) && {
      id: 'hierarchy',
      title: 'Hierarchy',
      content: <HierarchySection rulebook={rulebook} />,
    },
    pivots &&
      pivots.length > 0 && {
        id: 'pivots',
        title: 'Pivots',
        content: (
          <BookTable
            head={['Role', 'Where it turns']}
            rows={pivots.map((pivot) => ({ key: pivot.role, cells: [pivot.role, pivotWords(pivot)] }))}
          />
        ),
      },
    skeleton && {
      id: 'skeleton',
      title: 'Skeleton',
      content: (
        <TreeList
          items={skeleton.map(({ name, parent, needed }) => ({ name: needed ? name : `${name} (if you like)`, id: name, parent }))}
        />
      ),
    },
    motion && { id: 'motion', title: 'Motion', content: <Motion motion={motion} /> },
    materials && { id: 'materials', title: 'Materials', content: <MaterialsSection materials={materials} /> },
    levels && {
      id: 'levels',
      title: 'Levels of detail',
      content: (
        <BookTable
          head={['Level', 'Of the triangles', 'What it is for']}
          rows={levels.map(({ name, share, about }) => ({
            key: name,
            cells: [<b key="name">{name}</b>, `${Math.round(100 * share)} %`, about],
          }))}
        />
      ),
    },
    uv?.layouts && {
      id: 'uv',
      title: 'UV layouts',
      content: (
        <BookTable
          head={['Part', 'What lies where', 'Fingerprint']}
          rows={uv.layouts.map(({ part, about, fingerprint }) => ({
            key: part,
            cells: [
              <b key="part">{part}</b>,
              about,
              <span key="fingerprint" className="figures">
                {fingerprint}
              </span>,
            ],
          }))}
        />
      ),
    },
    variables.length > 0 && {
      id: 'variables',
      title: `Variables (${variables.length})`,
      content: <VariablesSection variables={variables} curves={rulebook.tableCurves === true} />,
    },
    { id: 'package', title: 'Package', content: <PackageTree packaging={packaging} /> },
    { id: 'rules', title: `Rules (${rulebook.rules.length})`, content: <RulesSection rules={rulebook.rules} checks={CHECKS} /> },
  ];
  const rest = Object.keys(rulebook).filter((field) => !TOLD.has(field)) as (keyof Rulebook)[];
  if (rest.length > 0) sections.push({ id: 'further', title: 'Further', content: <Further rulebook={rulebook} fields={rest} /> });
  return sections.filter((section): section is BookletSection => Boolean(section));
}

/** Fields that the head of the page or a section of their own tells of. */
const TOLD: ReadonlySet<string> = new Set<keyof Rulebook>([
  ...(['format', 'id', 'version', 'title', 'summary'] as const),
  ...(['space', 'unit', 'tileMetres', 'stepMetres', 'stepDegrees', 'sizeClasses', 'naming', 'hierarchy', 'pivots', 'materials'] as const),
  ...(['uv', 'levels', 'skeleton', 'motion', 'variables', 'packaging', 'rules'] as const),
]);

/** Fields that have no section of their own: as they are, with what they mean. */
function Further({ rulebook, fields }: { rulebook: Rulebook; fields: (keyof Rulebook)[] }) {
  return fields.map((field) => (
    <Fact key={field} name={field}>
      {FIELD_WORDS[field]}
      <Box component="pre" className="figures" sx={{ m: 0, mt: 0.5, whiteSpace: 'pre-wrap' }}>
        {JSON.stringify(rulebook[field], null, 1)}
      </Box>
    </Fact>
  ));
}

function pivotWords({ place, anchor, axis }: PivotRule): string {
  switch (place) {
    case 'anchor':
      return `${anchorWords(anchor!)} of its bounds`;
    case 'inside':
      return 'inside its mesh';
    case 'on-step':
      return 'on the step';
    case 'on-parent-axis':
      return `on the ${AXES[axis!]} axis of what carries it`;
  }
}

function Space({ rulebook: { space, unit, tileMetres, stepMetres, stepDegrees } }: { rulebook: Rulebook }) {
  return (
    <>
      <Fact name="Unit">
        {unit.name} ({unit.short}), {figure(space.metresPerUnit, 4)} m
      </Fact>
      <Fact name="Axes">
        {space.up} is up, {space.forward} is forward, {space.handedness}-handed
      </Fact>
      <Fact name="Tile">{figure(tileMetres)} m</Fact>
      <Fact name="Step">
        {figure(stepMetres, 4)} m, {figure(stepDegrees)}°
      </Fact>
    </>
  );
}

function HierarchySection({ rulebook: { hierarchy } }: { rulebook: Rulebook }) {
  return (
    <>
      {hierarchy!.parents && (
        <BookTable
          head={['A', 'hangs below a']}
          rows={hierarchy!.parents.map(({ role, under }) => ({ key: role, cells: [role, under.join(', ')] }))}
        />
      )}
      {hierarchy!.drivenOrder && (
        <Typography sx={{ fontSize: 13.5 }}>
          From the ground up: <span className="figures">{hierarchy!.drivenOrder.join(' → ')}</span>
        </Typography>
      )}
      {hierarchy!.anchors && <Fact name="Stands still">{hierarchy!.anchors.join(', ')}</Fact>}
    </>
  );
}

function Motion({ motion: { clips, rate, easings, tracks, loops, overlays, cues, rest } }: { motion: NonNullable<Rulebook['motion']> }) {
  return (
    <>
      {rate && <Fact name="Rate">{rate} frames a second</Fact>}
      {loops && <Fact name="Loop modes">{loops.join(', ')}</Fact>}
      {easings && <Fact name="Easings">{easings.join(', ')}</Fact>}
      {tracks && <Fact name="Moves">{tracks.join(', ')}</Fact>}
      {overlays !== undefined && <Fact name="Overlays">{overlays ? 'clips may run along with others' : 'one clip runs at a time'}</Fact>}
      {cues && <Fact name="Cues">{cues.join(', ') || 'none'}</Fact>}
      {rest && <Fact name="First clip">“{rest}”, the rest pose</Fact>}
      {clips && (
        <Box sx={{ mt: 2 }}>
          <BookTable
            head={['Clip', 'Needed', 'Loop', 'What it is for']}
            rows={clips.map(({ name, needed, loop, about }) => ({
              key: name,
              cells: [<b key="name">{name}</b>, needed ? 'yes' : 'if you like', loop ?? 'any', about],
            }))}
          />
        </Box>
      )}
    </>
  );
}

function MaterialsSection({ materials: { slots, formats, alphaModes } }: { materials: NonNullable<Rulebook['materials']> }) {
  return (
    <>
      {formats && <Fact name="Images">{formats.map((type) => type.replace('image/', '').toUpperCase()).join(', ')}</Fact>}
      {alphaModes && <Fact name="See-through">{alphaModes.join(', ').toLowerCase()}</Fact>}
      {slots && (
        <Box sx={{ mt: 2 }}>
          <BookTable
            head={['Material', 'Needed', 'What it is for']}
            rows={slots.map(({ name, needed, about }) => ({
              key: name,
              cells: [<b key="name">{name}</b>, needed ? 'yes' : 'if you like', about],
            }))}
          />
        </Box>
      )}
    </>
  );
}
