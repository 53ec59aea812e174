import { KitError } from '../document';

export { ShearError } from '../geometry';

/** A deformed part follows its joints and has no place of its own. */
export class SkinnedPartError extends KitError {
  constructor(name: string) {
    super('skinned-part', `“${name}” is deformed by joints, so its own pivot has no meaning. Move the pivots of its joints.`, name);
  }
}

/** A part can't hang below itself. */
export class OwnBranchError extends KitError {
  constructor(name: string) {
    super('own-branch', `“${name}” can't hang below itself or one of its own children. Drop it on a part outside its branch.`, name);
  }
}
