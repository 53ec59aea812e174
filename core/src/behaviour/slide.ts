import { type Blobs, type Kit, type Mix } from '../document';
import { flattenParts, Poser } from '../geometry';
import { legsOf } from '../motion';
import { stepsOf, type Stance } from './clip-steps';
import { MixPlayer } from './mix-player';
import { ownSpeed, waysOf } from './own-speeds';
import type { ParameterRule } from './rules';

/** A round is looked at so often. */
const LOOKS = 32;

/** How far feet slide over the ground in a mix. */
export interface Slide {
  /** Of a foot on the ground, metres a second: the mean over a round. */
  speed: number;
  /** How far the foot that slides furthest does so in a round, metres. */
  metres: number;
}

const isDown = (stances: readonly Stance[], foot: number, time: number, period: number): boolean =>
  stances.some((one) => one.foot === foot && [time, time + period, time - period].some((at) => at >= one.from && at <= one.to));

/** Measures how feet slide at the places of a mix. Made once; each place then takes some thirty poses. */
export class SlideMeter {
  private readonly player: MixPlayer;
  private readonly poser: Poser;
  private readonly feet: string[];
  private readonly stances: (Stance[] | null)[];
  private readonly periods: number[];
  private readonly speeds: ([number, number] | null)[];
  private readonly ways: ('ahead' | 'left' | null)[];

  constructor(
    private readonly mix: Mix,
    kit: Kit,
    blobs: Blobs,
    rules: readonly ParameterRule[],
  ) {
    this.poser = new Poser(flattenParts(kit));
    this.player = new MixPlayer(mix, kit, this.poser.flat, blobs, true);
    this.feet = legsOf(kit).map(([, , foot]) => foot);
    const clips = mix.pegs.map(({ clip }) => (clip === null ? undefined : kit.clips[clip]));
    this.stances = clips.map((clip) => (clip ? stepsOf(kit, clip, blobs).stances : null));
    this.periods = clips.map((clip) => clip?.lengthSeconds ?? 0);
    this.speeds = mix.pegs.map((peg) => ownSpeed(kit, peg, blobs));
    this.ways = waysOf(mix, rules);
  }

  /** @param at A place, one number a parameter. @returns null where nothing has feet on the ground there */
  at(at: readonly number[]): Slide | null {
    const { player, poser } = this;
    player.setPlace(Object.fromEntries(this.mix.parameters.map((name, i) => [name, at[i]])));
    const dt = player.seconds / LOOKS;
    if (dt <= 0 || this.feet.length === 0) return null;
    const [left, ahead] = this.bodySpeed(at);
    const course = player.start();
    const before = this.feet.map(() => [0, 0]);
    const wasDown = this.feet.map(() => false);
    const slid = this.feet.map(() => 0);
    let looks = 0;
    for (let i = 0; i <= LOOKS; i++) {
      player.sample(course, poser.pose);
      poser.update();
      this.feet.forEach((foot, f) => {
        const world = poser.worldOf(foot);
        // Where the foot is on the ground: the body has gone on meanwhile.
        const here = [world[12] + left * i * dt, world[14] + ahead * i * dt];
        const down = this.share(course, f) >= 0.5;
        if (down && wasDown[f] && i > 0) {
          slid[f] += Math.hypot(here[0] - before[f][0], here[1] - before[f][1]);
          looks++;
        }
        wasDown[f] = down;
        before[f] = here;
      });
      player.advance(course, dt);
    }
    if (looks === 0) return null;
    return { speed: slid.reduce((sum, way) => sum + way, 0) / (looks * dt), metres: Math.max(...slid) };
  }

  /** How fast the body goes there: what is passed in, and where that says nothing, what its clips do. */
  private bodySpeed(at: readonly number[]): [left: number, ahead: number] {
    const of = (way: 'left' | 'ahead', k: 0 | 1) => {
      const said = this.ways.indexOf(way);
      if (said >= 0) return at[said];
      return this.speeds.reduce((sum, speed, i) => sum + this.player.shares[i] * (speed?.[k] ?? 0), 0);
    };
    return [of('left', 0), of('ahead', 1)];
  }

  /** In how much of what is played a foot is on the ground. */
  private share(course: ReturnType<MixPlayer['start']>, foot: number): number {
    return this.stances.reduce((sum, stances, i) => {
      if (!stances || this.player.shares[i] === 0) return sum;
      return isDown(stances, foot, this.player.clipTime(course, i), this.periods[i]) ? sum + this.player.shares[i] : sum;
    }, 0);
  }
}
