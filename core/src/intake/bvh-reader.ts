import { strFromU8 } from 'fflate';
import {
  emptyKit,
  newId,
  newPart,
  putArray,
  type Axis,
  type Blobs,
  type Clip,
  type Id,
  type Kit,
  type Quat,
  type ReadingNote,
  type SampleTrack,
  type Vec3,
  cutText,
} from '../document';
import { multiplyQuats, quatFromTurn } from '../geometry';
import { describeSource } from './describe-source';
import { invalid, truncated } from './intake-error';

const CHANNEL = /^([XYZ])(position|rotation)$/i;
const MAX_JOINTS = 2000;
const MAX_VALUES = 60_000_000;
/** Share of its height that a skeleton is below the origin to be taken to hang there. */
const HANGS = 0.2;

interface Joint {
  part: Id;
  channels: { axis: Axis; turns: boolean }[];
}

/** Whether bytes begin as BVH does. */
export function looksLikeBvh(bytes: Uint8Array): boolean {
  return /^\s*HIERARCHY\b/i.test(strFromU8(bytes.subarray(0, 200), true));
}

/**
 * Reads BVH: the skeleton as parts without meshes, the motion as one clip. A joint stands at its offset plus what its
 * position channels say, turned by its rotation channels in their order (Meredith & Maddock, “Motion Capture File Formats
 * Explained”, 2001).
 *
 * @throws {IntakeError} where it is cut short or does not hold together
 */
export function readBvh(bytes: Uint8Array, fileName: string, blobs: Blobs): Kit {
  const kit = emptyKit(cutText(fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
  const notes: ReadingNote[] = [];
  const words = new Words(strFromU8(bytes), fileName);
  const joints = readHierarchy(words, kit, fileName);
  readMotion(words, joints, kit, fileName, bytes.length, blobs, notes);
  describeSource(kit, { fileName, format: 'bvh', bytes, generator: null, notes }, blobs);
  return kit;
}

class Words {
  private readonly pattern = /\S+/g;
  private held: string | null = null;

  constructor(
    private readonly text: string,
    private readonly fileName: string,
  ) {}

  peek(): string | null {
    this.held ??= this.pattern.exec(this.text)?.[0] ?? null;
    return this.held;
  }

  next(): string {
    const word = this.peek();
    if (word === null) throw truncated(this.fileName, this.text.length, this.text.length + 1);
    this.held = null;
    return word;
  }

  expect(word: string): void {
    const found = this.next();
    if (found.toLowerCase() !== word.toLowerCase())
      throw invalid(this.fileName, this.line(), `“${word}” belongs where “${found.slice(0, 40)}” stands`);
  }

  number(): number {
    const word = this.next();
    const value = Number(word);
    if (!Number.isFinite(value)) throw invalid(this.fileName, this.line(), `“${word.slice(0, 40)}” is not a number`);
    return value;
  }

  /** The rest of the line. */
  name(): string {
    const end = this.text.indexOf('\n', this.pattern.lastIndex);
    const rest = this.text.slice(this.pattern.lastIndex, end < 0 ? undefined : end).trim();
    this.pattern.lastIndex = end < 0 ? this.text.length : end;
    return rest.replace(/\s*\{$/, (brace) => {
      this.held = brace.trim();
      return '';
    });
  }

  line(): string {
    return `line ${this.text.slice(0, this.pattern.lastIndex).split('\n').length}`;
  }
}

function readHierarchy(words: Words, kit: Kit, fileName: string): Joint[] {
  const joints: Joint[] = [];
  const stack: Id[] = [];
  const offset = (): Vec3 => [words.number(), words.number(), words.number()];
  const addPart = (name: string, role: 'joint' | 'marker'): Id => {
    const parent = stack.at(-1) ?? null;
    const from = parent === null ? name : `${kit.parts[parent].from}/${name}`;
    const part = newPart({ name: cutText(name, 200), from: from.slice(-4000), parent, order: Object.keys(kit.parts).length, role });
    kit.parts[part.id] = part;
    return part.id;
  };
  words.expect('HIERARCHY');
  for (;;) {
    const word = words.peek()?.toUpperCase();
    if (word === 'MOTION') break;
    if (word === 'ROOT' || word === 'JOINT') {
      words.next();
      if ((word === 'ROOT') !== (stack.length === 0))
        throw invalid(fileName, words.line(), `a ${word} stands ${stack.length === 0 ? 'outside of' : 'inside'} another joint`);
      if (joints.length >= MAX_JOINTS) throw invalid(fileName, words.line(), `it has more than ${MAX_JOINTS.toLocaleString('en')} joints`);
      const part = addPart(words.name() || `joint_${joints.length + 1}`, 'joint');
      joints.push({ part, channels: [] });
      words.expect('{');
      stack.push(part);
    } else if (word === 'END') {
      words.next();
      words.expect('Site');
      words.expect('{');
      if (stack.length === 0) throw invalid(fileName, words.line(), 'an End Site stands outside of a joint');
      const tip = addPart(`${kit.parts[stack.at(-1)!].name}_tip`, 'marker');
      words.expect('OFFSET');
      kit.parts[tip].translation = offset();
      words.expect('}');
    } else if (word === 'OFFSET' && stack.length > 0) {
      words.next();
      kit.parts[stack.at(-1)!].translation = offset();
    } else if (word === 'CHANNELS' && stack.length > 0) {
      words.next();
      const joint = joints.find((one) => one.part === stack.at(-1))!;
      const count = words.number();
      if (!Number.isInteger(count) || count < 0 || count > 12) throw invalid(fileName, words.line(), `a joint has ${count} channels`);
      joint.channels = Array.from({ length: count }, () => {
        const name = words.next();
        const match = CHANNEL.exec(name);
        if (!match) throw invalid(fileName, words.line(), `“${name.slice(0, 40)}” is no channel`);
        return { axis: 'XYZ'.indexOf(match[1].toUpperCase()) as Axis, turns: match[2].toLowerCase() === 'rotation' };
      });
    } else if (word === '}' && stack.length > 0) {
      words.next();
      stack.pop();
    } else throw invalid(fileName, words.line(), `“${words.next().slice(0, 40)}” has no place in a hierarchy`);
  }
  if (stack.length > 0) throw invalid(fileName, words.line(), `the joint “${kit.parts[stack.at(-1)!].name}” is not closed`);
  if (joints.length === 0) throw invalid(fileName, words.line(), 'it has no joints');
  return joints;
}

/**
 * Many files leave the root at the origin and say where it is by its channels alone, so that at rest everything hangs below the ground.
 * Rest is raised until its lowest point stands there, and the root's moves count from that: nothing moves otherwise. Returns by how much.
 *
 * @param moves The root's, 3 a frame; changed in place.
 */
function standUp(kit: Kit, root: Id, moves: Float32Array | null): number {
  if (!moves) return 0;
  const heights = new Map<Id, number>();
  for (const part of Object.values(kit.parts))
    heights.set(part.id, part.translation[1] + (part.parent === null ? 0 : heights.get(part.parent)!));
  const [low, high] = [Math.min(...heights.values()), Math.max(...heights.values())];
  if (low > -HANGS * (high - low)) return 0;
  const [x, y, z] = kit.parts[root].translation;
  kit.parts[root].translation = [x, y - low, z];
  for (let i = 1; i < moves.length; i += 3) moves[i] += low;
  return -low;
}

const ROTATE: readonly ((degrees: number) => Quat)[] = [
  (d) => quatFromTurn([d, 0, 0], 'xyz'),
  (d) => quatFromTurn([0, d, 0], 'xyz'),
  (d) => quatFromTurn([0, 0, d], 'xyz'),
];

function readMotion(words: Words, joints: Joint[], kit: Kit, fileName: string, size: number, blobs: Blobs, notes: ReadingNote[]): void {
  words.expect('MOTION');
  words.expect('Frames:');
  const frames = words.number();
  words.expect('Frame');
  words.expect('Time:');
  const seconds = words.number();
  const width = joints.reduce((sum, joint) => sum + joint.channels.length, 0);
  if (!Number.isInteger(frames) || frames < 0) throw invalid(fileName, 'MOTION', `it announces ${frames} frames`);
  // Every value takes two characters at least.
  if (frames * width * 2 > size || frames * width > MAX_VALUES) throw truncated(fileName, size, frames * width * 2);
  if (frames === 0 || width === 0) return;
  if (!(seconds > 0)) throw invalid(fileName, 'Frame Time', `it is ${seconds} s`);
  const moving = joints.map((joint) => ({
    joint,
    offsets: joint.channels.some((channel) => !channel.turns) ? new Float32Array(3 * frames) : null,
    turns: joint.channels.some((channel) => channel.turns) ? new Float32Array(4 * frames) : null,
  }));
  for (let frame = 0; frame < frames; frame++) {
    for (const { joint, offsets, turns } of moving) {
      let turn: Quat = [0, 0, 0, 1];
      for (const { axis, turns: isTurn } of joint.channels) {
        const value = words.number();
        if (isTurn) turn = multiplyQuats(turn, ROTATE[axis](value));
        else offsets![3 * frame + axis] = value;
      }
      turns?.set(turn, 4 * frame);
    }
  }
  const lift = standUp(kit, joints[0].part, moving[0].offsets);
  if (lift > 0)
    notes.push({
      grade: 'note',
      code: 'stood-up',
      message: `At rest the skeleton hung below the origin; it stands on the ground now. Its motion is where it was.`,
      part: joints[0].part,
    });
  if (words.peek() !== null)
    notes.push({
      grade: 'warn',
      code: 'more-motion',
      message: `Left out: what follows the ${frames} frames that it announces.`,
      part: null,
    });
  const times = putArray(
    blobs,
    Float32Array.from({ length: frames }, (_, i) => i * seconds),
    1,
  );
  const track = (part: Id, property: 'offset' | 'rotation', values: Float32Array): SampleTrack => ({
    kind: 'samples',
    id: newId(),
    part,
    property,
    interpolation: 'straight',
    times,
    values: putArray(blobs, values, property === 'rotation' ? 4 : 3),
  });
  const tracks = moving.flatMap(({ joint, offsets, turns }) => [
    ...(offsets ? [track(joint.part, 'offset', offsets)] : []),
    ...(turns ? [track(joint.part, 'rotation', turns)] : []),
  ]);
  const rate = Math.min(240, Math.max(1, Number((1 / seconds).toFixed(3))));
  const clip: Clip = {
    id: newId(),
    name: kit.name,
    order: 0,
    lengthSeconds: Math.min(3600, Math.max((frames - 1) * seconds, seconds)),
    rate,
    loop: 'once',
    tracks,
  };
  kit.clips[clip.id] = clip;
}
