import type Joi from 'joi';
import type { Accessor, Sha } from '../blobs';
import type { Kit, ManifestSections } from '../kit';
import type { Axis, Id, Quat, Table, TurnOrder, Vec3 } from '../values';

// Records by the fields that the sections add to the kit: this file stands below them.
type Mesh = Kit['meshes'][Id];
type Parked = NonNullable<Kit['parked']>[number];
type Part = Kit['parts'][Id];

export type SectionName = Exclude<keyof Kit, 'format'>;

/** One record of a table; of any other section the whole. */
export type OneOf<K extends SectionName> = Kit[K] extends Table<infer T> ? T : NonNullable<Kit[K]>;

/** From the axes of one part into those of another, or into other numbers: metres to metres, or to a platform's unit. */
export type Move = (at: Vec3) => Vec3;

/** Says that a kit does not hold together. @throws {KitSchemaError} */
export type Refuse = (what: string, where: string) => never;

/** What a record points at has to be there. */
export interface References {
  kit: Kit;
  /** @throws {KitSchemaError} where a table has nothing of that id; null points at nothing */
  need(table: Readonly<Record<Id, unknown>>, id: Id | null, where: string): void;
  refuse: Refuse;
  /** Parts that are known to hang from the top. */
  hung: Set<Id>;
}

/** Parts that go. */
export interface Removal {
  gone: ReadonlySet<Id>;
  /** From the axes of one part into those of another, as both stood at rest before anything went. */
  between(from: Id, to: Id): Move;
}

/** Another unit, up and forward axis, handedness. Places are times a signed permutation and a factor. */
export interface Conforming {
  /** Factor of a length. */
  scale: number;
  /** Whether turns go the other way round. */
  mirrored: boolean;
  place: Move;
  /** Degrees about the own axes. */
  turn: Move;
  /** Factors along the own axes. */
  size: Move;
  rotation(q: Quat): Quat;
  turnOrder(order: TurnOrder): TurnOrder;
  /** Where an axis goes, and with which sign. */
  axis(axis: number): { to: Axis; sign: number };
  mesh(mesh: Mesh): Mesh;
  /** Matrices of 16 numbers, column-major. */
  matrices(rows: Accessor): Accessor;
  /** Rows of 3 (offsets, sizes) or 4 numbers (unit quaternions) of a dense track. */
  samples(rows: Accessor, property: 'offset' | 'rotation' | 'size'): Accessor;
}

/** Something that is not the same in two states of a kit. */
export interface Difference {
  /** A path of a part, or what it is and its name. */
  where: string;
  what: string;
}

export interface PackWriter {
  /** Parts in the order of the model's nodes. */
  nodes: readonly Id[];
  nodeOf(part: Id): number;
  roleOf(part: Part): Part['role'];
}

export interface PackReader {
  /** @throws {ManifestError} where the model has no such node */
  partAt(node: number, where: string): Id;
}

/** What the manifest says of a section, as it stands there. */
type SaidOf<K extends SectionName> = K extends keyof ManifestSections ? NonNullable<ManifestSections[K]> : never;

/** What `manifest.json` says of a section. */
export interface Manifesting<Said> {
  schema: Joi.Schema;
  /** In the platform's space; undefined where there is nothing to say. */
  write(kit: Kit, writer: PackWriter): Said | undefined;
  /** Writes what was said into a kit that has been read from the model. */
  read(said: Said, kit: Kit, reader: PackReader): void;
}

export interface Packing<Said> {
  /** Whether the model file holds it, as glTF. */
  model: boolean;
  manifest: Manifesting<Said> | null;
  /** What of it goes into no package, and why. */
  leftOut(kit: Kit): { what: string; why: string }[];
}

/**
 * How a new version of the source is carried over: the section comes `from` the file and is matched with what is there (`intake/take-
 * version.ts`), or it is the kit's own and stays; then what is on a part that goes is parked, and can be given to another one.
 */
export type Carrying =
  | { from: 'file' }
  | {
      from: 'kit';
      /** Takes what is on a part out of the kit, to be kept. */
      park(kit: Kit, part: Id): ParkedThing[];
    };

/** What is parked, before it is said whose it was. */
export type ParkedThing = Parked extends infer P ? (P extends Parked ? Omit<P, 'id' | 'partName'> : never) : never;

/** Everything that is true of one section of the document. What walks over a kit is derived from the list of them (`sections/index.ts`). */
interface Answers<Kind, One, Said> {
  /** `table`: records by id, always there. `value`: always there. `optional`: absent where there is nothing to say. */
  kind: Kind;
  /**
   * How changes of two people come together: field by field, or a record (outside of tables the whole) at a time, where its fields mean
   * nothing without one another.
   */
  merges: 'fields' | 'records';
  /** Of a record of a table, of any other section the whole. */
  schema: Joi.Schema;
  /** Names of a record's fields; none for what is no table. Reading one is noted by itself. */
  fields: readonly string[];
  /** Whether it is sound in itself, beyond its schema. */
  sound(one: One, refuse: Refuse): void;
  /** Everything that it points at. */
  references(one: One, references: References): void;
  blobs(one: One, add: (sha: Sha) => void): void;
  /** Parts go; what hung below them and what moved them was handed on before, where it is to stay. Writes to the draft. */
  without(kit: Kit, removal: Removal): void;
  /** One part goes into another, before it is taken out. Writes to the draft. */
  joined(kit: Kit, from: Id, into: Id, move: Move): void;
  /** The geometry of a part moves in its axes, and what stands on it with it. Writes to the draft. */
  moved(kit: Kit, part: Id, move: Move): void;
  /** Writes to the draft. */
  conform(kit: Kit, to: Conforming): void;
  compare(before: Kit, after: Kit): Difference[];
  pack: Packing<Said>;
  newVersion: Carrying;
}

type KindOf<K extends SectionName> = Kit[K] extends Table<{ id: Id }> ? 'table' : undefined extends Kit[K] ? 'optional' : 'value';
export type Section<K extends SectionName> = Answers<KindOf<K>, OneOf<K>, SaidOf<K>>;
/** A section of whatever records, for what goes over all of them. */
export type AnySection = { name: SectionName } & Answers<'table' | 'value' | 'optional', unknown, unknown>;

/** Answers of sections that have nothing to do there. */
export const nothing = (): void => undefined;
/** The answer of a section in which nothing is compared. */
export const alike = (): Difference[] => [];
/** The answer of a section that goes into packages as a whole. */
export const allGoesIn = (): { what: string; why: string }[] => [];
/** The answer of a section that stays as the kit has it when a new version comes. */
export const STAYS: Carrying = { from: 'kit', park: () => [] };
