import FlatQueue from 'flatqueue';
import type { Id, Kit, Vec3 } from '../../document';
import { graphOf, seatGroups, statePlays, type GroundsRules, type StatePlay } from '../../grounds';
import { roleOf, type Rulebook } from '../../rulebook';
import type { LoadedPackage } from '../../ship';

/** How far every knot is from some of them, and which comes next on the way there. */
export interface Field {
  /** Along the ropes, in the package's unit; Infinity where none leads there. */
  far: ReadonlyMap<Id, number>;
  next: ReadonlyMap<Id, Id>;
}

/** Seats that are boarded together, and the ways there and back. */
export interface Ride {
  carrier: Id;
  name: string;
  seats: Id[];
  boards: Id[];
  leaves: Id[];
  toBoard: Field;
}

/** What a park knows of a thing that stands in it: all from the package. In the package's unit. */
export interface Plot {
  kit: Kit;
  rules: GroundsRules;
  /** Units to a metre. */
  perMetre: number;
  rides: Ride[];
  edges: Id[];
  knots: ReadonlyMap<Id, Vec3>;
  /** The way to the nearest edge. */
  toEdge: Field;
  plays: StatePlay[];
  /** How long visitors wait before they give up, seconds. */
  patience: number;
}

/** Visitors wait as long where the sheet of facts says nothing, seconds. */
const PATIENCE = 60;
/** The fact that says how long they wait. */
const PATIENCE_FACT = 'queue';

/** The ways to some knots from all others, along the ropes as they may be gone (Dijkstra 1959, from the goals backward). */
export function fieldTo(graph: ReturnType<typeof graphOf>, goals: readonly Id[]): Field {
  const far = new Map<Id, number>(goals.map((id) => [id, 0]));
  const next = new Map<Id, Id>();
  const ids = graph.nodes();
  const numberOf = new Map(ids.map((id, i) => [id, i]));
  const queue = new FlatQueue<number>();
  for (const goal of goals) queue.push(numberOf.get(goal)!, 0);
  while (queue.length > 0) {
    const reached = queue.peekValue()!;
    const id = ids[queue.pop()!];
    if (reached > far.get(id)!) continue;
    for (const from of graph.inNeighbors(id)) {
      const there = reached + graph.getEdgeAttribute(graph.directedEdge(from, id), 'length');
      if (there >= (far.get(from) ?? Infinity)) continue;
      far.set(from, there);
      next.set(from, id);
      queue.push(numberOf.get(from)!, there);
    }
  }
  return { far, next };
}

/** Takes up what a package says of its tiles, seats, ways and states. */
export function openPlot({ kit, manifest }: Pick<LoadedPackage, 'kit' | 'manifest'>, rulebook: Rulebook): Plot {
  const rules = rulebook.grounds!;
  const walkway = kit.walkway ?? { knots: [], ropes: [] };
  const graph = graphOf(walkway);
  const edges = walkway.knots.filter(({ edge }) => edge).map(({ id }) => id);
  const at = (which: 'boards' | 'leaves', carrier: Id) => walkway.knots.filter((knot) => knot[which].includes(carrier)).map(({ id }) => id);
  const said = kit.grounds?.facts[PATIENCE_FACT];
  return {
    kit,
    rules,
    perMetre: 1 / manifest.space.metresPerUnit,
    rides: seatGroups(kit, (part) => roleOf(rulebook, part) === 'seat').map(({ carrier, seats }) => {
      const boards = at('boards', carrier);
      return { carrier, name: kit.parts[carrier].name, seats, boards, leaves: at('leaves', carrier), toBoard: fieldTo(graph, boards) };
    }),
    edges,
    knots: new Map(walkway.knots.map((knot) => [knot.id, knot.at])),
    toEdge: fieldTo(graph, edges),
    plays: statePlays(kit, rules),
    patience: typeof said === 'number' ? said : PATIENCE,
  };
}
