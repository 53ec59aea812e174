import { nanoid } from 'nanoid';
import type { Id } from './values';

export function newId(): Id {
  return nanoid(12);
}
