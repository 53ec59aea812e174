import { inFieldOrder } from './field-order';
import type { Rulebook } from './types';

/** A rulebook as JSON to be read by people: its fields in their usual order, whatever a database has made of it. */
export function rulebookText(rulebook: Rulebook): string {
  return JSON.stringify(inFieldOrder(rulebook), null, 1);
}
