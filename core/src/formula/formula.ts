import { create, parseDependencies } from 'mathjs/number';
import { KitError, MOST_FORMULA } from '../document';

/** Nodes of an expression above one another. */
const DEEPEST = 32;
const MOST_NODES = 200;

/** A formula that can't be read, with the character where it was seen. */
export class FormulaError extends KitError {
  constructor(
    message: string,
    /** Character of the source where it was seen, from 0. */
    readonly at: number,
  ) {
    super('formula', `${message} (character ${at + 1}).`, String(at));
  }
}

/** A formula made ready: its value at a time, `t` in seconds and `u` the phase of the clip, 0 to 1. */
export type Formula = (t: number, u: number) => number;

/** What is left of a division, with the divisor’s sign; by 0 the number itself (Knuth 1997, 1.2.4). */
const wrap = (value: number, by: number) => (by === 0 ? value : value - by * Math.floor(value / by));

/** What an expression may call; angles in radians but for the `d` ones. */
export const FORMULA_FUNCTIONS: Record<
  string,
  { arity: [least: number, most: number]; about: string; run: (...values: number[]) => number }
> = {
  sin: { arity: [1, 1], about: 'sine of radians', run: Math.sin },
  cos: { arity: [1, 1], about: 'cosine of radians', run: Math.cos },
  tan: { arity: [1, 1], about: 'tangent of radians', run: Math.tan },
  asin: { arity: [1, 1], about: 'radians of a sine', run: Math.asin },
  acos: { arity: [1, 1], about: 'radians of a cosine', run: Math.acos },
  atan: { arity: [1, 1], about: 'radians of a tangent', run: Math.atan },
  atan2: { arity: [2, 2], about: 'radians of a direction y, x', run: Math.atan2 },
  sinh: { arity: [1, 1], about: 'hyperbolic sine', run: Math.sinh },
  cosh: { arity: [1, 1], about: 'hyperbolic cosine', run: Math.cosh },
  tanh: { arity: [1, 1], about: 'hyperbolic tangent', run: Math.tanh },
  abs: { arity: [1, 1], about: 'without its sign', run: Math.abs },
  sign: { arity: [1, 1], about: '−1, 0 or 1', run: Math.sign },
  sqrt: { arity: [1, 1], about: 'square root', run: Math.sqrt },
  cbrt: { arity: [1, 1], about: 'cube root', run: Math.cbrt },
  exp: { arity: [1, 1], about: 'e to a power', run: Math.exp },
  log: { arity: [1, 1], about: 'natural logarithm', run: Math.log },
  pow: { arity: [2, 2], about: 'a to the power of b', run: Math.pow },
  hypot: { arity: [1, 4], about: 'length of a vector', run: Math.hypot },
  floor: { arity: [1, 1], about: 'whole number below', run: Math.floor },
  ceil: { arity: [1, 1], about: 'whole number above', run: Math.ceil },
  round: { arity: [1, 1], about: 'nearest whole number', run: Math.round },
  mod: { arity: [2, 2], about: 'what is left of a divided by b, never negative', run: wrap },
  min: { arity: [1, 8], about: 'the least', run: Math.min },
  max: { arity: [1, 8], about: 'the greatest', run: Math.max },
  wrap: {
    arity: [3, 3],
    about: 'a brought to between b and c by whole ranges',
    run: (value, least, most) => (most > least ? least + wrap(value - least, most - least) : least),
  },
};

/** Numbers that every formula knows. */
export const FORMULA_CONSTANTS: Record<string, number> = { pi: Math.PI, tau: 2 * Math.PI, e: Math.E };

const BINARY: Record<string, (a: number, b: number) => number> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  '^': Math.pow,
  '%': wrap,
  '<': (a, b) => Number(a < b),
  '>': (a, b) => Number(a > b),
  '<=': (a, b) => Number(a <= b),
  '>=': (a, b) => Number(a >= b),
  '==': (a, b) => Number(a === b),
  '!=': (a, b) => Number(a !== b),
};

/** A node of a parsed expression, as far as it is looked at. */
interface MathNode {
  type: string;
  [field: string]: unknown;
}

/** The parser alone, made when the first formula is read: most kits have none. */
let math: { parse: (source: string) => MathNode } | null = null;
/** Parsed sources are kept: a clip is made ready anew at every edit. */
const known = new Map<string, MathNode>();

/** What an expression may name beside the constants of all. */
export interface FormulaSymbols {
  /** What a name stands for, with its index where it has one; null where it is nothing. */
  symbol(name: string, index: number | null): Formula | null;
  /** What there is, in words. */
  there: string;
}

/** Time and phase of a clip. */
const OF_TIME: FormulaSymbols = {
  symbol(name, index) {
    if (index !== null) return null;
    if (name === 't') return (t) => t;
    return name === 'u' ? (_, u) => u : null;
  },
  there: 't, u, pi, tau, e and the clip’s own constants',
};

/**
 * Reads an expression over `t`, `u`, `pi`, `tau`, `e` and named constants, with the operators + − * / ^ %, comparisons, `a ? b : c` and the
 * functions of `FORMULA_FUNCTIONS`; nothing else is let through, and the expression is walked by our own code.
 *
 * @param symbols What it may name; time and phase, where it is not said
 * @throws {FormulaError} with the character where it fails
 */
export function readFormula(source: string, constants: Readonly<Record<string, number>> = {}, symbols: FormulaSymbols = OF_TIME): Formula {
  if (source.trim() === '') throw new FormulaError('The formula is empty', 0);
  if (source.length > MOST_FORMULA) throw new FormulaError(`A formula has at most ${MOST_FORMULA} characters`, MOST_FORMULA);
  const node = parsed(source);
  let nodes = 0;
  /** Where a word or an operator stands in the source; the parser keeps no places. */
  const place = (word: string) => {
    const found = /^\w+$/.test(word) ? source.search(new RegExp(`(?<![\\w.])${word}(?!\\w)`)) : source.indexOf(word);
    return Math.max(0, found);
  };
  const noExpression = () =>
    new FormulaError(
      'A formula is one expression, without assignments, lists or text',
      Math.max(0, source.search(/[=;[\]{}"',]|\.(?=[A-Za-z])/)),
    );
  const build = (one: MathNode, depth: number): Formula => {
    if (depth > DEEPEST || ++nodes > MOST_NODES) throw new FormulaError('The formula is nested too deeply', source.length - 1);
    const below = (child: MathNode) => build(child, depth + 1);
    switch (one.type) {
      case 'ParenthesisNode':
        return below(one.content as MathNode);
      case 'ConstantNode': {
        const value = one.value as unknown;
        if (typeof value !== 'number') throw new FormulaError(`“${String(value)}” is not a number`, place(String(value)));
        return () => value;
      }
      case 'SymbolNode': {
        const name = one.name as string;
        const named = symbols.symbol(name, null);
        if (named) return named;
        const from = [constants, FORMULA_CONSTANTS].find((one) => Object.hasOwn(one, name));
        const value = from?.[name];
        if (value === undefined) throw new FormulaError(`There is no “${name}”; there are ${symbols.there}`, place(name));
        return () => value;
      }
      case 'AccessorNode': {
        const name = (one.object as { name?: string }).name ?? '';
        const index = indexOf(one);
        if (index === null) throw noExpression();
        const named = symbols.symbol(name, index);
        if (!named) throw new FormulaError(`There is no “${name}” of that number; there are ${symbols.there}`, place(name));
        return named;
      }
      case 'OperatorNode': {
        const op = one.op as string;
        const args = (one.args as MathNode[]).map(below);
        if (args.length === 1 && op === '-') return (t, u) => -args[0](t, u);
        if (args.length === 1 && op === '+') return args[0];
        const run = args.length === 2 && Object.hasOwn(BINARY, op) ? BINARY[op] : undefined;
        if (!run) throw new FormulaError(`“${op}” is not an operator of formulas`, place(op));
        return (t, u) => run(args[0](t, u), args[1](t, u));
      }
      case 'ConditionalNode': {
        const [when, yes, no] = [one.condition, one.trueExpr, one.falseExpr].map((child) => below(child as MathNode));
        return (t, u) => (when(t, u) !== 0 ? yes(t, u) : no(t, u));
      }
      case 'FunctionNode': {
        const name = (one.fn as { name?: string }).name ?? '';
        const known = Object.hasOwn(FORMULA_FUNCTIONS, name) ? FORMULA_FUNCTIONS[name] : undefined;
        if (!known)
          throw new FormulaError(`There is no function “${name}”; there are ${Object.keys(FORMULA_FUNCTIONS).join(', ')}`, place(name));
        const args = (one.args as MathNode[]).map(below);
        const [least, most] = known.arity;
        if (args.length < least || args.length > most)
          throw new FormulaError(
            `“${name}” takes ${least === most ? least : `${least} to ${most}`} numbers, not ${args.length}`,
            place(name),
          );
        if (args.length === 1) return (t, u) => known.run(args[0](t, u));
        if (args.length === 2) return (t, u) => known.run(args[0](t, u), args[1](t, u));
        return (t, u) => known.run(...args.map((arg) => arg(t, u)));
      }
      default:
        throw noExpression();
    }
  };
  return build(node, 1);
}

/** The whole number in brackets after a name; null where there is something else. */
function indexOf(node: MathNode): number | null {
  const [at, ...more] = (node.index as { dimensions: MathNode[] }).dimensions;
  const value = more.length === 0 && at?.type === 'ConstantNode' ? at.value : null;
  return typeof value === 'number' && Number.isInteger(value) && value >= 0 ? value : null;
}

function parsed(source: string): MathNode {
  const kept = known.get(source);
  if (kept) return kept;
  let node: MathNode;
  try {
    node = (math ??= create(parseDependencies) as unknown as { parse: (source: string) => MathNode }).parse(source);
  } catch (error) {
    const { char, message } = error as { char?: number; message: string };
    const at = Math.max(0, (char ?? 1) - 1);
    const plain = message.replace(/ \(char \d+\)$/, '');
    throw new FormulaError(plain.startsWith('Unexpected end') ? 'The formula ends too early' : plain, Math.min(at, source.length - 1));
  }
  if (known.size > 500) known.clear();
  known.set(source, node);
  return node;
}
