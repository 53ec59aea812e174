import type { Kit } from '../kit';
import { asidesSection } from './asides';
import { behaviourSection } from './behaviour';
import { bindingsSection } from './bindings';
import { bodiesSection } from './bodies';
import { calloutsSection } from './callouts';
import { clipsSection } from './clips';
import { collidersSection } from './colliders';
import { couplingsSection } from './couplings';
import { derivedSection } from './derived';
import { dutiesSection } from './duties';
import { groundsSection } from './grounds';
import { nameSection, targetsSection } from './head';
import { imagesSection } from './images';
import { linksSection } from './links';
import { materialsSection } from './materials';
import { meshesSection } from './meshes';
import { mixesSection } from './mixes';
import { motionRolesSection } from './motion-roles';
import { parkedSection } from './parked';
import { partsSection } from './parts';
import { allGoesIn, type AnySection, type Section, type SectionName } from './section';
import { skinsSection } from './skins';
import { sourceSection } from './source';
import { switchesSection } from './switches';
import { walkwaySection } from './walkway';

export * from './asides';
export * from './behaviour';
export * from './bindings';
export * from './bodies';
export * from './callouts';
export * from './clips';
export * from './colliders';
export * from './couplings';
export * from './derived';
export * from './duties';
export * from './grounds';
export * from './head';
export * from './images';
export * from './links';
export * from './materials';
export * from './meshes';
export * from './mixes';
export * from './motion-roles';
export * from './parked';
export * from './parts';
export * from './skins';
export * from './source';
export * from './switches';
export * from './walkway';

/**
 * The sections of the document. A field of `Kit` that is not here does not compile, nor one that leaves out an answer. Their order is that
 * in which parts are taken out: couplings before the bodies whose axes they are in, meshes after the parts that show them.
 */
export const SECTIONS: { readonly [K in SectionName]-?: Section<K> } = {
  name: nameSection,
  targets: targetsSection,
  source: sourceSection,
  parts: partsSection,
  meshes: meshesSection,
  materials: materialsSection,
  images: imagesSection,
  skins: skinsSection,
  clips: clipsSection,
  bindings: bindingsSection,
  switches: switchesSection,
  derived: derivedSection,
  links: linksSection,
  duties: dutiesSection,
  parked: parkedSection,
  asides: asidesSection,
  callouts: calloutsSection,
  couplings: couplingsSection,
  bodies: bodiesSection,
  motionRoles: motionRolesSection,
  mixes: mixesSection,
  behaviour: behaviourSection,
  grounds: groundsSection,
  colliders: collidersSection,
  walkway: walkwaySection,
};

/** All sections in the order of the document: whoever walks over a document walks over this. */
export const SECTION_LIST: readonly AnySection[] = (Object.keys(SECTIONS) as SectionName[]).map((name): AnySection => ({
  name,
  ...SECTIONS[name],
}));

/** Names of the sections that are tables. */
export const TABLES: readonly SectionName[] = SECTION_LIST.filter(({ kind }) => kind === 'table').map(({ name }) => name);

/** The records of a section of a kit: those of a table, of any other the whole, where it is there. */
export function recordsOf(kit: Kit, { name, kind }: AnySection): unknown[] {
  const value = kit[name] as unknown;
  if (kind === 'table') return Object.values(value as object);
  return value === undefined || value === null ? [] : [value];
}

/** Sections of which nothing goes into a package. */
export const STAYING: readonly SectionName[] = SECTION_LIST.filter(
  ({ pack }) => !pack.model && !pack.manifest && pack.leftOut !== allGoesIn,
).map(({ name }) => name);
