import { readFileSync } from 'node:fs';
import { count, KitError, type MemoryBlobs } from '@itchkit/core/document';
import type { LoadedPackage } from '@itchkit/core/ship';
import {
  checkDuty,
  checkScript,
  crossingInWords,
  openPlot,
  Park,
  playDuty,
  playScript,
  sweepAll,
  trialFor,
  FIELD_RATE,
  type Duty,
  type FieldFrame,
  type LogLine,
  type ParkCounts,
} from '@itchkit/core/trial';
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
  /** What came of a script of values, frame by frame; null where none was played. */
  script: { seconds: number; rate: number; frames: SaidFrame[] } | null;
  /** What came of visitors; null where nothing stands on tiles. */
  park: ({ visitors: number; minutes: number; reasons: Record<string, number> } & ParkCounts) | null;
}

/** A frame of a body by names: each layer's state, what it plays in which shares, the passages taken, and what the game was told. */
type SaidFrame = Pick<FieldFrame, 'seconds' | 'place' | 'facing'> & {
  layers: { layer: string; state: string; over: number; shares: Record<string, number>; taken: string[]; sent: string[] }[];
};

/** How a trial is played, as it was asked for. */
export interface Asked {
  duty?: string;
  /** A file of values. */
  script?: string;
  visitors?: number;
  minutes?: number;
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
export function tryPackage(file: string, loaded: LoadedPackage, blobs: MemoryBlobs, rulebook: Rulebook, asked: Asked): Tried {
  const trial = trialFor(rulebook);
  if (!trial) throw new TrialError('no-trial', `There is no stand-in for ${rulebook.title}.`, rulebook.id);
  const levers = trial.levers(loaded, rulebook);
  const duty = asked.duty === undefined ? null : dutyOf(asked.duty, trial.duties);
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
    script: asked.script === undefined ? null : playedScript(loaded, blobs, rulebook, asked.script),
    park: rulebook.grounds ? playPark(loaded, rulebook, asked) : null,
  };
}

/** What a script came to, in a line. */
function scriptInWords({ seconds, frames }: NonNullable<Tried['script']>): string {
  const taken = frames.reduce((sum, { layers }) => sum + layers.reduce((all, one) => all + one.taken.length, 0), 0);
  const last = frames[frames.length - 1];
  const ends = (last?.layers ?? []).map(({ layer, state }) => `${layer} in “${state}”`).join(', ');
  return `  script of ${seconds} s: ${count(frames.length, 'frame')}, ${count(taken, 'passage')} taken; at the end ${ends || 'nothing plays'}`;
}

/** What is in a file of JSON. @throws {FileError} */
function jsonIn(path: string): unknown {
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    throw new FileError('no-file', `There is no file “${path}”.`, path);
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new FileError('script', `“${path}” is no JSON: ${error instanceof Error ? error.message : String(error)}.`, path);
  }
}

/** Plays a body by a file of values. @throws {TrialError} where the platform passes none in */
function playedScript({ kit }: LoadedPackage, blobs: MemoryBlobs, { behaviours, title }: Rulebook, path: string): Tried['script'] {
  if (!behaviours) throw new TrialError('script', `${title} passes nothing in that a body is played by.`, '--script');
  const script = checkScript(jsonIn(path), behaviours.parameters);
  const layers = new Map((kit.behaviour?.layers ?? []).map((layer) => [layer.id, layer]));
  const frames = playScript(kit, blobs, behaviours, script).map(({ layers: now, ...frame }): SaidFrame => ({
    ...frame,
    layers: now.map((one) => {
      const layer = layers.get(one.layer)!;
      const state = (id: string) => layer.states.find((each) => each.id === id)!.name;
      return {
        layer: layer.name,
        state: state(one.state),
        over: one.over,
        shares: Object.fromEntries(one.shares.map(({ clip, share }) => [clip === null ? '' : (kit.clips[clip]?.name ?? ''), share])),
        taken: one.taken.map((id) => {
          const { from, to } = layer.passages.find((each) => each.id === id)!;
          return `${from === null ? '*' : state(from)} → ${state(to)}`;
        }),
        sent: one.sent,
      };
    }),
  }));
  return { seconds: script.seconds, rate: FIELD_RATE, frames };
}

const MOST_VISITORS = 500;
const MOST_MINUTES = 240;

/** Lets visitors come for a while. @throws {TrialError} where a number is none that can be played */
function playPark(loaded: LoadedPackage, rulebook: Rulebook, { visitors = 30, minutes = 5 }: Asked): Tried['park'] {
  if (!(Number.isInteger(visitors) && visitors >= 1 && visitors <= MOST_VISITORS))
    throw new TrialError('visitors', `Of visitors 1 to ${MOST_VISITORS} can come, in whole numbers.`, '--visitors');
  if (!(minutes > 0 && minutes <= MOST_MINUTES))
    throw new TrialError('minutes', `A park can be played for up to ${MOST_MINUTES} minutes.`, '--minutes');
  const park = new Park(openPlot(loaded, rulebook), { visitors });
  park.pass(60 * minutes);
  const reasons: Record<string, number> = {};
  for (const { why } of park.visitors) if (why !== '') reasons[why] = (reasons[why] ?? 0) + 1;
  return { visitors, minutes, reasons, ...park.counts };
}

/** The same in words. */
export function describeTried({ file, target, log, levers, duty, script, crossings, still, park }: Tried): string {
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
    ...(script ? [scriptInWords(script)] : []),
    ...(park
      ? [
          `  ${count(park.came, 'visitor')} in ${park.minutes} min: ${count(park.rides, 'ride')}, ${park.rode} rode, ${park.left} left, ${park.gaveUp} gave up, ${park.stuck} stuck`,
          ...Object.entries(park.reasons).map(([why, many]) => `    ${many}: ${why}`),
        ]
      : []),
    ...(duty ? [`  duty “${duty.name}”: ${count(duty.frames.length, 'frame')}`] : []),
    ...(duty?.refused ?? []).map(({ variable, why }) => `  refused: ${variable}: ${why}`),
  ].join('\n')}\n`;
}
