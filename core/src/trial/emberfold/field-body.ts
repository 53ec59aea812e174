import type { Blobs, Id, Kit } from '../../document';
import { flattenParts, newPose, type FlatParts, type Pose } from '../../geometry';
import {
  BehaviourPlayer,
  OwnNumbers,
  valuesAtStart,
  type BehavioursRules,
  type LayerNow,
  type ParameterRule,
  type Values,
} from '../../behaviour';

/** Frames a second of this world. */
export const FIELD_RATE = 60;
/** Passages that are remembered. */
const KEPT = 10;

/** A passage that was taken, and by which values. */
export interface TakenPassage {
  /** Seconds since it was put down. */
  at: number;
  layer: Id;
  passage: Id;
  values: Values;
}

/** What the game was told. */
export interface ToldGame {
  /** Seconds since it was put down. */
  at: number;
  layer: Id;
  said: string;
}

/** What a body is asked for: what is passed in, and how fast it turns to its left, degrees a second. */
export interface FieldWish {
  values: Values;
  turning: number;
}

/** What of a frame is told. */
export interface FieldFrame {
  seconds: number;
  layers: LayerNow[];
  /** How far to the left and ahead of where it was put down it stands, metres; and how far it has turned to its left, degrees. */
  place: [left: number, ahead: number];
  facing: number;
}

/** A body of a package on an even field: it is played by what is passed in, frame by frame, and goes as fast as that says. */
export class FieldBody {
  /** The last passages, the newest last. */
  readonly taken: TakenPassage[] = [];
  /** What the game was told last, the newest last. */
  readonly told: ToldGame[] = [];
  private readonly player: BehaviourPlayer;
  private readonly flat: FlatParts;
  private frames = 0;
  private rest = 0;
  private facing = 0;
  private place: [number, number] = [0, 0];
  private readonly start: Values;
  /** What the game passes in; what is the kit's own is worked out of it. */
  private readonly passed: readonly ParameterRule[];
  private readonly own: OwnNumbers;

  constructor(
    readonly kit: Kit,
    blobs: Blobs,
    private readonly rules: BehavioursRules,
  ) {
    this.flat = flattenParts(kit);
    this.passed = rules.parameters.filter((rule) => rule.kind !== 'number' || rule.expression === undefined);
    this.own = new OwnNumbers(kit.derived, this.passed);
    this.start = this.own.with(valuesAtStart(this.passed));
    this.player = new BehaviourPlayer(kit, this.flat, blobs, rules, this.start);
  }

  /** Where what is posed is found. */
  newPose(): Pose {
    return newPose(this.flat);
  }

  /**
   * Lets time pass, in whole frames; what is left over comes next time.
   *
   * @param wishAt What is asked for in the frame that begins then, seconds since it was put down
   * @returns how many frames passed
   */
  pass(wishAt: (seconds: number) => FieldWish, seconds: number): number {
    this.rest += seconds;
    let passed = 0;
    for (; this.rest > 1 / FIELD_RATE - 1e-9; this.rest -= 1 / FIELD_RATE) {
      this.frame(wishAt(this.frames / FIELD_RATE));
      passed++;
    }
    return passed;
  }

  /** One frame. */
  frame({ values: said, turning }: FieldWish): void {
    const values = this.passedIn(said);
    const dt = 1 / FIELD_RATE;
    this.facing += turning * dt;
    this.facing -= 360 * Math.round(this.facing / 360);
    const way = (this.facing * Math.PI) / 180;
    const [left, ahead] = [this.speed('left', values), this.speed('ahead', values)];
    this.place[0] += (ahead * Math.sin(way) + left * Math.cos(way)) * dt;
    this.place[1] += (ahead * Math.cos(way) - left * Math.sin(way)) * dt;
    this.frames++;
    this.player.step(values, dt);
    const at = this.frames * dt;
    for (const { layer, taken, sent } of this.player.now()) {
      for (const passage of taken) this.taken.push({ at, layer, passage, values });
      for (const said of sent) this.told.push({ at, layer, said });
    }
    for (const list of [this.taken, this.told]) list.splice(0, Math.max(0, list.length - KEPT));
  }

  /** What is passed in: what was asked for, within what this platform passes in. */
  private passedIn(said: Values): Values {
    const passed = Object.fromEntries(
      this.passed.map((rule) => {
        const value = said[rule.name] ?? this.start[rule.name];
        if (rule.kind === 'signal') return [rule.name, value === true];
        if (rule.always !== undefined) return [rule.name, rule.always];
        return [rule.name, rule.kind === 'number' ? Math.min(rule.max, Math.max(rule.min, Number(value))) : value];
      }),
    );
    return this.own.with(passed);
  }

  private speed(way: 'ahead' | 'left', values: Values): number {
    const rule = this.rules.parameters.find((one) => one.kind === 'number' && one.moves === way);
    return rule ? Number(values[rule.name]) : 0;
  }

  now(): FieldFrame {
    return { seconds: this.frames / FIELD_RATE, layers: this.player.now(), place: [...this.place], facing: this.facing };
  }

  /** The pose of this moment, relative to rest, without its place on the field. */
  pose(out: Pose): void {
    this.player.pose(out);
  }
}
