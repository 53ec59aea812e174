import Joi from 'joi';
import { KitError, type Blobs, type Kit } from '../../document';
import type { BehavioursRules, ParameterRule, Values } from '../../behaviour';
import { FIELD_RATE, FieldBody, type FieldFrame, type FieldWish } from './field-body';

/** What `format` says in a script of values of this version. */
export const SCRIPT_FORMAT = 'itchkit.values/1';

/** From a time on other values are passed in; what is sent is there in that frame alone. */
export interface ScriptLine {
  /** Seconds. */
  at: number;
  set?: Values;
  send?: string[];
  /** To its left, degrees a second. */
  turning?: number;
}

/** What is passed in over a time. */
export interface ValueScript {
  format: typeof SCRIPT_FORMAT;
  seconds: number;
  lines: ScriptLine[];
}

/** How long a script may be, seconds. */
const LONGEST = 3600;

const schema = Joi.object({
  format: Joi.valid(SCRIPT_FORMAT).required(),
  seconds: Joi.number().positive().max(LONGEST).required(),
  lines: Joi.array()
    .items(
      Joi.object({
        at: Joi.number().min(0).max(LONGEST).required(),
        set: Joi.object().pattern(Joi.string().max(120), Joi.alternatives(Joi.number(), Joi.string().max(120))),
        send: Joi.array().items(Joi.string().max(120)).max(200),
        turning: Joi.number().min(-3600).max(3600),
      }).or('set', 'send', 'turning'),
    )
    .max(20_000)
    .required(),
});

/** A script that can't be played. */
export class ScriptError extends KitError {
  constructor(message: string, where: string | null) {
    super('script', where === null ? message : `${where}: ${message}`, where);
  }
}

function check(value: unknown, rule: ParameterRule | undefined, name: string, where: string): void {
  if (!rule || rule.kind === 'signal')
    throw new ScriptError(`“${name}” is no value that this platform passes in${rule ? '; it is sent' : ''}.`, where);
  if (rule.kind === 'number') {
    if (typeof value !== 'number' || value < rule.min || value > rule.max)
      throw new ScriptError(`“${name}” is a number from ${rule.min} to ${rule.max}.`, where);
    return;
  }
  const names = rule.kind === 'names' ? rule.values : ['yes', 'no'];
  if (!names.includes(String(value))) throw new ScriptError(`“${name}” is ${names.join(' or ')}.`, where);
}

/** Takes a script as it was written. @throws {ScriptError} with the place, where it says what can't be passed in */
export function checkScript(value: unknown, parameters: readonly ParameterRule[]): ValueScript {
  const { error, value: script } = schema.validate(value, { errors: { wrap: { label: '“”' } } }) as Joi.ValidationResult<ValueScript>;
  if (error) throw new ScriptError(`${error.details[0].message}.`, error.details[0].path.join('.') || null);
  const rules = new Map(parameters.map((rule) => [rule.name, rule]));
  script.lines.forEach(({ at, set = {}, send = [] }, i) => {
    if (at > script.seconds) throw new ScriptError(`it comes after the end, at ${script.seconds} s.`, `lines.${i}.at`);
    if (i > 0 && at < script.lines[i - 1].at) throw new ScriptError('it comes before the line above it.', `lines.${i}.at`);
    for (const [name, one] of Object.entries(set)) check(one, rules.get(name), name, `lines.${i}.set.${name}`);
    send.forEach((name, k) => {
      if (rules.get(name)?.kind !== 'signal')
        throw new ScriptError(`nothing called “${name}” is sent on this platform.`, `lines.${i}.send.${k}`);
    });
  });
  return script;
}

/** Reads a script from its beginning, frame by frame. */
export class ScriptReader {
  private values: Values = {};
  private turning = 0;
  private next = 0;

  constructor(private readonly lines: readonly ScriptLine[]) {}

  /** What is asked for in the frame that begins then. @param seconds Never less than before */
  wishAt(seconds: number): FieldWish {
    const sent: Record<string, true> = {};
    for (; this.next < this.lines.length && this.lines[this.next].at <= seconds + 1e-9; this.next++) {
      const { set, turning, send = [] } = this.lines[this.next];
      this.values = { ...this.values, ...set };
      this.turning = turning ?? this.turning;
      for (const name of send) sent[name] = true;
    }
    return { values: { ...this.values, ...sent }, turning: this.turning };
  }
}

/** Plays a script from its beginning, and tells every frame. */
export function playScript(kit: Kit, blobs: Blobs, rules: BehavioursRules, { seconds, lines }: ValueScript): FieldFrame[] {
  const body = new FieldBody(kit, blobs, rules);
  const reader = new ScriptReader(lines);
  return Array.from({ length: Math.round(seconds * FIELD_RATE) }, (_, i) => {
    body.frame(reader.wishAt(i / FIELD_RATE));
    return body.now();
  });
}

/** Writes down what is passed in while somebody works a body. */
export class ScriptRecorder {
  private readonly lines: ScriptLine[] = [];
  private said: Values = {};
  private turned = 0;

  /** @param at Seconds since it began */
  note(at: number, values: Values, turning: number): void {
    const set: Record<string, number | string> = {};
    const send: string[] = [];
    for (const [name, value] of Object.entries(values)) {
      if (typeof value === 'boolean') {
        if (value) send.push(name);
      } else if (this.said[name] !== value) set[name] = value;
    }
    const changed = Object.keys(set).length > 0;
    if (!changed && send.length === 0 && turning === this.turned) return;
    this.lines.push({
      at,
      ...(changed && { set }),
      ...(send.length > 0 && { send }),
      ...(turning !== this.turned && { turning }),
    });
    this.said = { ...this.said, ...set };
    this.turned = turning;
  }

  /** @param seconds How long it lasted */
  script(seconds: number): ValueScript {
    return { format: SCRIPT_FORMAT, seconds, lines: [...this.lines] };
  }
}
