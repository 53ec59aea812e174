import { callOf, type Blobs, type Call, type Easing, type Id, type Kit, type KeyProperty, type Vec3 } from '@itchkit/core/document';
import { invertMatrix, restWorlds, transformPoint } from '@itchkit/core/geometry';
import { movePivot } from '@itchkit/core/shape';
import { setKeys } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';

/** Works on a kit through the operations, as a person does through the interface. */
export class Hands {
  constructor(
    public kit: Kit,
    readonly blobs: Blobs,
  ) {}

  do(call: Call): void {
    this.kit = runCall(this.kit, call, this.blobs).kit;
  }

  part(name: string): Id {
    const found = Object.values(this.kit.parts).find((part) => part.name === name);
    if (!found) throw new Error(`The demo has no part ${name}`);
    return found.id;
  }

  clip(name: string): Id {
    return Object.values(this.kit.clips).find((clip) => clip.name === name)!.id;
  }

  /** Puts a pivot at a point of the world, metres. */
  pivotAt(name: string, world: readonly number[]): void {
    const part = this.part(name);
    const inverse = invertMatrix(restWorlds(this.kit).get(part)!)!;
    const to = transformPoint(inverse, world).map((value) => Number(value.toFixed(6)) + 0) as Vec3;
    this.do(callOf(movePivot, { part, to }));
  }

  keys(clip: string, part: string, property: KeyProperty, axis: 0 | 1 | 2, keys: [time: number, value: number, easing: Easing][]): void {
    for (const [time, value, easing] of keys)
      this.do(callOf(setKeys, { clip: this.clip(clip), time, easing, values: [{ part: this.part(part), property, axis, value }] }));
  }
}
