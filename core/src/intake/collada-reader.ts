import { strFromU8 } from 'fflate';
import { emptyKit, newId, newPart, putArray, type Blobs, type Id, type Kit, type ReadingNote, type Space, cutText } from '../document';
import { CANONICAL, changeOfSpace, conformKit, decomposeMatrix } from '../geometry';
import { readColladaAnimations, type AnimatedNode } from './collada-animation';
import { readColladaGeometry, type ColladaMesh } from './collada-geometry';
import { ColladaLibrary } from './collada-library';
import { ColladaMaterials } from './collada-materials';
import { readColladaSkin, weighMesh } from './collada-skin';
import { isWhole, matrixOf, stepsOf } from './collada-transform';
import { ALONE, type Companions } from './companions';
import { describeSource } from './describe-source';
import { invalid } from './intake-error';
import { addLoosePart } from './loose-mesh';
import { MAX_PARTS, moreThanMost } from './part-limit';
import { Repairs } from './repairs';
import { at, child, childrenNamed, everyElement, hasDecimalCommas, numberOf, parseXml, type XmlElement } from './xml-tree';

const AXES: Record<string, Pick<Space, 'up' | 'forward'>> = {
  X_UP: { up: '+x', forward: '+z' },
  Y_UP: { up: '+y', forward: '+z' },
  Z_UP: { up: '+z', forward: '-y' },
};

/** Whether a COLLADA element stands among the first 4,096 bytes. */
export function looksLikeCollada(bytes: Uint8Array): boolean {
  return /<([\w-]+:)?COLLADA[\s>]/.test(strFromU8(bytes.subarray(0, 4096), true));
}

/**
 * Reads COLLADA 1.4 and 1.5: nodes, meshes, the common profile's materials, skins, animations. Unit and up axis are stated
 * in it, and the kit is conformed by them.
 *
 * @throws {IntakeError} where it is refused
 */
export function readCollada(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions = ALONE): Kit {
  // A look before anything is built: every node begins so.
  let nodes = 0;
  for (const _ of strFromU8(bytes).matchAll(/<(?:[\w-]+:)?node[\s/>]/g)) if (++nodes > MAX_PARTS) throw moreThanMost(fileName);
  const root = parseXml(bytes, fileName);
  if (root.name !== 'COLLADA') throw invalid(fileName, 'its first element', `it is “${root.name}”, not COLLADA`);
  return new ColladaBuilder(new ColladaLibrary(root, fileName), blobs, beside).build(bytes);
}

class ColladaBuilder {
  private readonly kit: Kit;
  private readonly repairs = new Repairs();
  private readonly notes: ReadingNote[] = [];
  private readonly materials: ColladaMaterials;
  /** By id of the node and by sid. */
  private readonly animated = new Map<string, AnimatedNode>();
  private readonly partOfSid = new Map<string, Id>();
  private readonly skins: { part: Id; controller: XmlElement; joints: string[]; matrices: Float32Array }[] = [];

  constructor(
    private readonly library: ColladaLibrary,
    private readonly blobs: Blobs,
    beside: Companions,
  ) {
    this.kit = emptyKit(cutText(library.fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
    this.materials = new ColladaMaterials(library, this.kit, blobs, beside, this.repairs);
  }

  build(bytes: Uint8Array): Kit {
    const { kit, library } = this;
    const scene = at(library.root, 'scene', 'instance_visual_scene');
    const visual = scene
      ? library.find(scene.attributes.url, 'visual_scene')
      : [...everyElement(library.root)].find((one) => one.name === 'visual_scene');
    if (!visual) throw invalid(library.fileName, 'scene', 'it has no scene');
    this.takeNodes(childrenNamed(visual, 'node'));
    this.bindSkins();
    readColladaAnimations(library, this.animated, kit, this.blobs, this.repairs);
    this.notes.push(...this.repairs.notes());
    if ([...everyElement(library.root)].some(({ name, ...element }) => name === 'float_array' && hasDecimalCommas({ name, ...element })))
      this.notes.push({
        grade: 'note',
        code: 'decimal-commas',
        message: 'The file writes its numbers with decimal commas (0,01); they were read as such.',
        part: null,
      });
    const space = this.statedSpace();
    const tool = at(library.root, 'asset', 'contributor', 'authoring_tool')?.text.trim() || null;
    conformKit(kit, changeOfSpace(space, CANONICAL), this.blobs);
    describeSource(kit, { fileName: library.fileName, format: 'dae', bytes, generator: tool, notes: this.notes }, this.blobs);
    kit.source!.space = space;
    return kit;
  }

  private statedSpace(): Space {
    const asset = child(this.library.root, 'asset');
    const meter = numberOf(child(asset, 'unit')?.attributes.meter ?? '1');
    const metresPerUnit = meter > 0 && Number.isFinite(meter) ? meter : 1;
    const up = child(asset, 'up_axis')?.text.trim() ?? 'Y_UP';
    const axes = AXES[up] ?? AXES.Y_UP;
    this.notes.push({
      grade: 'note',
      code: 'space-stated',
      message: `The file says: one unit is ${metresPerUnit} m, ${axes.up} is up.`,
      part: null,
    });
    return { metresPerUnit, ...axes, handedness: 'right' };
  }

  private takeNodes(roots: XmlElement[]): void {
    const stack = roots
      .map((node, order) => ({ node, parent: null as Id | null, order, path: '', within: new Set<XmlElement>() }))
      .reverse();
    while (stack.length > 0) {
      const { node, parent, order, path, within } = stack.pop()!;
      const { fileName } = this.library;
      if (Object.keys(this.kit.parts).length >= MAX_PARTS) throw moreThanMost(fileName);
      if (within.has(node)) throw invalid(fileName, `node “${node.attributes.id ?? ''}”`, 'its nodes hang in a circle');
      const { id, from } = this.takeNode(node, parent, order, path);
      const inside = new Set(within).add(node);
      const below = node.children.flatMap((one) => {
        if (one.name === 'node') return [one];
        return one.name === 'instance_node' ? [this.library.find(one.attributes.url, 'node')] : [];
      });
      for (let i = below.length - 1; i >= 0; i--) stack.push({ node: below[i], parent: id, order: i, path: `${from}/`, within: inside });
    }
  }

  private takeNode(node: XmlElement, parent: Id | null, order: number, path: string): { id: Id; from: string } {
    const { attributes } = node;
    const name = cutText(attributes.name ?? attributes.id ?? attributes.sid ?? `part_${Object.keys(this.kit.parts).length + 1}`, 200);
    const from = `${path}${name}`.slice(-4000);
    const all = stepsOf(node);
    const steps = all.filter(isWhole);
    if (steps.length < all.length)
      this.repairs.leftOut(
        'transform',
        `${all.length - steps.length} placements of “${name}” (look-at, skew, or numbers missing)`,
        'warn',
        name,
      );
    const { translation, rotation, scale, shear } = decomposeMatrix(matrixOf(steps));
    if (shear > 1e-4) this.repairs.leftOut('shear', `the shear in the placement of “${name}”`, 'warn', name);
    const part = newPart({ name, from, parent, order, translation, rotation, scale });
    this.kit.parts[part.id] = part;
    for (const key of [attributes.id, attributes.sid]) {
      if (!key) continue;
      if (!this.animated.has(key)) this.animated.set(key, { part: part.id, steps: all });
      if (!this.partOfSid.has(key)) this.partOfSid.set(key, part.id);
    }
    for (const other of childrenNamed(node, 'instance_camera'))
      this.repairs.leftOut('camera', `the camera on “${name}” (${other.attributes.url ?? ''})`, 'note', name);
    for (const other of childrenNamed(node, 'instance_light'))
      this.repairs.leftOut('light', `the light on “${name}” (${other.attributes.url ?? ''})`, 'note', name);
    const shown = childrenNamed(node, 'instance_geometry', 'instance_controller');
    shown.forEach((instance, i) => this.takeMesh(instance, part.id, i));
    return { id: part.id, from };
  }

  /** The first mesh is the part's own; more of them hang below it. */
  private takeMesh(instance: XmlElement, owner: Id, index: number): void {
    const { library, kit } = this;
    const controller = instance.name === 'instance_controller' ? library.find(instance.attributes.url, 'controller') : null;
    const skin = child(controller ?? undefined, 'skin');
    if (controller && !skin)
      this.repairs.leftOut('morph-targets', `the morph targets of “${controller.attributes.name ?? controller.attributes.id ?? ''}”`);
    const held = skin ?? (controller ? child(controller, 'morph') : undefined);
    const geometry = this.geometryOf(controller ? held?.attributes.source : instance.attributes.url);
    if (!geometry) return;
    const name = cutText(geometry.attributes.name ?? geometry.attributes.id ?? kit.parts[owner].name, 200);
    const meshes = readColladaGeometry(library, geometry, this.repairs);
    if (meshes.length === 0) return;
    const read = skin ? readColladaSkin(library, skin) : null;
    if (read) for (const mesh of meshes) weighMesh(mesh, read, name, this.repairs);
    this.bindMaterials(instance, meshes);
    const loose = meshes.map((one) => one.mesh);
    const own = kit.parts[owner];
    const extra = addLoosePart(kit, index === 0 ? name : `${own.name}_${index + 1}`, loose, this.blobs, this.notes, {
      parent: owner,
      from: `${own.from}/${name}`,
    });
    if (!extra) return;
    let target = extra;
    if (index === 0) {
      own.mesh = extra.mesh;
      delete kit.parts[extra.id];
      target = own;
    }
    if (read && skin)
      this.skins.push({
        part: target.id,
        controller: controller!,
        joints: read.joints,
        matrices: Float32Array.from(read.binds.flatMap((matrix) => [...matrix])),
      });
  }

  /** Follows a controller that stands on another one down to the geometry. */
  private geometryOf(url: string | undefined): XmlElement | null {
    let element = this.library.maybe(url);
    for (let steps = 0; element?.name === 'controller' && steps < 10; steps++) {
      this.repairs.leftOut('morph-targets', `the morph targets of “${element.attributes.name ?? element.attributes.id ?? ''}”`);
      element = this.library.maybe((child(element, 'morph') ?? child(element, 'skin'))?.attributes.source);
    }
    return element?.name === 'geometry' ? element : this.library.find(url, 'geometry');
  }

  private bindMaterials(instance: XmlElement, meshes: ColladaMesh[]): void {
    const bound = new Map(
      childrenNamed(at(instance, 'bind_material', 'technique_common'), 'instance_material').map((one) => [
        one.attributes.symbol,
        one.attributes.target,
      ]),
    );
    for (const { symbol, mesh } of meshes) mesh.material = symbol === null ? null : this.materials.take(bound.get(symbol) ?? symbol);
  }

  private bindSkins(): void {
    for (const { part, controller, joints, matrices } of this.skins) {
      const ids = joints.map((joint) => this.partOfSid.get(joint));
      const missing = joints.filter((_, i) => ids[i] === undefined);
      const name = controller.attributes.name ?? controller.attributes.id ?? '';
      if (missing.length > 0) {
        this.repairs.leftOut(
          'skin-joints',
          `the skin “${name}”, because its joints ${missing.slice(0, 3).join(', ')} are not in the scene`,
        );
        this.dropInfluences(part);
        continue;
      }
      const id = newId();
      this.kit.skins[id] = { id, name: cutText(name, 200), joints: ids as Id[], inverseBindMatrices: putArray(this.blobs, matrices, 16) };
      this.kit.parts[part].skin = id;
    }
  }

  private dropInfluences(part: Id): void {
    const mesh = this.kit.meshes[this.kit.parts[part].mesh!];
    for (const primitive of mesh.primitives)
      for (const semantic of Object.keys(primitive.attributes))
        if (/^(JOINTS|WEIGHTS)_/.test(semantic)) delete primitive.attributes[semantic];
  }
}
