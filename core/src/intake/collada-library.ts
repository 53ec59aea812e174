import { invalid } from './intake-error';
import { child, childrenNamed, everyElement, numbersOf, type XmlElement } from './xml-tree';

/** The elements of a COLLADA document by id, and its sources of numbers and names. */
export class ColladaLibrary {
  private readonly byId = new Map<string, XmlElement>();
  private readonly sources = new Map<XmlElement, { values: Float64Array; stride: number }>();

  constructor(
    readonly root: XmlElement,
    readonly fileName: string,
  ) {
    for (const element of everyElement(root))
      if (element.attributes.id && !this.byId.has(element.attributes.id)) this.byId.set(element.attributes.id, element);
  }

  /** The element that `#id` points at. @throws {IntakeError} where there is none of these names */
  find(url: string | undefined, ...names: string[]): XmlElement {
    const element = this.byId.get((url ?? '').replace(/^#/, ''));
    if (!element || !names.includes(element.name)) {
      if (url && !url.startsWith('#') && /[/:.]/.test(url))
        throw invalid(this.fileName, url.slice(0, 100), 'it points at something in another file');
      throw invalid(this.fileName, names[0], `it points at “${(url ?? '').slice(0, 100)}”, which is not there`);
    }
    return element;
  }

  maybe(url: string | undefined): XmlElement | undefined {
    return this.byId.get((url ?? '').replace(/^#/, ''));
  }

  /** Numbers of a `source`, and how many make a row. */
  numbers(url: string | undefined): { values: Float64Array; stride: number } {
    const source = this.find(url, 'source');
    let known = this.sources.get(source);
    if (!known) {
      const accessor = child(child(source, 'technique_common'), 'accessor');
      const stride = Number(accessor?.attributes.stride ?? 1);
      if (!Number.isInteger(stride) || stride < 1 || stride > 16)
        throw invalid(this.fileName, `source “${source.attributes.id}”`, `its stride is “${accessor?.attributes.stride}”`);
      known = { values: numbersOf(child(source, 'float_array') ?? child(source, 'int_array')), stride };
      this.sources.set(source, known);
    }
    return known;
  }

  /** Words of a `source` of names or ids. */
  words(url: string | undefined): string[] {
    const source = this.find(url, 'source');
    const text = (child(source, 'Name_array') ?? child(source, 'IDREF_array'))?.text.trim() ?? '';
    return text === '' ? [] : text.split(/\s+/);
  }

  /** Source of an input by its semantic. */
  static input(of: XmlElement | undefined, semantic: string): string | undefined {
    return childrenNamed(of, 'input').find((input) => input.attributes.semantic === semantic)?.attributes.source;
  }
}
