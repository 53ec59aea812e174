import type { Id } from '../document';
import type { ColladaLibrary } from './collada-library';
import { IntakeError, invalid } from './intake-error';
import type { LooseMesh } from './loose-mesh';
import type { Repairs } from './repairs';
import { child, childrenNamed, numbersOf, type XmlElement } from './xml-tree';

/** Triangles of one material, and for each vertex the position of the source that it was made from. */
export interface ColladaMesh {
  symbol: string | null;
  mesh: LooseMesh;
  pointOf: number[];
}

interface Input {
  semantic: string;
  /** Of UVs: the first set or the second. */
  set?: number;
  offset: number;
  values: Float64Array;
  stride: number;
}

const POLYGONS = ['triangles', 'polylist', 'polygons', 'trifans', 'tristrips'];

/** The meshes of a `geometry` (COLLADA 1.4.1, chapter 5): polygons become fans, corners vertices of their own. */
export function readColladaGeometry(library: ColladaLibrary, geometry: XmlElement, repairs: Repairs): ColladaMesh[] {
  const name = geometry.attributes.name ?? geometry.attributes.id ?? 'geometry';
  const mesh = child(geometry, 'mesh');
  if (!mesh) {
    repairs.leftOut('free-form', `“${name}” is no mesh but a curve or surface`);
    return [];
  }
  for (const other of childrenNamed(mesh, 'lines', 'linestrips'))
    repairs.leftOut('points-or-lines', `${other.attributes.count ?? 'some'} lines of “${name}”`);
  const bySymbol = new Map<string | null, Collector>();
  for (const polygons of childrenNamed(mesh, ...POLYGONS)) {
    const symbol = polygons.attributes.material ?? null;
    const inputs = inputsOf(library, polygons);
    let collector = bySymbol.get(symbol);
    if (!collector) bySymbol.set(symbol, (collector = new Collector(symbol, library.fileName, name)));
    for (const face of facesOf(polygons, library.fileName, name, cornerWidth(polygons))) collector.addFace(face, inputs);
  }
  return [...bySymbol.values()].map((one) => one.done()).filter((one) => one.mesh.indices.length > 0);
}

/** Numbers a corner takes, those of inputs that are not read too. */
function cornerWidth(polygons: XmlElement): number {
  return 1 + Math.max(0, ...childrenNamed(polygons, 'input').map((input) => Number(input.attributes.offset ?? 0)));
}

/** UV sets that are read: the first two, as they are numbered. */
const UV_SETS = 2;

function inputsOf(library: ColladaLibrary, polygons: XmlElement): Input[] {
  const uvSets = childrenNamed(polygons, 'input')
    .filter(({ attributes }) => attributes.semantic === 'TEXCOORD')
    .sort((a, b) => Number(a.attributes.set ?? 0) - Number(b.attributes.set ?? 0));
  let normals = false;
  return childrenNamed(polygons, 'input').flatMap((input): Input[] => {
    const { semantic = '', source } = input.attributes;
    const offset = Number(input.attributes.offset ?? 0);
    if (!Number.isInteger(offset) || offset < 0 || offset > 63)
      throw invalid(library.fileName, `input ${semantic}`, `its offset is “${input.attributes.offset}”`);
    if (semantic === 'VERTEX') {
      const vertices = library.find(source, 'vertices');
      return childrenNamed(vertices, 'input').flatMap((own) =>
        ['POSITION', 'NORMAL', 'TEXCOORD'].includes(own.attributes.semantic)
          ? [{ semantic: own.attributes.semantic, offset, ...library.numbers(own.attributes.source) }]
          : [],
      );
    }
    if (semantic === 'TEXCOORD') {
      const set = uvSets.indexOf(input);
      return set < UV_SETS ? [{ semantic, set, offset, ...library.numbers(source) }] : [];
    }
    // A second list of normals would overwrite the first.
    if (semantic !== 'NORMAL' || normals) return [];
    normals = true;
    return [{ semantic, offset, ...library.numbers(source) }];
  });
}

/** Corner after corner the indices of one face, `width` numbers each. */
function* facesOf(polygons: XmlElement, fileName: string, name: string, width: number): Generator<Float64Array[]> {
  const corners = (numbers: Float64Array): Float64Array[] => {
    if (numbers.length % width !== 0) throw invalid(fileName, `geometry “${name}”`, `its indices do not come in groups of ${width}`);
    return Array.from({ length: numbers.length / width }, (_, i) => numbers.subarray(i * width, (i + 1) * width));
  };
  const lists = childrenNamed(polygons, 'p').map((p) => corners(numbersOf(p)));
  switch (polygons.name) {
    case 'triangles':
      for (const list of lists) for (let i = 0; i + 2 < list.length; i += 3) yield list.slice(i, i + 3);
      return;
    case 'polylist': {
      const [list = []] = lists;
      let start = 0;
      for (const count of numbersOf(child(polygons, 'vcount'))) {
        if (!Number.isInteger(count) || count < 0 || start + count > list.length)
          throw invalid(fileName, `geometry “${name}”`, 'its polygons need more corners than there are');
        yield list.slice(start, start + count);
        start += count;
      }
      return;
    }
    case 'tristrips':
      for (const list of lists)
        for (let i = 0; i + 2 < list.length; i++)
          yield i % 2 === 0 ? [list[i], list[i + 1], list[i + 2]] : [list[i + 1], list[i], list[i + 2]];
      return;
    default:
      yield* lists;
  }
}

class Collector {
  private readonly mesh: LooseMesh = { material: null as Id | null, positions: [], normals: [], uvs: [], indices: [] };
  private readonly pointOf: number[] = [];
  private readonly rows = new Map<string, number>();
  private readonly uvs: number[][] = Array.from({ length: UV_SETS }, () => []);
  private normals = true;

  constructor(
    private readonly symbol: string | null,
    private readonly fileName: string,
    private readonly name: string,
  ) {}

  addFace(face: Float64Array[], inputs: Input[]): void {
    const rows = face.map((corner) => this.row(corner, inputs));
    for (let i = 1; i + 1 < rows.length; i++) this.mesh.indices.push(rows[0], rows[i], rows[i + 1]);
  }

  private row(corner: Float64Array, inputs: Input[]): number {
    const key = corner.join('/');
    let row = this.rows.get(key);
    if (row !== undefined) return row;
    row = this.pointOf.length;
    this.rows.set(key, row);
    let normal = [0, 0, 0];
    const uvs: (number[] | undefined)[] = [];
    let point = -1;
    for (const { semantic, set = 0, offset, values, stride } of inputs) {
      const index = corner[offset];
      if (!Number.isInteger(index) || index < 0 || (index + 1) * stride > values.length)
        throw new IntakeError(
          'index-range',
          `“${this.fileName}” points at entry ${index} of ${semantic} in “${this.name}”, which is not there. Export it again.`,
          `geometry “${this.name}”`,
        );
      const row = values.subarray(index * stride, index * stride + stride);
      if (semantic === 'POSITION') {
        if (stride < 3) throw invalid(this.fileName, `geometry “${this.name}”`, 'its positions have fewer than three numbers');
        point = index;
        this.mesh.positions.push(row[0], row[1], row[2]);
      } else if (semantic === 'NORMAL' && stride >= 3) normal = [row[0], row[1], row[2]];
      // COLLADA counts v from the bottom, glTF from the top.
      else if (semantic === 'TEXCOORD' && stride >= 2) uvs[set] = [row[0], 1 - row[1]];
    }
    if (point < 0) throw invalid(this.fileName, `geometry “${this.name}”`, 'its polygons have no positions');
    this.pointOf.push(point);
    const length = Math.hypot(...normal);
    if (!(length > 0) || !Number.isFinite(length)) this.normals = false;
    this.mesh.normals.push(...normal.map((value) => value / (length || 1)));
    uvs.forEach((uv, set) => {
      if (!uv) return;
      const list = this.uvs[set];
      while (list.length < 2 * row!) list.push(0, 0);
      list.push(...uv.map((value) => (Number.isFinite(value) ? value : 0)));
    });
    return row;
  }

  done(): ColladaMesh {
    const { mesh } = this;
    for (const list of this.uvs) if (list.length > 0) while (list.length < 2 * this.pointOf.length) list.push(0, 0);
    const [uvs, uvs1] = this.uvs;
    const own = { ...mesh, uvs, ...(uvs1.length > 0 ? { uvs1 } : {}), normals: this.normals ? mesh.normals : [] };
    return { symbol: this.symbol, mesh: own, pointOf: this.pointOf };
  }
}
