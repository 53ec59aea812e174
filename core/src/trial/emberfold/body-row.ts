import type { BehavioursRules, ParameterRule } from '../../behaviour';
import type { Blobs, Kit } from '../../document';
import { FieldBody, type FieldWish } from './field-body';

/** Numbers that a platform passes in, and that may differ from body to body. */
export const spreadable = ({ parameters }: BehavioursRules): (ParameterRule & { kind: 'number' })[] =>
  parameters.flatMap((rule) => (rule.kind === 'number' && rule.always === undefined && rule.expression === undefined ? [rule] : []));

/**
 * Bodies of one package that live side by side. All are passed in the same but for one number, which goes from its least to its greatest
 * from the first body to the last; without one they are alike.
 */
export class BodyRow {
  readonly bodies: readonly FieldBody[];
  /** What the number is for each; none where they are alike. */
  readonly values: readonly number[];
  /** Of the number. */
  readonly unit: string;

  constructor(
    kit: Kit,
    blobs: Blobs,
    rules: BehavioursRules,
    private readonly by: (ParameterRule & { kind: 'number' }) | null,
    count: number,
  ) {
    this.bodies = Array.from({ length: count }, () => new FieldBody(kit, blobs, rules));
    this.unit = by?.unit ?? '';
    this.values = by ? this.bodies.map((_, i) => by.min + (count > 1 ? ((by.max - by.min) * i) / (count - 1) : 0)) : [];
  }

  /** One frame of each. */
  frame({ values, turning }: FieldWish): void {
    this.bodies.forEach((body, i) => body.frame({ values: this.by ? { ...values, [this.by.name]: this.values[i] } : values, turning }));
  }
}
