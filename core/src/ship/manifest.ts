import Joi from 'joi';
import {
  CUE_KINDS,
  LOOP_MODES,
  OUTSIDES,
  ROLES,
  bindingRowSchema,
  spaceSchema,
  KitError,
  TURN_ORDERS,
  type BindingRow,
  type CueKind,
  type LoopMode,
  type Outside,
  type Overlay,
  type Role,
  type Space,
  type TurnOrder,
} from '../document';

export const PACKAGE_FORMAT = 'itchkit.package/1';

/** What stands in `manifest.json` at the root of a package. All numbers are in the platform's space. */
export interface Manifest {
  format: typeof PACKAGE_FORMAT;
  kit: string;
  target: { rulebook: string; version: string };
  space: Space;
  files: { path: string; holds: string; bytes: number; sha256: string }[];
  /** In the order of the GLB's nodes. */
  parts: { node: number; name: string; path: string; role: Role | null; turnOrder: TurnOrder; triangles: number }[];
  clips: {
    name: string;
    seconds: number;
    rate: number;
    loop: LoopMode;
    group?: string;
    /** Runs along with the others; its parts as nodes. */
    overlay?: { place: Overlay['place']; mode: Overlay['mode']; nodes: number[] | null };
    cues?: { time: number; kind: CueKind; name: string; node: number | null }[];
    flags?: { time: number; name: string }[];
  }[];
  bindings: { variable: string; index: number | null; node: number; outside: Outside; rows: BindingRow[] }[];
  /** What the checks said; `aside` is the reason with which a person set it aside. */
  report: { check: string; grade: string; message: string; parts: string[]; aside?: string }[];
}

const schema = Joi.object({
  format: Joi.valid(PACKAGE_FORMAT).required(),
  kit: Joi.string().required(),
  target: Joi.object({ rulebook: Joi.string().required(), version: Joi.string().required() }).required(),
  space: spaceSchema.required(),
  files: Joi.array()
    .items(
      Joi.object({
        path: Joi.string().required(),
        holds: Joi.string().required(),
        bytes: Joi.number().required(),
        sha256: Joi.string().length(64).required(),
      }),
    )
    .required(),
  parts: Joi.array()
    .items(
      Joi.object({
        node: Joi.number().integer().required(),
        name: Joi.string().required(),
        path: Joi.string().required(),
        role: Joi.valid(...ROLES, null).required(),
        turnOrder: Joi.valid(...TURN_ORDERS).required(),
        triangles: Joi.number().required(),
      }),
    )
    .required(),
  clips: Joi.array()
    .items(
      Joi.object({
        name: Joi.string().required(),
        seconds: Joi.number().required(),
        rate: Joi.number().required(),
        loop: Joi.valid(...LOOP_MODES).required(),
        group: Joi.string(),
        overlay: Joi.object({
          place: Joi.valid('under', 'over').required(),
          mode: Joi.valid('add', 'replace').required(),
          nodes: Joi.array().items(Joi.number().integer()).allow(null).required(),
        }),
        cues: Joi.array().items(
          Joi.object({
            time: Joi.number().required(),
            kind: Joi.valid(...CUE_KINDS).required(),
            name: Joi.string().required(),
            node: Joi.number().integer().allow(null).required(),
          }),
        ),
        flags: Joi.array().items(Joi.object({ time: Joi.number().required(), name: Joi.string().required() })),
      }),
    )
    .required(),
  bindings: Joi.array()
    .items(
      Joi.object({
        variable: Joi.string().required(),
        index: Joi.number().integer().allow(null).required(),
        node: Joi.number().integer().required(),
        outside: Joi.valid(...OUTSIDES).required(),
        rows: Joi.array().items(bindingRowSchema).required(),
      }),
    )
    .required(),
  report: Joi.array().required(),
});

export class ManifestError extends KitError {
  constructor(detail: string, where: string | null = null) {
    super('manifest', `The package's manifest does not fit “${PACKAGE_FORMAT}”: ${detail}. Build the package again.`, where);
  }
}

export function checkManifest(value: unknown): Manifest {
  const { error } = schema.validate(value, { convert: false });
  if (error) throw new ManifestError(error.message, error.details[0].path.join('.'));
  return value as Manifest;
}
