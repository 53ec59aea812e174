/**
 * Name patterns: regular expressions without back references and look-around, matched in a time that grows with the name's length
 * alone, however the pattern is made. They are read into a position automaton (Glushkov 1961), of which all states are followed at once
 * (Thompson 1968).
 *
 * A rulebook may be read by other programs, whose engines go back over a name. So patterns with which such an engine can take
 * exponential time are refused: those in which one word leads from a position back to it in two ways (Weber & Seidl 1991).
 */

export class PatternError extends Error {
  constructor(
    message: string,
    /** Place in the pattern, from 0. */
    readonly at: number,
  ) {
    super(message);
  }
}

/** Ranges of UTF-16 units, both ends included. */
type Units = [number, number][];
type Node =
  | { kind: 'units'; units: Units }
  | { kind: 'chain'; nodes: Node[] }
  | { kind: 'choice'; nodes: Node[] }
  | { kind: 'repeat'; node: Node; min: number; max: number; at: number };

const MOST_POSITIONS = 600;
const MOST_PAIR_STEPS = 3_000_000;
const CLASSES: Record<string, Units> = {
  d: [[48, 57]],
  w: [
    [48, 57],
    [65, 90],
    [95, 95],
    [97, 122],
  ],
  s: [
    [9, 13],
    [32, 32],
    [160, 160],
  ],
};

function inverse(units: Units): Units {
  const sorted = [...units].sort((a, b) => a[0] - b[0]);
  const out: Units = [];
  let next = 0;
  for (const [from, to] of sorted) {
    if (from > next) out.push([next, from - 1]);
    next = Math.max(next, to + 1);
  }
  if (next <= 0xffff) out.push([next, 0xffff]);
  return out;
}

class Reader {
  private at = 0;
  constructor(private readonly text: string) {}

  read(): Node {
    if (this.text[this.at] === '^') this.at++;
    const node = this.choice(0);
    if (this.at < this.text.length) throw new PatternError(`“${this.text[this.at]}” has nothing to close`, this.at);
    return node;
  }

  private choice(depth: number): Node {
    if (depth > 20) throw new PatternError('brackets are nested more than 20 deep', this.at);
    const nodes = [this.chain(depth)];
    while (this.text[this.at] === '|') {
      this.at++;
      nodes.push(this.chain(depth));
    }
    return nodes.length === 1 ? nodes[0] : { kind: 'choice', nodes };
  }

  private chain(depth: number): Node {
    const nodes: Node[] = [];
    while (this.at < this.text.length && this.text[this.at] !== '|' && this.text[this.at] !== ')') {
      if (this.text[this.at] === '$') {
        if (this.at !== this.text.length - 1) throw new PatternError('“$” may only stand at the end', this.at);
        this.at++;
        break;
      }
      nodes.push(this.repeated(depth));
    }
    return { kind: 'chain', nodes };
  }

  private repeated(depth: number): Node {
    let node = this.atom(depth);
    for (;;) {
      const at = this.at;
      const bounds = this.bounds();
      if (!bounds) return node;
      if (this.text[this.at] === '?' || this.text[this.at] === '+')
        throw new PatternError('lazy and possessive repetition are not known here', this.at);
      node = { kind: 'repeat', node, min: bounds[0], max: bounds[1], at };
    }
  }

  private bounds(): [number, number] | null {
    const sign = this.text[this.at];
    if (sign === '?' || sign === '*' || sign === '+') {
      this.at++;
      return [sign === '+' ? 1 : 0, sign === '?' ? 1 : Infinity];
    }
    if (sign !== '{') return null;
    const found = /^\{(\d{1,4})(,(\d{0,4}))?\}/.exec(this.text.slice(this.at, this.at + 12));
    if (!found) throw new PatternError('“{” begins a count such as {2,4}; write \\{ for the sign itself', this.at);
    const min = Number(found[1]);
    const most = found[3] === '' ? Infinity : Number(found[3]);
    const max = found[2] === undefined ? min : most;
    if (max < min) throw new PatternError('a count that ends before it begins', this.at);
    this.at += found[0].length;
    return [min, max];
  }

  private atom(depth: number): Node {
    const sign = this.text[this.at];
    if (sign === '(') return this.group(depth);
    if (sign === '[') return { kind: 'units', units: this.set() };
    if ('*+?{'.includes(sign)) throw new PatternError(`“${sign}” has nothing to repeat`, this.at);
    if (sign === '^') throw new PatternError('“^” may only stand at the start', this.at);
    if (sign === '\\') return { kind: 'units', units: this.escape() };
    this.at++;
    if (sign === '.')
      return {
        kind: 'units',
        units: inverse([
          [10, 10],
          [13, 13],
        ]),
      };
    return { kind: 'units', units: [[sign.charCodeAt(0), sign.charCodeAt(0)]] };
  }

  private group(depth: number): Node {
    const open = this.at++;
    if (this.text[this.at] === '?') {
      if (this.text[this.at + 1] !== ':') throw new PatternError('look-around and named groups are not known here', open);
      this.at += 2;
    }
    const node = this.choice(depth + 1);
    if (this.text[this.at] !== ')') throw new PatternError('“(” is never closed', open);
    this.at++;
    return node;
  }

  private escape(): Units {
    const sign = this.text[this.at + 1];
    if (sign === undefined) throw new PatternError('“\\” has nothing behind it', this.at);
    if (/[1-9]/.test(sign)) throw new PatternError('back references are not known here', this.at);
    const known = CLASSES[sign.toLowerCase()];
    if (!known && /[A-Za-z0]/.test(sign)) throw new PatternError(`“\\${sign}” is not known here`, this.at);
    this.at += 2;
    if (!known) return [[sign.charCodeAt(0), sign.charCodeAt(0)]];
    return sign === sign.toLowerCase() ? known : inverse(known);
  }

  private set(): Units {
    const open = this.at++;
    const negated = this.text[this.at] === '^';
    if (negated) this.at++;
    const units: Units = [];
    while (this.text[this.at] !== ']') {
      if (this.at >= this.text.length) throw new PatternError('“[” is never closed', open);
      const from = this.unit();
      if (from.length === 1 && this.text[this.at] === '-' && this.text[this.at + 1] !== ']' && this.at + 1 < this.text.length) {
        this.at++;
        const to = this.unit();
        if (to.length !== 1 || to[0][0] < from[0][0]) throw new PatternError('a range that ends before it begins', this.at);
        units.push([from[0][0], to[0][1]]);
      } else units.push(...from);
    }
    this.at++;
    return negated ? inverse(units) : units;
  }

  private unit(): Units {
    if (this.text[this.at] === '\\') return this.escape();
    const code = this.text.charCodeAt(this.at++);
    return [[code, code]];
  }
}

interface Piece {
  empty: boolean;
  first: number[];
  last: number[];
}

/** Positions with what may follow each, and in how many ways. */
class Positions {
  readonly units: Units[] = [];
  readonly follow: Map<number, number>[] = [];

  /** @param loops Whether counted repetition stands as a loop: the same dangers, in fewer positions. */
  constructor(private readonly loops: boolean) {}

  add(node: Node): Piece {
    if (node.kind === 'units') return this.position(node.units);
    if (node.kind === 'chain')
      return node.nodes.reduce((before, next) => this.join(before, this.add(next)), { empty: true, first: [], last: [] } as Piece);
    if (node.kind === 'choice') {
      const pieces = node.nodes.map((one) => this.add(one));
      return { empty: pieces.some((one) => one.empty), first: pieces.flatMap((one) => one.first), last: pieces.flatMap((one) => one.last) };
    }
    return this.repeat(node.node, node.min, node.max, node.at);
  }

  private position(units: Units): Piece {
    if (this.units.length >= MOST_POSITIONS)
      throw new PatternError(`the pattern has more than ${MOST_POSITIONS} places, with its counts written out`, 0);
    const at = this.units.push(units) - 1;
    this.follow.push(new Map());
    return { empty: false, first: [at], last: [at] };
  }

  private link(from: number[], to: number[]): void {
    for (const a of from) for (const b of to) this.follow[a].set(b, (this.follow[a].get(b) ?? 0) + 1);
  }

  private join(a: Piece, b: Piece): Piece {
    this.link(a.last, b.first);
    return {
      empty: a.empty && b.empty,
      first: a.empty ? [...a.first, ...b.first] : a.first,
      last: b.empty ? [...a.last, ...b.last] : b.last,
    };
  }

  private repeat(node: Node, min: number, max: number, at: number): Piece {
    if (max === 0) return { empty: true, first: [], last: [] };
    if (max === 1) {
      const piece = this.add(node);
      return { ...piece, empty: piece.empty || min === 0 };
    }
    if (this.loops || max === Infinity) {
      const lead = this.loops ? 0 : Math.max(0, min - 1);
      let before: Piece = { empty: true, first: [], last: [] };
      for (let i = 0; i < lead; i++) before = this.join(before, this.add(node));
      const piece = this.add(node);
      if (this.loops && piece.empty && max !== Infinity)
        throw new PatternError('what is counted here may be empty, so that engines that go back over a name take exponential time', at);
      this.link(piece.last, piece.first);
      return this.join(before, { ...piece, empty: piece.empty || min === 0 });
    }
    let rest: Piece | null = null;
    // e{2,4} is e e (e (e)?)?, built from behind.
    for (let i = max; i > min; i--) {
      const piece = this.add(node);
      const joined: Piece = rest ? this.join(piece, rest) : piece;
      rest = { ...joined, empty: true };
    }
    let piece: Piece = { empty: true, first: [], last: [] };
    for (let i = 0; i < min; i++) piece = this.join(piece, this.add(node));
    return rest ? this.join(piece, rest) : piece;
  }
}

const overlap = (a: Units, b: Units) => a.some(([from, to]) => b.some(([other, end]) => from <= end && other <= to));

/**
 * Whether one word leads from a position back to itself in two ways: strongly connected pairs of positions hold a like and an unlike one.
 */
function isExponential({ units, follow }: Positions): boolean {
  const n = units.length;
  const together = units.map((a) => units.map((b) => overlap(a, b)));
  const next = follow.map((map) => [...map.keys()]);
  let steps = 0;
  const successors = (pair: number): number[] => {
    const out: number[] = [];
    for (const a of next[Math.floor(pair / n)]) {
      for (const b of next[pair % n]) {
        if (++steps > MOST_PAIR_STEPS) throw new PatternError('the pattern has too many ways through it to be checked; make it simpler', 0);
        if (together[a][b]) out.push(a * n + b);
      }
    }
    return out;
  };
  // Tarjan's components (1972), without recursion, over the pairs that a like pair reaches.
  const index = new Int32Array(n * n).fill(-1);
  const low = new Int32Array(n * n);
  const onStack = new Uint8Array(n * n);
  const stack: number[] = [];
  let counter = 0;
  for (let start = 0; start < n; start++) {
    const root = start * n + start;
    if (index[root] >= 0) continue;
    const way: { pair: number; list: number[]; at: number }[] = [];
    const enter = (pair: number) => {
      index[pair] = low[pair] = counter++;
      stack.push(pair);
      onStack[pair] = 1;
      way.push({ pair, list: successors(pair), at: 0 });
    };
    enter(root);
    while (way.length > 0) {
      const top = way[way.length - 1];
      if (top.at < top.list.length) {
        const to = top.list[top.at++];
        if (index[to] < 0) enter(to);
        else if (onStack[to]) low[top.pair] = Math.min(low[top.pair], index[to]);
        continue;
      }
      way.pop();
      if (way.length > 0) low[way[way.length - 1].pair] = Math.min(low[way[way.length - 1].pair], low[top.pair]);
      if (low[top.pair] !== index[top.pair]) continue;
      const component: number[] = [];
      let one: number;
      do {
        one = stack.pop()!;
        onStack[one] = 0;
        component.push(one);
      } while (one !== top.pair);
      const like = component.filter((pair) => Math.floor(pair / n) === pair % n).map((pair) => pair % n);
      if (like.length === 0) continue;
      if (like.length < component.length) return true;
      // The same step in two ways, within a loop.
      if (like.some((from) => like.some((to) => (follow[from].get(to) ?? 0) > 1))) return true;
    }
  }
  return false;
}

/** A pattern for names, matched in time that grows with the name alone (Thompson 1968); it can make names that fit, too. */
export class NamePattern {
  private readonly positions = new Positions(false);
  private readonly start: Piece;

  /** @throws {PatternError} where the text is no pattern, or one that takes exponential time elsewhere */
  constructor(text: string) {
    const node = new Reader(text).read();
    const loops = new Positions(true);
    loops.add(node);
    if (isExponential(loops))
      throw new PatternError('one name fits in so many ways that engines that go back over it take exponential time, as with (a+)+', 0);
    this.start = this.positions.add(node);
  }

  /** Whether the whole name fits. */
  test(name: string): boolean {
    const { units, follow } = this.positions;
    if (name === '') return this.start.empty;
    let here = new Set<number>();
    for (let i = 0; i < name.length; i++) {
      const code = name.charCodeAt(i);
      const next = new Set<number>();
      const enter = (position: number) => {
        if (!next.has(position) && units[position].some(([from, to]) => code >= from && code <= to)) next.add(position);
      };
      if (i === 0) this.start.first.forEach(enter);
      else for (const position of here) for (const to of follow[position].keys()) enter(to);
      if (next.size === 0) return false;
      here = next;
    }
    return this.start.last.some((position) => here.has(position));
  }
}

const known = new Map<string, NamePattern>();

/** The pattern of a text, read once. @throws {PatternError} */
export function namePattern(text: string): NamePattern {
  let made = known.get(text);
  if (!made) {
    if (known.size > 2000) known.clear();
    known.set(text, (made = new NamePattern(text)));
  }
  return made;
}
