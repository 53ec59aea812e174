import Joi from 'joi';
import type { SchemaOf } from '../document';

/** What is so of the platform’s visitors, and how they may walk. */
export interface WalkRules {
  /** Of a person who walks, metres. */
  height: number;
  radius: number;
  /** The highest step up or down, metres. */
  step: number;
  /** The steepest slope, degrees. */
  slope: number;
  /** Beside a drop of more than this a rope needs a rail, metres. */
  drop: number;
  /** How far from a knot a seat may be for somebody to board or leave, metres. */
  reach: number;
}

const length = Joi.number().positive().max(1000).required();

/** How visitors walk, in a rulebook and in the arguments of operations. */
export const walkRulesSchema = Joi.object({
  height: length,
  radius: length,
  step: length,
  slope: Joi.number().min(0).max(89).required(),
  drop: length,
  reach: length,
} satisfies SchemaOf<WalkRules>);

/** The room that a person takes who sits, from the seat up, metres. */
export interface SeatRules {
  height: number;
  radius: number;
}

/** One of the states that the platform has. */
export interface StateRule {
  name: string;
  title: string;
  /** Whether visitors get on and off in it, or are carried. */
  kind: 'waits' | 'rides';
  about: string;
}

/** What a sheet of facts can say that is measured, not typed. */
export const MEASURED_FACTS = ['capacity', 'roofed', 'seconds', 'tiles'] as const;
export type MeasuredFact = (typeof MEASURED_FACTS)[number];

/** A fact that the platform wants to know. */
export type FactRule = { name: string; title: string; about: string; needed?: boolean } & (
  | { kind: 'number'; unit: string; min: number; max: number; whole?: boolean; shipped?: number[] }
  | { kind: 'choice'; choices: string[] }
  | { kind: 'text'; longest: number }
  | { kind: 'yes-no' }
  | { kind: 'measured'; of: MeasuredFact; unit: string; min: number; max: number; shipped?: number[] }
);

/** How things stand on tiles, and who walks there. What a tile measures is the rulebook's `tileMetres`. */
export interface GroundsRules {
  /** Terrain rises by steps of this, metres. */
  heightStep: number;
  visitor: WalkRules;
  seat: SeatRules;
  states: StateRule[];
  /** Names of materials that may shine by night. */
  glow?: string[];
  /** Names of materials that an owner paints, and the paints, as #rrggbb. */
  paint?: { slots: string[]; palette: string[] };
  facts: FactRule[];
}
