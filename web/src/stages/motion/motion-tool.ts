import type { Blobs, Call, Clip, Id, Kit } from '@itchkit/core/document';
import type { KeyRef } from '@itchkit/core/motion';
import type { Rulebook } from '@itchkit/core/rulebook';

/** What a tool of Motion is given to work on. */
export interface ToolContext {
  kit: Kit;
  blobs: Blobs;
  clip: Clip;
  /** The chosen keys, or all of the chosen parts, or all of the clip. */
  keys: KeyRef[];
  /** Chosen parts that are there. */
  parts: Id[];
  /** Seconds, on a frame. */
  time: number;
  rulebook: Rulebook | undefined;
}

export type ToolValue = number | string;
export type ToolField =
  | {
      kind: 'number';
      id: string;
      label: string;
      unit?: string;
      step?: number;
      min?: number;
      max?: number;
      digits?: number;
      begin: (context: ToolContext) => number;
    }
  | { kind: 'choice'; id: string; label: string; options: readonly (readonly [string, string])[]; begin: string };

export interface MotionTool {
  id: string;
  title: string;
  group: 'In time' | 'Values' | 'Loop' | 'Feel' | 'Across parts' | 'Rest and parts' | 'Fewer keys';
  about: string;
  fields: ToolField[];
  /** What is missing, or null. */
  blocked?: (context: ToolContext) => string | null;
  calls: (context: ToolContext, values: Record<string, ToolValue>) => Call | Call[];
  /** What is done with it, for the button. */
  verb: string;
}

export const num = (values: Record<string, ToolValue>, id: string) => Number(values[id]);
export const chosen = ({ clip, keys }: ToolContext) => ({ clip: clip.id, keys });
export const needsKeys = ({ keys }: ToolContext) => (keys.length === 0 ? 'There are no keys yet' : null);
export const needsPart = ({ parts }: ToolContext) => (parts.length === 0 ? 'Choose a part first' : null);
const times = ({ keys }: ToolContext) => keys.map(({ time }) => time);
export const spanOf = (context: ToolContext) => [Math.min(...times(context)), Math.max(...times(context))];

/** What a tool's fields begin with. */
export function beginValues(tool: MotionTool, context: ToolContext): Record<string, ToolValue> {
  return Object.fromEntries(tool.fields.map((field) => [field.id, field.kind === 'choice' ? field.begin : field.begin(context)]));
}
