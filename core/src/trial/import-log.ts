import { childrenOf, count, figure, partsInOrder } from '../document';
import { derivedReaders, leverKey } from '../formula';
import { movingParts } from '../grounds';
import { isShown } from '../wiring';
import { inputVariables, neutralsOf, withDerived, type Rulebook } from '../rulebook';
import type { LoadedPackage } from '../ship';
import type { LogLine } from './trial';
import { isPassedIn } from './levers';

/** What every stand-in says while it loads a package: what it took, what it found odd, what it left out and why. */
export function importLog({ manifest, kit }: LoadedPackage, platform: Rulebook): LogLine[] {
  const rulebook = withDerived(platform, kit.derived);
  const log: LogLine[] = [];
  const say = (grade: LogLine['grade'], text: string) => log.push({ grade, text });
  say('taken', `Package of “${manifest.kit}” for ${manifest.target.rulebook} ${manifest.target.version}`);
  for (const file of manifest.files) say('taken', `${file.path}: ${file.bytes.toLocaleString('en')} bytes, contents as announced`);
  const triangles = manifest.parts.reduce((sum, part) => sum + part.triangles, 0);
  say(
    'taken',
    `${count(manifest.parts.length, 'part')}, ${count(triangles, 'triangle')}, ${count(Object.keys(kit.images).length, 'texture')}`,
  );
  // A mesh that joints hold stands at the top of a file, as glTF wants it, wherever it hangs in the kit.
  const roots = childrenOf(kit, null).filter(({ skin }) => skin === null);
  for (const root of roots.slice(1)) say('refused', `“${root.name}” hangs beside the root and is dropped`);
  const names = new Set<string>();
  for (const part of partsInOrder(kit)) {
    if (names.has(part.name)) say('odd', `A second “${part.name}”: only the first one can be wired`);
    names.add(part.name);
    if (part.scale.some((value) => Math.abs(value - 1) > 1e-4)) say('odd', `“${part.name}” is scaled; its motion will be scaled too`);
  }
  const readers = derivedReaders(kit.derived ?? [], neutralsOf(inputVariables(platform)));
  for (const { name, expression, min, max, unit } of kit.derived ?? []) {
    if (readers.has(name)) say('taken', `${name} = ${expression}, ${figure(min)} to ${figure(max)} ${unit}`);
    else say('refused', `${name} = ${expression} can’t be worked out: what follows it stands still`);
  }
  const bound = movingParts(kit, Object.values(kit.clips));
  for (const binding of Object.values(kit.bindings)) {
    const part = kit.parts[binding.part];
    const variable = rulebook.variables.find((one) => one.name === binding.variable);
    const key = leverKey(binding.variable, binding.index);
    if (!variable) say('refused', `“${part.name}” asks for ${key}, which is not passed in: it stands still`);
    else if (!isPassedIn(binding.index, variable.indices))
      say('refused', `“${part.name}” asks for ${key}, an index that is not passed in: it stands still`);
    else {
      say('taken', `“${part.name}” follows ${key}, ${figure(variable.min)} to ${figure(variable.max)} ${variable.unit}`);
      bound.add(binding.part);
    }
  }
  for (const one of kit.switches ?? []) {
    const part = kit.parts[one.part];
    const key = leverKey(one.variable, one.index);
    const variable = rulebook.variables.find(({ name }) => name === one.variable);
    if (!variable || !isPassedIn(one.index, variable.indices))
      say('refused', `“${part.name}” is switched by ${key}, which is not passed in: it stays as ${isShown(one, 0) ? 'shown' : 'hidden'}`);
    else say('taken', `“${part.name}” is shown by ${key}, ${count(one.spans.length, 'span')}`);
  }
  for (const part of partsInOrder(kit))
    if (part.role === 'driven' && !bound.has(part.id)) say('odd', `“${part.name}” is driven, but nothing moves it`);
  for (const clip of manifest.clips) say('taken', `Clip “${clip.name}”, ${figure(clip.seconds, 2)} s, ${clip.loop}`);
  return log;
}
