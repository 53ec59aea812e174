import type { Vec3 } from '../../document';

/** A tip of the body, found as a geodesic extreme and told apart by where it stands. */
export interface TemplateEnd {
  id: string;
  /** −1 to 1 to the side, 0 to 1 up, −1 to 1 forward, of the bounds. With `paired`, that of the left one. */
  place: Vec3;
  /** Whether there is one on either side. */
  paired?: boolean;
}

/** A way through the middle of the solid that joints stand on. */
export interface TemplateLine {
  id: string;
  /** An end; or another line, from whose nearest point this one sets out; or `seat`: where the trunk rests, between the legs. */
  from: { end: string } | { line: string } | 'seat';
  to: string;
  /** Whether there is one on either side: that of a paired end. */
  paired?: boolean;
}

export interface TemplateJoint {
  /** In words joined by _, without a side. */
  name: string;
  /** The joint above; of the same side, where that has one. */
  parent: string | null;
  /** Which line it stands on, and at which share of it, 0 to 1; or the ground below the body's middle. */
  on: { line: string; share: number } | 'ground';
  /** Moves to where the body is thinnest nearby: wrists, necks. */
  narrow?: boolean;
  /** Where a last joint ends on its line, as a share. */
  tail?: number;
}

/** A skeleton to be fitted to a body: data. Paired lines give joints on either side. */
export interface SkeletonTemplate {
  id: string;
  title: string;
  about: string;
  ends: TemplateEnd[];
  lines: TemplateLine[];
  joints: TemplateJoint[];
}
