import Joi from 'joi';
import { CUE_KINDS, EASINGS, LOOP_MODES, ROLES, spaceSchema, type SchemaOf } from '../document';
import type { BehavioursRules } from '../behaviour';
import { MEASURED_FACTS, walkRulesSchema, type GroundsRules, type SeatRules } from '../grounds';
import { DIRECTION_POINTS, ROUNDS, SIDES } from '../wiring';
import { GRADES, HOLDS, PIVOT_PLACES, RULEBOOK_FORMAT, TRACK_KINDS, type Rulebook } from './types';

const text = Joi.string().min(1).max(2000).required();
const short = Joi.string().min(1).max(200).required();
const identifier = Joi.string()
  .pattern(/^[a-z][a-z0-9.-]*$/)
  .max(64)
  .required();
const role = Joi.valid(...ROLES);
const anchor = Joi.array()
  .items(Joi.valid(-1, 0, 1))
  .length(3);

const naming = Joi.object({
  root: short,
  maxLength: Joi.number().integer().min(1).max(200).required(),
  patterns: Joi.array()
    .items(
      Joi.object({
        role: Joi.valid(...ROLES, null).required(),
        prefix: Joi.string().allow('').max(40).required(),
        pattern: Joi.string().min(1).max(200).required(),
        explain: text,
        examples: Joi.array().items(Joi.string().max(200)).min(1).max(20).required(),
      }),
    )
    .min(1)
    .max(40)
    .required(),
  reserved: Joi.array().items(Joi.string().min(1).max(200)).max(200),
  sides: Joi.object({
    place: Joi.valid('prefix', 'suffix').required(),
    left: Joi.string().min(1).max(20).required(),
    right: Joi.string().min(1).max(20).required(),
  }),
  required: Joi.array()
    .items(Joi.object({ name: short, under: Joi.string().min(1).max(200).allow(null).required(), why: text }))
    .max(200)
    .unique('name'),
});

const motion = Joi.object({
  clips: Joi.array()
    .items(Joi.object({ name: short, needed: Joi.boolean().required(), loop: Joi.valid(...LOOP_MODES, null).required(), about: text }))
    .max(200)
    .unique('name'),
  rate: Joi.number().min(1).max(240),
  easings: Joi.array()
    .items(Joi.valid(...EASINGS))
    .min(1)
    .unique(),
  tracks: Joi.array()
    .items(Joi.valid(...TRACK_KINDS))
    .min(1)
    .unique(),
  loops: Joi.array()
    .items(Joi.valid(...LOOP_MODES))
    .min(1)
    .unique(),
  overlays: Joi.boolean(),
  cues: Joi.array()
    .items(Joi.valid(...CUE_KINDS))
    .unique(),
  rest: Joi.string().min(1).max(200),
});

const side = Joi.valid(...SIDES).required();
const direction = Joi.alternatives(
  Joi.object({
    point: Joi.alternatives(Joi.valid(...DIRECTION_POINTS), Joi.object({ part: short })).required(),
    goes: side,
  }),
  Joi.object({ goes: Joi.valid(...ROUNDS).required(), from: side }),
);

const variable = Joi.object({
  name: Joi.string()
    .pattern(/^[a-z][a-z0-9_]*$/)
    .max(64)
    .required(),
  title: text,
  group: text,
  unit: text,
  min: Joi.number().required(),
  max: Joi.number().greater(Joi.ref('min')).required(),
  neutral: Joi.number().min(Joi.ref('min')).max(Joi.ref('max')).required(),
  indices: Joi.number().integer().min(0).max(64).required(),
  kind: Joi.valid('commanded', 'actual').required(),
  positive: text,
  direction,
  position: Joi.string().max(64),
  moves: Joi.object({ how: Joi.valid('to', 'at', 'round').required(), perSecond: Joi.number().positive().required() }),
});

const length = Joi.number().positive().max(1000).required();
const shipped = Joi.array().items(Joi.number()).max(1000);
const ofFact = { name: identifier, title: short, about: text, needed: Joi.boolean() };
const range = {
  unit: Joi.string().allow('').max(40).required(),
  min: Joi.number().required(),
  max: Joi.number().min(Joi.ref('min')).required(),
};
const fact = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'number', then: Joi.object({ ...ofFact, kind: Joi.valid('number').required(), ...range, whole: Joi.boolean(), shipped }) },
    {
      is: 'choice',
      then: Joi.object({
        ...ofFact,
        kind: Joi.valid('choice').required(),
        choices: Joi.array().items(short).min(1).max(100).unique().required(),
      }),
    },
    {
      is: 'text',
      then: Joi.object({ ...ofFact, kind: Joi.valid('text').required(), longest: Joi.number().integer().min(1).max(2000).required() }),
    },
    { is: 'yes-no', then: Joi.object({ ...ofFact, kind: Joi.valid('yes-no').required() }) },
    {
      is: 'measured',
      then: Joi.object({
        ...ofFact,
        kind: Joi.valid('measured').required(),
        of: Joi.valid(...MEASURED_FACTS).required(),
        ...range,
        shipped,
      }),
      otherwise: Joi.forbidden(),
    },
  ],
});

const grounds = Joi.object({
  heightStep: length,
  visitor: walkRulesSchema.required(),
  seat: Joi.object({ height: length, radius: length } satisfies SchemaOf<SeatRules>).required(),
  states: Joi.array()
    .items(Joi.object({ name: identifier, title: short, kind: Joi.valid('waits', 'rides').required(), about: text }))
    .min(1)
    .max(20)
    .unique('name')
    .required(),
  glow: Joi.array().items(Joi.string().min(1).max(200)).unique(),
  paint: Joi.object({
    slots: Joi.array().items(Joi.string().min(1).max(200)).min(1).unique().required(),
    palette: Joi.array()
      .items(Joi.string().pattern(/^#[0-9a-f]{6}$/))
      .min(1)
      .max(200)
      .required(),
  }),
  facts: Joi.array().items(fact).max(100).unique('name').required(),
} satisfies SchemaOf<GroundsRules>);

const ofParameter = { name: Joi.string().min(1).max(120).required(), title: short, about: text };
const names = Joi.array().items(Joi.string().min(1).max(120)).min(2).max(200).unique();
const number = Joi.number();

const parameter = Joi.alternatives().conditional('.kind', {
  switch: [
    {
      is: 'number',
      then: Joi.object({
        ...ofParameter,
        kind: Joi.valid('number').required(),
        unit: Joi.string().allow('').max(20).required(),
        min: number.required(),
        max: number.greater(Joi.ref('min')).required(),
        whole: Joi.boolean(),
        moves: Joi.valid('ahead', 'left'),
        always: number.min(Joi.ref('min')).max(Joi.ref('max')),
      }),
    },
    {
      is: 'names',
      then: Joi.object({
        ...ofParameter,
        kind: Joi.valid('names').required(),
        values: names.required(),
        always: Joi.valid(Joi.in('values')),
      }),
    },
    { is: 'yes-no', then: Joi.object({ ...ofParameter, kind: Joi.valid('yes-no').required(), always: Joi.valid('yes', 'no') }) },
    { is: 'signal', then: Joi.object({ ...ofParameter, kind: Joi.valid('signal').required() }), otherwise: Joi.forbidden() },
  ],
});

const behaviours = Joi.object({
  parameters: Joi.array().items(parameter).min(1).max(200).unique('name').required(),
  chain: Joi.number().integer().min(1).max(100).required(),
} satisfies SchemaOf<BehavioursRules>);

/** What a rulebook may say. Its order is that in which a rulebook is written. */
export const rulebookSchema = Joi.object({
  format: Joi.valid(RULEBOOK_FORMAT).required(),
  id: identifier,
  version: Joi.string()
    .pattern(/^\d{1,6}\.\d{1,6}\.\d{1,6}$/)
    .required(),
  title: short,
  summary: text,
  space: spaceSchema.required(),
  unit: Joi.object({ name: short, short: Joi.string().min(1).max(8).required() }).required(),
  tileMetres: Joi.number().positive().required(),
  stepMetres: Joi.number().positive().required(),
  stepDegrees: Joi.number().positive().required(),
  sizeClasses: Joi.array()
    .items(Joi.object({ name: short, max: Joi.array().items(Joi.number().positive().required()).length(3).required(), about: text }))
    .min(1)
    .max(40)
    .unique('name'),
  naming: naming.required(),
  hierarchy: Joi.object({
    parents: Joi.array()
      .items(Joi.object({ role: role.required(), under: Joi.array().items(role).min(1).unique().required() }))
      .unique('role'),
    drivenOrder: Joi.array().items(Joi.string().max(64)).min(2).unique(),
    anchors: Joi.array().items(Joi.string().min(1).max(200)).min(1).max(40).unique(),
  }),
  pivots: Joi.array()
    .items(
      Joi.object({
        role: role.required(),
        place: Joi.valid(...PIVOT_PLACES).required(),
        anchor: Joi.when('place', { is: 'anchor', then: anchor.required(), otherwise: Joi.forbidden() }),
        axis: Joi.when('place', { is: 'on-parent-axis', then: Joi.valid(0, 1, 2).required(), otherwise: Joi.forbidden() }),
      }),
    )
    .max(40),
  materials: Joi.object({
    slots: Joi.array()
      .items(Joi.object({ name: short, needed: Joi.boolean().required(), about: text }))
      .max(100)
      .unique('name'),
    formats: Joi.array()
      .items(Joi.valid('image/png', 'image/jpeg', 'image/webp'))
      .min(1)
      .unique(),
    alphaModes: Joi.array()
      .items(Joi.valid('OPAQUE', 'MASK', 'BLEND'))
      .min(1)
      .unique(),
  }),
  uv: Joi.object({
    layouts: Joi.array()
      .items(
        Joi.object({
          part: short,
          fingerprint: Joi.string()
            .pattern(/^[0-9a-f]{16}$/)
            .required(),
          about: text,
        }),
      )
      .max(200)
      .unique('part'),
  }),
  levels: Joi.array()
    .items(
      Joi.object({
        name: Joi.string()
          .pattern(/^[a-z0-9_-]+$/)
          .max(40)
          .required(),
        share: Joi.number().greater(0).less(1).required(),
        about: text,
      }),
    )
    .min(1)
    .max(8)
    .unique('name'),
  skeleton: Joi.array()
    .items(Joi.object({ name: short, parent: Joi.string().min(1).max(200).allow(null).required(), needed: Joi.boolean().required() }))
    .min(1)
    .max(400)
    .unique('name'),
  motion,
  grounds,
  behaviours,
  variables: Joi.array().items(variable).max(2000).unique('name').required(),
  tableCurves: Joi.boolean(),
  shortTurns: Joi.boolean(),
  packaging: Joi.array()
    .items(Joi.object({ path: short, holds: Joi.valid(...HOLDS).required() }))
    .min(1)
    .max(40)
    .unique('path')
    .required(),
  rules: Joi.array()
    .items(
      Joi.object({
        id: identifier,
        check: identifier,
        grade: Joi.valid(...GRADES).required(),
        why: text,
        limit: Joi.number().min(0),
        roles: Joi.array().items(role).min(1).unique(),
      }),
    )
    .max(500)
    .unique('id')
    .required(),
} satisfies SchemaOf<Rulebook>);

/**
 * What each field means, by its path: for docs/rulebooks.md, the JSON Schema and the booklet. A field without words does not pass the
 * tests.
 */
export const FIELD_WORDS: Readonly<Record<string, string>> = {
  format: '`itchkit.rulebook/1`',
  id: 'who it is; kits pin it together with its version',
  version: 'three numbers. Saving over a version that a kit is pinned to is refused',
  title: 'for people',
  summary: 'for people, in a sentence or two',
  space: '`metresPerUnit`, `up`, `forward` (`+y`, `-z`, …), `handedness`: the space that packages are conformed to',
  unit: 'the unit’s name and its short form',
  tileMetres: 'the grid on the ground',
  stepMetres: 'the step on which places should lie',
  stepDegrees: 'the step on which turns should lie',
  sizeClasses: '`name`, `max` (to the side, up, forward), `about`',
  naming: 'how parts are called',
  'naming.root': 'what a new root is called',
  'naming.maxLength': 'in characters',
  'naming.patterns':
    'by `role` (null for all others): `prefix` (by which a role is found from a name), `pattern`, `explain` in plain words, `examples`',
  'naming.reserved': 'names that the platform keeps for itself, in any case of letters',
  'naming.sides': '`place` (`prefix` or `suffix`), `left`, `right`',
  'naming.required': '`name`, `under` (null: at the top; else somewhere below that part), `why`',
  hierarchy: 'what hangs below what',
  'hierarchy.parents': '`role`, and the roles `under` which it may hang',
  'hierarchy.drivenOrder': 'variables from the ground up: parts bound to them have to carry one another in that order',
  'hierarchy.anchors': 'names of parts that stand still: no clip and no variable moves them, or what carries them',
  pivots:
    'by `role`: `place` is `anchor` (with `anchor`: −1, 0 or 1 an axis of the part’s own bounds), `inside`, `on-step`, or `on-parent-axis` (with `axis` 0 to 2)',
  materials: 'what materials may be',
  'materials.slots': 'materials by name: `name`, `needed`, `about`',
  'materials.formats': 'media types of images',
  'materials.alphaModes': 'glTF’s alpha modes',
  uv: 'how UVs lie',
  'uv.layouts':
    'parts whose UVs are fixed: `part` (a name), `fingerprint` (16 hexadecimal digits: the first 64 bits of SHA-256 over the UVs of all triangles’ corners, in ten-thousandths of the picture’s side; the finding says that of the kit), `about`',
  levels: 'levels of detail, the nearest first: `name`, `share` of the triangles (0 to 1), `about`',
  skeleton: 'joints: `name`, `parent`, `needed`',
  motion: 'what clips may be',
  'motion.clips': '`name`, `needed`, `loop` or null, `about`',
  'motion.rate': 'frames a second',
  'motion.easings': 'ways of going on from a key',
  'motion.tracks': 'what may be moved',
  'motion.loops': 'loop modes',
  'motion.overlays': 'whether clips run along with others',
  'motion.cues': 'kinds of cues: `sound`, `effect`, `message`',
  'motion.rest': 'the name of the clip that is the rest pose',
  grounds: 'how things stand on tiles of `tileMetres`, and who walks there; lengths in metres',
  'grounds.heightStep': 'the steps by which terrain rises',
  'grounds.visitor':
    'a person who walks: `height`, `radius`, the highest `step`, the steepest `slope` (degrees), the `drop` from which an edge needs a rail, and the `reach` from a knot to a seat',
  'grounds.seat': 'the room of a person who sits: `height` above the seat, `radius`',
  'grounds.states': '`name`, `title`, `kind` (`waits`: visitors get on and off; `rides`: they are carried), `about`',
  'grounds.glow': 'names of materials that may shine by night',
  'grounds.paint': '`slots`: names of materials that an owner paints; `palette`: the paints, as `#rrggbb`',
  'grounds.facts':
    'the sheet of facts: `name`, `title`, `about`, `needed`, `kind`: `number` (with `unit`, `min`, `max`, `whole`), `choice` (`choices`, the first for what carries visitors, the last for what does not), `text` (`longest`), `yes-no`, or `measured` (`of`: `capacity`, `roofed`, `seconds` or `tiles`); `shipped` are the values of comparable things',
  behaviours: 'what is played by values that the game passes in',
  'behaviours.parameters':
    '`name`, `title`, `about`, `kind`: `number` (with `unit`, `min`, `max`, `whole`, and where it is a speed in m/s which way it `moves` the body: `ahead` or `left`), `names` (`values`), `yes-no`, or `signal` (there for the one frame in which it is sent); `always` where this platform never passes in anything else',
  'behaviours.chain': 'how many passages of 0 seconds a layer takes within one frame',
  variables:
    'the catalogue: `name`, `title`, `group`, `unit`, `min`, `max`, `neutral`, `indices` (0 where it has none), `kind` (`commanded` or `actual`), `positive` in words, and where it can be measured `direction`: which `point` (`furthest`, an end as `topmost`, or a `part` that is carried) `goes` to which side, or that it `goes` `clockwise` or `counter-clockwise`, seen `from` a side; and `position`, the variable that says where it stands, for one that says what is asked for or how fast, with how it `moves` that: `how` (`to` the place it asks for, `at` a speed, `round` and begin again), and how much `perSecond`',
  tableCurves:
    'whether tables may go from row to row in a curve that overshoots none of them (Fritsch & Butland 1984); where they may not, such tables are packed as straight ones with more rows',
  shortTurns: 'whether between two rows of a table each turn goes the short way round',
  packaging:
    'the package’s files: `path` (with `{kit}`, and `{clip}`, `{texture}` or `{level}` where there is one for each) and what it `holds`',
  rules:
    '`id`, `check`, `grade` (`stop`: no package; `warn`: it will be poorer; `note`: worth knowing), `why`, and where the check takes them a `limit` and `roles`',
};
