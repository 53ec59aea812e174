import { KitError, nameList } from '../document';

/** Parts without a mesh that could be held. */
export class NoSkinMeshError extends KitError {
  constructor(names: readonly string[]) {
    super(
      'no-skin-mesh',
      `${names.length === 0 ? 'No part is chosen' : `${nameList(names)} ${names.length === 1 ? 'has' : 'have'} no mesh`}, so there is nothing for joints to hold. Choose a part with a mesh.`,
      names[0] ?? '',
    );
  }
}

/** There is no joint that could hold. */
export class NoJointError extends KitError {
  constructor() {
    super('no-joint', 'There is no joint to be held by. Fit a skeleton, or give a part the role of a joint.', 'joints');
  }
}

/** A part that is no joint. */
export class NotAJointError extends KitError {
  constructor(name: string) {
    super('not-a-joint', `“${name}” is not a joint of any skin or skeleton. Choose a joint.`, name);
  }
}

/** A part that no joint holds yet. */
export class NothingHeldError extends KitError {
  constructor(name: string) {
    super('nothing-held', `No joint holds any of “${name}”, so there is nothing to go by. Solve its weights.`, name);
  }
}
