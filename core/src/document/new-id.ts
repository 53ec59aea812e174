import { nanoid } from 'nanoid';
import type { Id } from './values';

/** A random id of 12 letters, digits, - and _. */
export function newId(): Id {
  return nanoid(12);
}
