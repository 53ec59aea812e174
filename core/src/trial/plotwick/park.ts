import type { Id, Vec3 } from '../../document';
import { ridden, seatPlaces, waited } from '../../grounds';
import type { Plot, Ride } from './plot';

/** What a visitor does. */
export const PHASES = ['walks', 'queues', 'boards', 'sits', 'alights', 'leaves', 'gone', 'stuck'] as const;
export type Phase = (typeof PHASES)[number];

/** Somebody in the park. */
export interface Visitor {
  id: number;
  phase: Phase;
  /** Where their feet are, in the package's unit, in the axes of the thing at rest; of who sits, on the seat instead. */
  at: Vec3;
  /** Which ride they came for, by its number; −1 where there is none. */
  ride: number;
  seat: Id | null;
  /** The knot that they walk to, or stand at. */
  knot: Id | null;
  /** Metres a second. */
  speed: number;
  /** Seconds in this phase. */
  since: number;
  /** Why they are stuck or gave up; empty where neither. */
  why: string;
}

/** How a park is played. */
export interface ParkOptions {
  /** How many come in all. */
  visitors: number;
  /** A ride begins so long after the first one sat down, seconds, even where seats are free. */
  wait?: number;
  /** Edges at which nobody comes: the ground beside them is too high or too low. */
  closed?: readonly Id[];
}

/** One is let in as often as this, seconds. */
const EVERY = 0.7;
/** Who queues keeps this far from who is before them, metres. */
const APART = 0.5;
/** No step is longer, seconds. */
const STEP = 1 / 24;
const WALK = 1.25;

/** Shares of 1 that are the same for the same number: no two visitors walk alike, and every run is the same. */
const own = (n: number): number => ((Math.imul(n + 1, 0x9e3779b1) >>> 8) & 0xffff) / 0x10000;

/** Counts of a park. */
export interface ParkCounts {
  came: number;
  boarded: number;
  rides: number;
  rode: number;
  left: number;
  gaveUp: number;
  waiting: number;
  stuck: number;
}

/**
 * Visitors who come along the edge of a plot, find their way to a ride, queue, board, are carried and leave. The ride begins when all its
 * seats are taken, or when the first who sat down has waited long enough and nobody is about to sit down. The same package and options give
 * the same run.
 */
export class Park {
  seconds = 0;
  /** The state that plays, by its number in the rulebook, and for how long. */
  state: number;
  inState = 0;
  readonly visitors: Visitor[] = [];
  rides = 0;
  rode = 0;
  gaveUp = 0;
  private boarded = 0;
  private sinceFirst = 0;
  private due = 0;
  private readonly wait: number;
  private readonly edges: Id[];
  private readonly waits: number;
  private readonly carries: number;
  private readonly seats: (number | null)[][];

  constructor(
    readonly plot: Plot,
    private readonly options: ParkOptions,
  ) {
    const closed = new Set(options.closed);
    this.edges = plot.edges.filter((id) => !closed.has(id));
    this.wait = options.wait ?? 20;
    const waits = waited(plot.plays);
    const carries = ridden(plot.plays);
    this.waits = waits ? plot.plays.indexOf(waits) : 0;
    this.carries = carries ? plot.plays.indexOf(carries) : this.waits;
    this.state = this.waits;
    this.seats = plot.rides.map(({ seats }) => seats.map(() => null));
  }

  /** What plays now: the clip of the package, and the second of it. */
  get playing(): { clip: Id | null; time: number } {
    const { clip, from, to } = this.plot.plays[this.state];
    if (!clip) return { clip: null, time: 0 };
    const long = to - from;
    const round = long > 0 ? this.inState % long : 0;
    const time = this.state === this.carries ? Math.min(this.inState, long) : round;
    return { clip: clip.id, time: from + time };
  }

  get counts(): ParkCounts {
    const of = (...phases: Phase[]) => this.visitors.filter(({ phase }) => phases.includes(phase)).length;
    return {
      came: this.visitors.length,
      boarded: this.boarded,
      rides: this.rides,
      rode: this.rode,
      left: of('gone'),
      gaveUp: this.gaveUp,
      waiting: of('queues'),
      stuck: of('stuck'),
    };
  }

  /** Lets some seconds pass. */
  pass(seconds: number): void {
    for (let left = seconds; left > 1e-9; left -= STEP) this.step(Math.min(STEP, left));
  }

  private step(dt: number): void {
    this.seconds += dt;
    this.inState += dt;
    this.letIn();
    const queued = this.plot.rides.map(() => 0);
    for (const visitor of this.visitors) {
      visitor.since += dt;
      this.act(visitor, dt, queued);
    }
    this.runRide(dt);
  }

  private letIn(): void {
    const { visitors, options, plot } = this;
    while (visitors.length < options.visitors && this.seconds >= this.due) {
      this.due += EVERY;
      const id = visitors.length;
      const ride = plot.rides.length > 0 ? id % plot.rides.length : -1;
      const edge = this.edges.length > 0 ? this.edges[id % this.edges.length] : null;
      const visitor: Visitor = {
        id,
        phase: 'walks',
        at: edge === null ? [0, 0, 0] : [...plot.knots.get(edge)!],
        ride,
        seat: null,
        knot: edge,
        speed: WALK * (0.85 + 0.3 * own(id)),
        since: 0,
        why: '',
      };
      visitors.push(visitor);
      if (edge === null)
        this.stick(
          visitor,
          plot.edges.length === 0 ? 'no knot of the walkway is joined to the park' : 'every edge is too high or too low here',
        );
      else if (ride >= 0) this.comesFor(visitor, plot.rides[ride], edge);
      else visitor.phase = 'leaves';
    }
  }

  /** Whether somebody can come from an edge to a ride at all: another edge may serve. */
  private comesFor(visitor: Visitor, ride: Ride, edge: Id): void {
    if (ride.boards.length === 0) return this.stick(visitor, `nobody may board “${ride.name}”: no knot says so`);
    if (ride.toBoard.far.has(edge)) return;
    const other = this.edges.find((id) => ride.toBoard.far.has(id));
    if (other === undefined) return this.stick(visitor, `no way leads from the edge to “${ride.name}”`);
    visitor.knot = other;
    visitor.at = [...this.plot.knots.get(other)!];
  }

  private stick(visitor: Visitor, why: string): void {
    Object.assign(visitor, { phase: 'stuck', since: 0, why });
  }

  private act(visitor: Visitor, dt: number, queued: number[]): void {
    const { plot } = this;
    const ride = plot.rides[visitor.ride] as Ride | undefined;
    const way = visitor.speed * plot.perMetre * dt;
    switch (visitor.phase) {
      case 'walks':
        if (this.walkOn(visitor, ride!.toBoard.next, way)) this.turnTo(visitor, 'queues');
        return;
      case 'queues': {
        const place = queued[visitor.ride]++;
        this.standInLine(visitor, ride!, place, way);
        if (this.state === this.waits && place === 0 && this.takeSeat(visitor, ride!)) queued[visitor.ride]--;
        else if (visitor.since > plot.patience) {
          this.gaveUp++;
          visitor.why = 'waited too long';
          this.goHome(visitor);
        }
        return;
      }
      case 'boards':
        if (goTo(visitor.at, this.seatPlace(visitor.seat!), way)) {
          this.turnTo(visitor, 'sits');
          this.boarded++;
        }
        return;
      case 'alights':
        if (goTo(visitor.at, plot.knots.get(visitor.knot!)!, way)) this.goHome(visitor);
        return;
      case 'leaves':
        if (this.walkOn(visitor, plot.toEdge.next, way)) this.turnTo(visitor, 'gone');
        return;
      default:
    }
  }

  private turnTo(visitor: Visitor, phase: Phase): void {
    visitor.phase = phase;
    visitor.since = 0;
  }

  /** Walks along the ropes; true where the way ends. */
  private walkOn(visitor: Visitor, next: ReadonlyMap<Id, Id>, way: number): boolean {
    let left = way;
    while (left > 0) {
      const there = this.plot.knots.get(visitor.knot!)!;
      const far = distance(visitor.at, there);
      if (far > left) {
        goTo(visitor.at, there, left);
        return false;
      }
      left -= far;
      visitor.at = [...there];
      const onward = next.get(visitor.knot!);
      if (onward === undefined) return true;
      visitor.knot = onward;
    }
    return false;
  }

  /** Stands in line behind others, back along the way that they came. */
  private standInLine(visitor: Visitor, ride: Ride, place: number, way: number): void {
    const { knots, perMetre, toEdge } = this.plot;
    let back = place * APART * perMetre;
    let knot = ride.boards.includes(visitor.knot!) ? visitor.knot! : ride.boards[0];
    const at: Vec3 = [...knots.get(knot)!];
    for (;;) {
      const onward = toEdge.next.get(knot);
      if (onward === undefined || back <= 0) break;
      const there = knots.get(onward)!;
      const far = distance(at, there);
      const step = Math.min(far, back);
      goTo(at, there, step);
      back -= step;
      knot = onward;
    }
    goTo(visitor.at, at, way);
  }

  private takeSeat(visitor: Visitor, ride: Ride): boolean {
    const taken = this.seats[visitor.ride];
    // The nearest of the free ones is not always filled first: people go through.
    const free = taken.findIndex((who) => who === null);
    if (free < 0) return false;
    taken[free] = visitor.id;
    visitor.seat = ride.seats[free];
    this.turnTo(visitor, 'boards');
    return true;
  }

  /** Where a seat is while its ride stands. */
  private seatPlace(seat: Id): Vec3 {
    this.places ??= new Map(
      this.plot.rides.flatMap(({ seats }) => seatPlaces(this.plot.kit, seats).map((at, i) => [seats[i], at] as const)),
    );
    return this.places.get(seat)!;
  }
  private places: ReadonlyMap<Id, Vec3> | null = null;

  private goHome(visitor: Visitor): void {
    visitor.seat = null;
    if (visitor.knot === null || !this.plot.toEdge.far.has(visitor.knot)) return this.stick(visitor, 'no way leads back to the edge');
    this.turnTo(visitor, 'leaves');
  }

  private runRide(dt: number): void {
    const { rides } = this.plot;
    const long = this.plot.plays[this.carries].to - this.plot.plays[this.carries].from;
    if (this.state === this.carries && this.carries !== this.waits) {
      if (this.inState >= long) this.endRide();
      return;
    }
    const seated = this.visitors.filter(({ phase }) => phase === 'sits');
    if (seated.length === 0) {
      this.sinceFirst = 0;
      return;
    }
    this.sinceFirst += dt;
    const boarding = this.visitors.some(({ phase }) => phase === 'boards');
    const full = seated.length === rides.reduce((sum, { seats }) => sum + seats.length, 0);
    if (!full && (boarding || this.sinceFirst < this.wait)) return;
    // What waits plays to its end first, so that it goes over without a jump.
    const { from, to, clip } = this.plot.plays[this.waits];
    const round = to - from;
    if (clip && round > 0 && this.inState % round > dt && this.inState > dt) return;
    this.rides++;
    this.state = this.carries;
    this.inState = 0;
    this.sinceFirst = 0;
    // A thing without a state that carries, or without a clip in it, sets its visitors down again at once.
    if (this.carries === this.waits || long === 0) this.endRide();
  }

  private endRide(): void {
    this.state = this.waits;
    this.inState = 0;
    for (const visitor of this.visitors) {
      if (visitor.phase !== 'sits') continue;
      this.rode++;
      const ride = this.plot.rides[visitor.ride];
      visitor.at = [...this.seatPlace(visitor.seat!)];
      this.seats[visitor.ride][ride.seats.indexOf(visitor.seat!)] = null;
      if (ride.leaves.length === 0) {
        this.stick(visitor, `nobody may leave “${ride.name}”: no knot says so`);
        continue;
      }
      visitor.knot = ride.leaves[visitor.id % ride.leaves.length];
      this.turnTo(visitor, 'alights');
    }
  }
}

const distance = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** Goes so far towards a place; true where it is come to. */
function goTo(at: Vec3, there: Vec3, way: number): boolean {
  const far = distance(at, there);
  const share = far > way ? way / far : 1;
  for (let axis = 0; axis < 3; axis++) at[axis] += share * (there[axis] - at[axis]);
  return share === 1;
}
