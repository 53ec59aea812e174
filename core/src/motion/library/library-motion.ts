import type { LoopMode, Vec3 } from '../../document';
import type { SidedRole } from './motion-role';

/** Where a foot is, and how it lies. */
export interface FootPose {
  /** From where it stands at rest, in heights of the hips: to the side, up, forward. */
  at: Vec3;
  /** Whether it stands on the ground and stays. */
  planted: boolean;
  /** Toes up, degrees. */
  pitch: number;
}

/** A moment of a motion, for any skeleton that has its roles. */
export interface MotionPose {
  /**
   * Turns about the world's x, y and z, degrees, applied in the order z, x, y; each on top of what its parent does. Those of arms count
   * from an arm that hangs straight down, whatever it does at rest.
   */
  turns: Partial<Record<SidedRole, Vec3>>;
  /** Of the hips or the trunk, in heights of the hips. */
  root: Vec3;
  /** Legs that are solved to stand there; the others follow their turns. */
  feet: Partial<Record<'foot_l' | 'foot_r' | 'fore_foot_l' | 'fore_foot_r' | 'hind_foot_l' | 'hind_foot_r', FootPose>>;
}

/** Kinds of bodies that the library has motions for. */
export const MOTION_SKELETONS = ['body', 'four-legged', 'fins'] as const;
export type MotionSkeleton = (typeof MOTION_SKELETONS)[number];

/** A motion of the shipped library. All are our own, written as functions of the phase. */
export interface LibraryMotion {
  id: string;
  title: string;
  about: string;
  skeleton: MotionSkeleton;
  seconds: number;
  loop: LoopMode;
  /** How far the root travels in a cycle, in heights of the hips; 0 where it stays. */
  travel: number;
  /** @param u Phase, 0 to 1. */
  pose: (u: number) => MotionPose;
}
