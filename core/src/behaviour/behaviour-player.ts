import type { Behaviour, BehaviourState, Blobs, Id, Kit, Layer, Mix, Passage, Played } from '../document';
import { copyPose, newPose, resetPose, type FlatParts, type Pose } from '../geometry';
import { goToward, putOnTop } from './blend';
import { openPassage, playLayer, type LayerAt } from './interpreter';
import { MixPlayer, type MixAt } from './mix-player';
import type { BehavioursRules, Values } from './rules';

/** In how many seconds a state goes over into what it plays by another gait. */
export const GAIT_SECONDS = 0.25;

/** What one layer does at a moment. */
export interface LayerNow {
  layer: Id;
  state: Id;
  /** Since it came into its state, seconds. */
  seconds: number;
  /** Passages that were taken in the last frame, in their order. */
  taken: Id[];
  /** What the game was told in the last frame. */
  sent: string[];
  /** How far it has gone over from what was before, 0 to 1. */
  over: number;
  /** Clips that it plays and their shares; what fades is not among them. */
  shares: { clip: Id | null; share: number }[];
}

interface Playing {
  player: MixPlayer;
  at: MixAt;
}

function advance({ player, at }: Playing, values: Values, seconds: number): void {
  player.setPlace(values);
  player.advance(at, seconds);
}

/** One clip as a mix of its own. */
const alone = (clip: Id | null): Pick<Mix, 'kind' | 'parameters' | 'pegs'> => ({
  kind: 'line',
  parameters: [],
  pegs: [{ id: 'alone', clip, at: [0], speed: 1 }],
});

/** What a state plays while a gait's name is passed in. */
export function playedOf(state: BehaviourState, gait: unknown): Played {
  return state.gaits?.find((one) => one.gait === gait) ?? state;
}

/**
 * How far a layer moves each part: from those that it names downward, softly over its edge. Parts elsewhere are not moved.
 *
 * @returns 0 to 1, one a part of `flat`
 */
export function maskOf({ parts, edge = 0 }: Pick<Layer, 'parts' | 'edge'>, flat: FlatParts): Float64Array {
  const n = flat.ids.length;
  const mask = new Float64Array(n).fill(parts.length === 0 ? 1 : 0);
  if (parts.length === 0) return mask;
  const named = new Set(parts);
  /** Steps down from the uppermost part that is named; −1 outside. Parents come before their children. */
  const deep = new Int32Array(n).fill(-1);
  for (let p = 0; p < n; p++) {
    const above = flat.parent[p] < 0 ? -1 : deep[flat.parent[p]];
    if (above >= 0) deep[p] = above + 1;
    else if (named.has(flat.ids[p])) deep[p] = 0;
    if (deep[p] >= 0) mask[p] = Math.min(1, (deep[p] + 1) / (edge + 1));
  }
  return mask;
}

/** How far a layer is there, by what is passed in. */
export function weightOf({ weight }: Pick<Layer, 'weight'>, values: Values): number {
  if (!weight) return 1;
  const value = values[weight.parameter];
  if (typeof value !== 'number') return 0;
  return Math.min(1, Math.max(0, (value - weight.none) / (weight.whole - weight.none)));
}

/** Most frames take no passage. */
const NONE: readonly Id[] = [];

/** One layer that is played. */
class LayerPlayer {
  private at: LayerAt;
  private now: Playing;
  /** What it goes over from: something that goes on, or a pose that it was broken off in, and how far that was there. */
  private before: Playing | { pose: Pose; there: number } | null = null;
  private fade = 0;
  private fadeSeconds = 0;
  /** How far `sample` has found it to be there, and how far it has gone over: in arrays, where no number comes to lie on the heap. */
  private readonly there = new Float64Array(1);
  private readonly share = new Float64Array(1);
  private firm = false;
  private frames = 0;
  private taken: readonly Id[] = NONE;
  private gait: unknown;
  private readonly made = new Map<string, MixPlayer>();
  /** Those of the gait that is passed in, by state. */
  private readonly ofGait = new Map<Id, MixPlayer>();
  /** What was passed in last: `lengthOf` is by it. */
  private values: Values;

  private readonly mask: Float64Array;
  /** Whether it moves all parts, wholly. */
  private readonly whole: boolean;
  private readonly reach: Float64Array;
  private readonly pose: Pose;
  private readonly other: Pose;
  private readonly states: Map<Id, BehaviourState>;
  private readonly passages: Map<Id, Passage>;

  constructor(
    private readonly layer: Layer,
    private readonly behaviour: Behaviour,
    private readonly kit: Kit,
    private readonly flat: FlatParts,
    private readonly blobs: Blobs,
    values: Values,
  ) {
    this.values = values;
    this.states = new Map(layer.states.map((state) => [state.id, state]));
    this.passages = new Map(layer.passages.map((passage) => [passage.id, passage]));
    this.mask = maskOf(layer, flat);
    this.whole = this.mask.every((share) => share === 1);
    this.reach = new Float64Array(flat.ids.length);
    this.pose = newPose(flat);
    this.other = newPose(flat);
    this.at = { state: layer.first, seconds: 0 };
    this.gait = this.gaitIn(values);
    this.now = this.begin(values);
  }

  private gaitIn(values: Values): unknown {
    return this.behaviour.gait === undefined ? undefined : values[this.behaviour.gait];
  }

  private playerOf(state: BehaviourState): MixPlayer {
    let player = this.ofGait.get(state.id);
    if (!player) this.ofGait.set(state.id, (player = this.playerOfGait(state)));
    return player;
  }

  private playerOfGait(state: BehaviourState): MixPlayer {
    const { clip, mix } = playedOf(state, this.gait);
    const key = `${mix === undefined ? `clip ${clip}` : `mix ${mix}`} ${state.loop}`;
    let player = this.made.get(key);
    if (!player) {
      const said = mix === undefined ? alone(clip) : (this.kit.mixes?.find(({ id }) => id === mix) ?? alone(null));
      player = new MixPlayer(said, this.kit, this.flat, this.blobs, state.loop, this.whole ? undefined : this.mask);
      this.made.set(key, player);
    }
    return player;
  }

  /** @param seconds How long its state has been played already */
  private begin(values: Values, seconds = 0): Playing {
    const state = this.states.get(this.at.state)!;
    const player = this.playerOf(state);
    player.setPlace(values);
    const playing = { player, at: player.start(state.speed) };
    advance(playing, values, seconds);
    return playing;
  }

  /** Seconds that a state takes by what is passed in. */
  private readonly lengthOf = (state: BehaviourState): number => {
    const player = this.playerOf(state);
    player.setPlace(this.values);
    return player.seconds / state.speed;
  };

  step(values: Values, seconds: number, chain: number): void {
    this.frames++;
    this.values = values;
    const gait = this.gaitIn(values);
    this.taken = NONE;
    this.goOn(values, seconds);
    if (gait !== this.gait) {
      const from = this.states.get(this.at.state)!;
      const other = playedOf(from, gait) !== playedOf(from, this.gait);
      this.gait = gait;
      this.ofGait.clear();
      if (other) this.goOver(values, GAIT_SECONDS);
    }
    if (this.firm && this.fade < this.fadeSeconds) {
      this.at.seconds += seconds;
      return;
    }
    const { lengthOf } = this;
    if (!openPassage(this.layer, this.states.get(this.at.state)!, this.at, seconds, values, lengthOf)) {
      this.at.seconds += seconds;
      this.firm = false;
      return;
    }
    const { at, taken } = playLayer(this.layer, this.at, values, seconds, { lengthOf, chain });
    this.taken = taken;
    this.at = at;
    this.firm = false;
    if (taken.length === 0) return;
    const last = this.passages.get(taken[taken.length - 1])!;
    this.goOver(values, last.over, at.seconds);
    this.firm = last.firm === true;
  }

  /** What is played goes on, and what fades with it. */
  private goOn(values: Values, seconds: number): void {
    advance(this.now, values, seconds);
    this.fade += seconds;
    if (this.before && 'player' in this.before) advance(this.before, values, seconds);
    if (this.fade >= this.fadeSeconds) this.before = null;
  }

  /** @param played How long what it goes over to has been played already, seconds */
  private goOver(values: Values, seconds: number, played = 0): void {
    if (this.before && seconds > 0) {
      // Broken off on the way: it goes over from the pose that it is in.
      const pose = newPose(this.flat);
      this.sample();
      copyPose(pose, this.pose);
      this.before = { pose, there: this.there[0] };
    } else this.before = seconds > 0 ? this.now : null;
    this.fade = 0;
    this.fadeSeconds = seconds;
    this.now = this.begin(values, played);
  }

  /** What the game is told: in the first frame by where the layer begins, and by each state that was come to. */
  private sent(): string[] {
    const entered = [...(this.frames <= 1 ? [this.layer.first] : []), ...this.taken.map((id) => this.passages.get(id)!.to)];
    return entered.flatMap((id) => this.states.get(id)!.sends ?? []);
  }

  /**
   * Its own pose, settled, and how far it is `there`: a state that plays nothing leaves what the layers before do. Everything that it plays
   * has been set to what is passed in since it went on.
   */
  private sample(): void {
    const { player, at } = this.now;
    const now = player.plays ? 1 : 0;
    if (!this.before) {
      player.sample(at, this.pose);
      this.there[0] = now;
      return;
    }
    const share = this.fade / this.fadeSeconds;
    let was: number;
    if ('player' in this.before) {
      this.before.player.sample(this.before.at, this.pose);
      was = this.before.player.plays ? 1 : 0;
    } else {
      copyPose(this.pose, this.before.pose);
      was = this.before.there;
    }
    if (now > 0) {
      player.sample(at, this.other);
      // What comes out of nothing is there as it is, more and more.
      if (was === 0) copyPose(this.pose, this.other);
      else {
        this.share[0] = share;
        goToward(this.flat, this.pose, this.other, this.share);
      }
    }
    this.there[0] = was + share * (now - was);
  }

  /** Puts what it does over what the layers before do. */
  addTo(values: Values, out: Pose): void {
    const weight = weightOf(this.layer, values);
    if (weight === 0) return;
    this.sample();
    const there = weight * this.there[0];
    if (there === 0) return;
    if (there === 1 && this.whole && this.layer.how === 'replaces') {
      copyPose(out, this.pose);
      return;
    }
    for (let p = 0; p < this.reach.length; p++) this.reach[p] = there * this.mask[p];
    if (this.layer.how === 'adds') putOnTop(this.flat, out, this.pose, this.reach);
    else goToward(this.flat, out, this.pose, this.reach);
  }

  told(values: Values): LayerNow {
    this.now.player.setPlace(values);
    const { pegs } = this.now.player.mix;
    return {
      layer: this.layer.id,
      state: this.at.state,
      seconds: this.at.seconds,
      taken: [...this.taken],
      sent: this.sent(),
      over: this.before ? this.fade / this.fadeSeconds : 1,
      shares: pegs.flatMap(({ clip }, i) => (this.now.player.shares[i] > 0 ? [{ clip, share: this.now.player.shares[i] }] : [])),
    };
  }
}

/** Plays a kit's behaviour, frame by frame, as the platform does. */
export class BehaviourPlayer {
  private readonly layers: LayerPlayer[];
  private values: Values;

  /** @param values What is passed in at the beginning */
  constructor(
    kit: Kit,
    private readonly flat: FlatParts,
    blobs: Blobs,
    private readonly rules: Pick<BehavioursRules, 'chain'>,
    values: Values,
  ) {
    this.values = values;
    this.layers = (kit.behaviour?.layers ?? []).map((layer) => new LayerPlayer(layer, kit.behaviour!, kit, flat, blobs, values));
  }

  /** A frame: what is passed in now, and the seconds that it takes. */
  step(values: Values, seconds: number): void {
    this.values = values;
    for (const layer of this.layers) layer.step(values, seconds, this.rules.chain);
  }

  /** The pose of this moment, relative to rest. */
  pose(out: Pose): void {
    resetPose(this.flat, out);
    for (const layer of this.layers) layer.addTo(this.values, out);
  }

  /** What each layer does. */
  now(): LayerNow[] {
    return this.layers.map((layer) => layer.told(this.values));
  }
}
