import { readFileSync } from 'node:fs';
import { count, KitError, type MemoryBlobs } from '@itchkit/core/document';
import type { LoadedPackage } from '@itchkit/core/ship';
import { checkDuty, crossingInWords, playDuty, sweepAll, trialFor, type Duty, type LogLine } from '@itchkit/core/trial';
import type { Rulebook } from '@itchkit/core/rulebook';
import { FileError } from './files';

/** Frames a second that are told of a duty. */
const RATE = 10;

/** What a stand-in made of a package. */
export interface Tried {
  file: string;
  ok: true;
  target: { id: string; version: string };
  log: LogLine[];
  /** What levers there are. */
  levers: { key: string; unit: string; min: number; max: number; neutral: number; parts: string[]; shows: string[] }[];
  duty: ({ name: string; seconds: number; rate: number } & ReturnType<typeof playDuty>) | null;
  crossings: { key: string; value: number; unit: string; parts: [string, string]; at: number[]; words: string }[];
  /** Driven parts that no lever moves. */
  still: string[];
}

export class TrialError extends KitError {}

/** A duty by the name of a shipped one, or of a file. @throws {KitError} */
function dutyOf(asked: string, shipped: readonly Duty[]): Duty {
  const known = shipped.find(({ name }) => name.toLowerCase() === asked.toLowerCase());
  if (known) return known;
  let text: string;
  try {
    text = readFileSync(asked, 'utf8');
  } catch {
    const names = shipped.map(({ name }) => `“${name}”`).join(', ');
    const there = names === '' ? 'None ships with this platform.' : `There are ${names}.`;
    throw new FileError('no-file', `There is no duty “${asked}”, nor a file of that name. ${there}`, asked);
  }
  try {
    return checkDuty(JSON.parse(text));
  } catch (error) {
    if (error instanceof KitError) throw error;
    throw new FileError('duty', `“${asked}” is no JSON: ${error instanceof Error ? error.message : String(error)}.`, asked);
  }
}

/** Tries a package as Ship’s trial does: from its bytes alone. @throws {KitError} */
export function tryPackage(file: string, loaded: LoadedPackage, blobs: MemoryBlobs, rulebook: Rulebook, asked: string | undefined): Tried {
  const trial = trialFor(rulebook);
  if (!trial) throw new TrialError('no-trial', `There is no stand-in for ${rulebook.title}.`, rulebook.id);
  const levers = trial.levers(loaded, rulebook);
  const duty = asked === undefined ? null : dutyOf(asked, trial.duties);
  const { kit } = loaded;
  const { crossings, still } = sweepAll(kit, blobs, levers);
  const unitOf = (key: string) => levers.find((lever) => lever.key === key)!.variable.unit;
  const name = (id: string) => kit.parts[id].name;
  return {
    file,
    ok: true,
    target: { id: rulebook.id, version: rulebook.version },
    log: trial.importLog(loaded, rulebook),
    levers: levers.map(({ key, variable: { unit, min, max, neutral }, bindings, switches }) => ({
      key,
      unit,
      min,
      max,
      neutral,
      parts: bindings.map(({ part }) => name(part)),
      shows: switches.map(({ part }) => name(part)),
    })),
    duty: duty && { name: duty.name, seconds: duty.seconds, rate: RATE, ...playDuty(kit, blobs, levers, duty, RATE, rulebook.variables) },
    crossings: crossings.map((one) => ({
      key: one.key,
      value: one.value,
      unit: unitOf(one.key),
      parts: [name(one.parts[0]), name(one.parts[1])],
      at: one.at,
      words: crossingInWords(kit, one, unitOf(one.key)),
    })),
    still: still.map(name),
  };
}

/** The same in words. */
export function describeTried({ file, target, log, levers, duty, crossings, still }: Tried): string {
  const odd = log.filter(({ grade }) => grade !== 'taken');
  return `${[
    `${file}  in the trial of ${target.id} ${target.version}: ${count(levers.length, 'lever')}, ${count(crossings.length, 'crossing')}`,
    ...odd.map(({ grade, text }) => `  ${grade}: ${text}`),
    ...levers.map(({ key, min, max, unit, parts, shows }) => {
      const does = [...parts, ...shows.map((part) => `shows ${part}`)];
      return `  ${key} ${min} to ${max} ${unit}: ${does.join(', ')}`;
    }),
    ...crossings.map(({ words }) => `  crossing: ${words}`),
    ...still.map((name) => `  stands still: ${name}`),
    ...(duty ? [`  duty “${duty.name}”: ${count(duty.frames.length, 'frame')}`] : []),
    ...(duty?.refused ?? []).map(({ variable, why }) => `  refused: ${variable}: ${why}`),
  ].join('\n')}\n`;
}
