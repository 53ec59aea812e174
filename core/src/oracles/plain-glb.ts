/** A GLB written number by number (glTF 2.0, 4.4), as any other program might have written it: nothing of ours has a hand in it. */
export class PlainGlb {
  private readonly chunks: Uint8Array[] = [];
  private bytes = 0;
  private readonly views: object[] = [];
  private readonly accessors: object[] = [];
  private readonly meshes: object[] = [];
  private readonly nodes: PlainNode[] = [];
  private readonly animations: object[] = [];
  private readonly skins: object[] = [];

  /** Rows of so many floats, or whole numbers of a single row. @returns the accessor's number */
  accessor(rows: readonly (readonly number[])[], whole = false): number {
    const width = rows[0].length as 1 | 2 | 3 | 4 | 16;
    const array = whole ? Uint16Array.from(rows.flat()) : Float32Array.from(rows.flat());
    const padded = new Uint8Array(4 * Math.ceil(array.byteLength / 4));
    padded.set(new Uint8Array(array.buffer));
    this.views.push({ buffer: 0, byteOffset: this.bytes, byteLength: array.byteLength });
    this.chunks.push(padded);
    this.bytes += padded.length;
    const each = (of: (...values: number[]) => number) =>
      Array.from({ length: width }, (_, c) => of(...rows.map((row) => Math.fround(row[c]))));
    this.accessors.push({
      bufferView: this.views.length - 1,
      componentType: whole ? 5123 : 5126,
      count: rows.length,
      type: { 1: 'SCALAR', 2: 'VEC2', 3: 'VEC3', 4: 'VEC4', 16: 'MAT4' }[width],
      min: each(Math.min),
      max: each(Math.max),
    });
    return this.accessors.length - 1;
  }

  /** A box of a size about a middle, each side with its own corners. @returns the mesh's number */
  box(name: string, size: readonly number[], middle: readonly number[] = [0, 0, 0]): number {
    return this.boxes(name, [{ size, middle }]);
  }

  /** Boxes as one mesh; each is held by a joint where that is said, all of them or none. @returns the mesh's number */
  boxes(name: string, boxes: readonly PlainBox[]): number {
    const [places, normals, uvs, corners]: number[][][] = [[], [], [], []];
    const held: number[][] = [];
    for (const [{ size, middle, joint }, axis] of boxes.flatMap((box) => [0, 1, 2].map((one) => [box, one] as const)))
      for (const side of [-1, 1]) {
        const first = places.length;
        const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
        for (const [a, b] of [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ]) {
          const at = [0, 0, 0];
          [at[axis], at[u], at[v]] = [side, a, b];
          places.push(at.map((value, c) => (value * size[c]) / 2 + middle[c]));
          normals.push([0, 1, 2].map((c) => (c === axis ? side : 0)));
          if (joint !== undefined) held.push([joint, 0, 0, 0]);
          uvs.push([((axis * 2 + (side + 1) / 2 + 0.45 * (a + 1)) % 6) / 6, (b + 1) / 2]);
        }
        for (const corner of side > 0 ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2]) corners.push([first + corner]);
      }
    const attributes = {
      POSITION: this.accessor(places),
      NORMAL: this.accessor(normals),
      TEXCOORD_0: this.accessor(uvs),
      ...(held.length > 0 && { JOINTS_0: this.accessor(held, true), WEIGHTS_0: this.accessor(held.map(() => [1, 0, 0, 0])) }),
    };
    this.meshes.push({ name, primitives: [{ attributes, indices: this.accessor(corners, true), material: 0 }] });
    return this.meshes.length - 1;
  }

  /** @returns the node's number */
  node(node: PlainNode): number {
    this.nodes.push(node);
    return this.nodes.length - 1;
  }

  animation(name: string, channels: readonly PlainChannel[]): void {
    const samplers = channels.map(({ times, rows, interpolation }) => ({
      input: this.accessor(times.map((time) => [time])),
      output: this.accessor(rows),
      interpolation,
    }));
    this.animations.push({ name, samplers, channels: channels.map(({ node, path }, sampler) => ({ sampler, target: { node, path } })) });
  }

  /** @param binds Inverse bind matrices, 16 numbers each @returns the skin's number */
  skin(name: string, joints: readonly number[], binds: readonly (readonly number[])[]): number {
    this.skins.push({ name, joints, inverseBindMatrices: this.accessor(binds) });
    return this.skins.length - 1;
  }

  /** @param roots Nodes of the scene */
  write(roots: readonly number[]): Uint8Array {
    const json = {
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: roots }],
      nodes: this.nodes,
      meshes: this.meshes,
      materials: [{ name: 'Paint' }],
      animations: this.animations,
      ...(this.skins.length > 0 && { skins: this.skins }),
      accessors: this.accessors,
      bufferViews: this.views,
      buffers: [{ byteLength: this.bytes }],
    };
    const text = new TextEncoder().encode(JSON.stringify(json));
    const length = 4 * Math.ceil(text.length / 4);
    const out = new Uint8Array(28 + length + this.bytes);
    const view = new DataView(out.buffer);
    [0x46546c67, 2, out.length, length, 0x4e4f534a].forEach((value, i) => view.setUint32(4 * i, value, true));
    out.fill(0x20, 20, 20 + length);
    out.set(text, 20);
    view.setUint32(20 + length, this.bytes, true);
    view.setUint32(24 + length, 0x004e4942, true);
    let at = 28 + length;
    for (const chunk of this.chunks) {
      out.set(chunk, at);
      at += chunk.length;
    }
    return out;
  }
}

/** A box of a mesh. */
export interface PlainBox {
  size: readonly number[];
  middle: readonly number[];
  /** The joint that holds it, by its place in the skin. */
  joint?: number;
}

/** A node as the file has it. */
export interface PlainNode {
  name: string;
  mesh?: number;
  skin?: number;
  translation?: readonly number[];
  rotation?: readonly number[];
  scale?: readonly number[];
  children?: readonly number[];
}

/** What an animation does to one property of a node. */
export interface PlainChannel {
  node: number;
  path: 'translation' | 'rotation' | 'scale';
  interpolation: 'LINEAR' | 'CUBICSPLINE';
  times: readonly number[];
  rows: readonly (readonly number[])[];
}

/** A quaternion about one of the axes. @param radians Right-handed */
export const plainTurn = (axis: 0 | 1 | 2, radians: number): number[] => {
  const turn = [0, 0, 0, Math.cos(radians / 2)];
  turn[axis] = Math.sin(radians / 2);
  return turn;
};
