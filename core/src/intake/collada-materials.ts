import { newMaterial, type Blobs, type Id, type Kit, type Rgba, type TextureSlot, type Vec3, cutText } from '../document';
import type { Companions } from './companions';
import type { ColladaLibrary } from './collada-library';
import { readImage } from './image-in';
import type { Repairs } from './repairs';
import { at, child, childrenNamed, numbersOf, type XmlElement } from './xml-tree';

const SHADINGS = ['phong', 'blinn', 'lambert', 'constant'];
const REPEAT = 10497;

/** sRGB to linear (IEC 61966-2-1): COLLADA's colours are given as they look. */
const linear = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
const unit = (value: number) => (Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 0);

/** Reads materials as they are asked for, each once: the common profile's colours, textures, shine and transparency. */
export class ColladaMaterials {
  private readonly made = new Map<XmlElement, Id>();
  private readonly images = new Map<XmlElement, Id | null>();

  constructor(
    private readonly library: ColladaLibrary,
    private readonly kit: Kit,
    private readonly blobs: Blobs,
    private readonly beside: Companions,
    private readonly repairs: Repairs,
  ) {}

  take(url: string | undefined): Id | null {
    const material = this.library.maybe(url);
    if (material?.name !== 'material') return null;
    const known = this.made.get(material);
    if (known) return known;
    const effect = this.library.maybe(child(material, 'instance_effect')?.attributes.url);
    const profile = child(effect, 'profile_COMMON');
    const technique = child(profile, 'technique');
    const shading = technique?.children.find((one) => SHADINGS.includes(one.name));
    const result = newMaterial({ name: cutText(material.attributes.name ?? material.attributes.id ?? 'material', 200) });
    if (shading) this.fill(result, shading, profile);
    if (
      at(profile, 'extra', 'technique', 'double_sided')?.text.trim() === '1' ||
      at(technique, 'extra', 'technique', 'double_sided')?.text.trim() === '1'
    )
      result.doubleSided = true;
    const bump = at(technique, 'extra', 'technique', 'bump', 'texture');
    if (bump) result.normalTexture = this.slot(bump, profile);
    this.kit.materials[result.id] = result;
    this.made.set(material, result.id);
    return result.id;
  }

  private fill(result: Kit['materials'][Id], shading: XmlElement, profile: XmlElement | undefined): void {
    const base = shading.name === 'constant' ? 'emission' : 'diffuse';
    const colour = this.colour(child(shading, base));
    if (colour) result.baseColor = [...colour, 1] as Rgba;
    const texture = child(child(shading, base), 'texture');
    result.baseColorTexture = this.slot(texture, profile);
    // A texture stands in for the colour, it is not tinted by one.
    if (texture) result.baseColor = [1, 1, 1, 1];
    if (shading.name !== 'constant') {
      const glow = this.colour(child(shading, 'emission'));
      if (glow) result.emissive = glow;
      const glowing = child(child(shading, 'emission'), 'texture');
      result.emissiveTexture = this.slot(glowing, profile);
      if (result.emissiveTexture) result.emissive = [1, 1, 1];
    }
    const shine = numbersOf(at(shading, 'shininess', 'float'))[0];
    // Blinn and Phong exponents as roughness: √(2 / (n + 2)) (Walter et al. 2007).
    if (shine > 0) result.roughness = unit(Math.sqrt(2 / ((shine <= 1 ? shine * 128 : shine) + 2)));
    const alpha = this.opacity(shading);
    if (alpha < 1) {
      result.baseColor[3] = alpha;
      result.alphaMode = 'BLEND';
    }
  }

  /** Opacity by the modes of COLLADA 1.4.1 and 1.5, 7-5 “Determining transparency”. Files that say 0 for everything mean 1. */
  private opacity(shading: XmlElement): number {
    const transparent = child(shading, 'transparent');
    const amount = numbersOf(at(shading, 'transparency', 'float'))[0] ?? 1;
    if (!transparent && amount === 1) return 1;
    const [r = 1, g = 1, b = 1, a = 1] = numbersOf(child(transparent, 'color'));
    const luminance = 0.212671 * r + 0.71516 * g + 0.072169 * b;
    const shares: Record<string, number> = { A_ONE: a, A_ZERO: a, RGB_ONE: luminance, RGB_ZERO: luminance };
    const mode = transparent?.attributes.opaque ?? 'A_ONE';
    const share = amount * (shares[mode] ?? a);
    const alpha = unit(mode.endsWith('ZERO') ? 1 - share : share);
    return alpha === 0 ? 1 : alpha;
  }

  private colour(element: XmlElement | undefined): Vec3 | null {
    const values = numbersOf(child(element, 'color'));
    return values.length >= 3 ? [linear(unit(values[0])), linear(unit(values[1])), linear(unit(values[2]))] : null;
  }

  /** A `texture` names a sampler, that a surface, that an image; some writers name the image at once. */
  private slot(texture: XmlElement | undefined, profile: XmlElement | undefined): TextureSlot | null {
    if (!texture) return null;
    const param = (sid: string | undefined) => childrenNamed(profile, 'newparam').find((one) => one.attributes.sid === sid);
    const sampler = child(param(texture.attributes.texture), 'sampler2D');
    const surface = child(param(child(sampler, 'source')?.text.trim()), 'surface');
    const name = child(surface, 'init_from')?.text.trim() ?? child(sampler, 'instance_image')?.attributes.url ?? texture.attributes.texture;
    const element = this.library.maybe(name);
    if (element?.name !== 'image') {
      this.repairs.leftOut('missing-file', `the texture “${(name ?? '').slice(0, 100)}”, which the file does not describe`);
      return null;
    }
    if (!this.images.has(element)) this.images.set(element, this.image(element));
    const image = this.images.get(element)!;
    return image === null ? null : { image, texCoord: 0, wrapS: REPEAT, wrapT: REPEAT };
  }

  private image(element: XmlElement): Id | null {
    const init = child(element, 'init_from');
    const uri = (init?.text.trim() || child(init, 'ref')?.text.trim() || '').replace(/^file:\/*/, '');
    const path = decode(uri);
    const data = this.beside(path) ?? this.beside(path.replace(/^.*[/\\]/, ''));
    const name = path.replace(/^.*[/\\]/, '').replace(/\.[^.]*$/, '') || (element.attributes.name ?? 'image');
    const made = data && readImage(name, data, this.library.fileName, this.blobs);
    if (!made) {
      this.repairs.leftOut(
        data ? 'image-unreadable' : 'missing-file',
        `the picture “${cutText(path, 200)}”, which is ${data ? 'no PNG, JPEG or WebP' : 'not with the model'}`,
      );
      return null;
    }
    this.kit.images[made.id] = made;
    return made.id;
  }
}

function decode(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
