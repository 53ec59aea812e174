import type { Between, Binding, BindingRow, Id, Kit } from '../document';
import { restWorlds } from '../geometry';
import { evaluateBinding } from './evaluate-binding';
import { betweenAxes, betweenParents, mirroredAxes, sameOrder, takenRows, throughMirror, turning } from './twin-taking';

/** How far a twin may be from the mirror image and still count as in step: metres, degrees, factors. */
const IN_STEP = 1e-6;

/** A twin’s binding, and what it would have to be. */
interface OutOfStep {
  binding: Binding;
  rows: BindingRow[];
  between: Between;
}

/**
 * The binding of a part’s twin that follows the same variable and no longer moves it as the mirror image, with the rows with which it
 * would. Null where there is none, where it is in step, and where the twin’s axes lie so that it would need a carrier.
 *
 * @param pairs Twin of each part, by id
 */
export function outOfStep(kit: Kit, binding: Binding, pairs: Readonly<Record<Id, Id>>): OutOfStep | null {
  const part = kit.parts[binding.part];
  const twin = kit.parts[pairs[binding.part]];
  // What links turn is worked out of what carries it, on each side by itself.
  if (!twin || twin === part || kit.links?.some(({ parts }) => parts.includes(part.id) || parts.includes(twin.id))) return null;
  const other = Object.values(kit.bindings).find((one) => one.part === twin.id && one.variable === binding.variable);
  if (!other) return null;
  const worlds = restWorlds(kit);
  const taking = throughMirror(0);
  const axes = mirroredAxes(betweenAxes(worlds, part.id, twin.id, taking));
  if (!axes || !sameOrder(part, twin, turning(binding), axes)) return null;
  const rows = takenRows(binding, betweenParents(worlds, part, twin.parent, taking), axes, taking.det);
  const { between = 'straight' } = binding;
  const image = { rows, outside: other.outside, between };
  const values = [...new Set([...rows, ...other.rows].map(({ value }) => value))].sort((a, b) => a - b);
  const looks = between === 'straight' ? values : values.flatMap((value, i) => [value, (value + (values[i + 1] ?? value)) / 2]);
  const off = looks.some((value) => {
    const [wanted, there] = [evaluateBinding(image, value), evaluateBinding(other, value)];
    return (['offset', 'turn', 'size'] as const).some((of) => wanted[of].some((one, axis) => Math.abs(one - there[of][axis]) > IN_STEP));
  });
  return off || between !== (other.between ?? 'straight') ? { binding: other, rows, between } : null;
}
