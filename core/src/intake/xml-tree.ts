import { SaxesParser } from 'saxes';
import { strFromU8 } from 'fflate';
import { invalid } from './intake-error';

/** An XML element: its children in order, and its own text. Names are without prefix. */
export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  children: XmlElement[];
  text: string;
}

const MAX_DEPTH = 1000;
const CHUNK = 1 << 20;

/**
 * XML as a tree. Entities of a document's own are not known, so none can swell up.
 *
 * @throws {IntakeError} where it is not well-formed, with the line
 */
export function parseXml(bytes: Uint8Array, fileName: string): XmlElement {
  const parser = new SaxesParser({ xmlns: false, fileName });
  const stack: XmlElement[] = [];
  let root: XmlElement | null = null;
  parser.on('error', () => {
    throw invalid(fileName, `line ${parser.line}`, 'its XML is not well-formed there, or cut short');
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (stack.length > MAX_DEPTH) throw invalid(fileName, `line ${parser.line}`, `its XML is nested deeper than ${MAX_DEPTH} elements`);
    const element: XmlElement = { name: name.replace(/^.*:/, ''), attributes, children: [], text: '' };
    stack.at(-1)?.children.push(element);
    root ??= element;
    stack.push(element);
  });
  const addText = (text: string) => {
    const top = stack.at(-1);
    if (top) top.text += text;
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.on('closetag', () => stack.pop());
  const text = strFromU8(bytes);
  for (let at = 0; at < text.length; at += CHUNK) parser.write(text.slice(at, at + CHUNK));
  parser.close();
  if (!root) throw invalid(fileName, 'line 1', 'it holds no XML');
  return root;
}

/** The first child of a name. */
export function child(element: XmlElement | undefined, name: string): XmlElement | undefined {
  return element?.children.find((one) => one.name === name);
}

/** All children of these names, in their order. */
export function childrenNamed(element: XmlElement | undefined, ...names: string[]): XmlElement[] {
  return element?.children.filter((one) => names.includes(one.name)) ?? [];
}

/** Follows child names down. */
export function at(element: XmlElement | undefined, ...path: string[]): XmlElement | undefined {
  return path.reduce(child, element);
}

/** All elements below, in order; without recursion. */
export function* everyElement(root: XmlElement): Generator<XmlElement> {
  const stack = [root];
  while (stack.length > 0) {
    const element = stack.pop()!;
    yield element;
    for (let i = element.children.length - 1; i >= 0; i--) stack.push(element.children[i]);
  }
}

/** A number as it stands in a file: with a point, or with a comma as some exporters write it where that is the custom (`0,01`). */
export function numberOf(word: string): number {
  return Number(DECIMAL_COMMA.test(word) ? word.replace(',', '.') : word);
}

const DECIMAL_COMMA = /^[-+]?\d*,\d+(e[-+]?\d+)?$/i;

/** Whether an element's numbers are written with decimal commas, as its first ones tell. */
export function hasDecimalCommas(element: XmlElement): boolean {
  return element.text
    .slice(0, 2000)
    .split(/\s+/)
    .some((word) => DECIMAL_COMMA.test(word));
}

/** The numbers of an element's text, by white space. */
export function numbersOf(element: XmlElement | undefined): Float64Array {
  const words = element?.text.trim() ?? '';
  return words === '' ? new Float64Array(0) : Float64Array.from(words.split(/\s+/), numberOf);
}
