import Joi from 'joi';
import {
  defineOperation,
  glowSchema,
  groundsOf,
  groundsStateSchema,
  idSchema,
  KitError,
  vec3Schema,
  type Fact,
  type Footprint,
  type Glow,
  type GroundsState,
  type Vec3,
} from '../document';
import { footprintOf, holeAt, onGrid } from './tiles';
import { sweptParts, sweptTogether } from './swept';

const tileSchema = Joi.number().positive().max(1000).required();

/** A kit that takes no tiles: nothing of it is shown. */
export class NoTilesError extends KitError {
  constructor() {
    super('no-tiles', 'Nothing of this kit is shown, so it takes no tiles. Show a part, or draw the tiles yourself.', null);
  }
}

/** Says which tiles a kit takes: from one corner to the other, put onto the grid outward; null where it says none. */
export const setFootprint = defineOperation<{ footprint: Omit<Footprint, 'holes'> | null; tile: number }>({
  id: 'grounds.set-footprint',
  title: (_, { footprint }) => (footprint ? 'Say which tiles it takes' : 'Say no longer which tiles it takes'),
  args: Joi.object({
    footprint: Joi.object({ low: vec3Schema.required(), high: vec3Schema.required() }).allow(null).required(),
    tile: tileSchema,
  }),
  change(kit, { footprint, tile }) {
    const grounds = groundsOf(kit);
    const holes = grounds.footprint?.holes ?? [];
    const next = footprint && onGrid({ ...footprint, holes }, tile);
    grounds.footprint = next && {
      ...next,
      holes: holes.filter(([x, , z]) => x > next.low[0] && x < next.high[0] && z > next.low[2] && z < next.high[2]),
    };
  },
});

/** Takes the tiles from where all parts come in all clips. Holes that still lie within stay. */
export const sweepFootprint = defineOperation<{ tile: number }>({
  id: 'grounds.sweep-footprint',
  title: () => 'Take the tiles from all that moves',
  args: Joi.object({ tile: tileSchema }),
  change(kit, { tile }, blobs) {
    const footprint = footprintOf(sweptTogether(sweptParts(kit, blobs, Object.values(kit.clips))), tile);
    if (!footprint) throw new NoTilesError();
    setFootprint.change(kit, { footprint: { low: footprint.low, high: footprint.high }, tile }, blobs);
  },
});

/** Lets visitors cross a tile, or no longer. @param at A place in the tile, metres. */
export const toggleHole = defineOperation<{ at: Vec3; tile: number }>({
  id: 'grounds.toggle-hole',
  title: ({ grounds }, { at, tile }) =>
    grounds?.footprint && holeAt(grounds.footprint, at[0], at[2], tile) >= 0 ? 'Close a tile' : 'Let visitors cross a tile',
  args: Joi.object({ at: vec3Schema.required(), tile: tileSchema }),
  change(kit, { at, tile }) {
    const footprint = kit.grounds?.footprint;
    if (!footprint) throw new KitError('no-footprint', 'This kit does not say which tiles it takes. Say that first.', 'grounds.footprint');
    const { low, high, holes } = footprint;
    if (at[0] < low[0] || at[0] > high[0] || at[2] < low[2] || at[2] > high[2])
      throw new KitError('not-its-tile', 'That is no tile of this kit. Choose one within its footprint.', 'grounds.footprint');
    const hole = holeAt(footprint, at[0], at[2], tile);
    if (hole >= 0) holes.splice(hole, 1);
    else
      holes.push(
        [0, 1, 2].map((axis) =>
          axis === 1
            ? 0
            : low[axis] +
              tile * (Math.min(Math.floor((at[axis] - low[axis]) / tile), Math.round((high[axis] - low[axis]) / tile) - 1) + 0.5),
        ) as Vec3,
      );
  },
});

/** Says what a kit does in one of the platform's states: nothing at all is no longer said. */
export const setState = defineOperation<GroundsState>({
  id: 'grounds.set-state',
  title: (kit, { state, clip }) => (clip === null ? `Play nothing in “${state}”` : `Play “${kit.clips[clip]?.name}” in “${state}”`),
  args: groundsStateSchema,
  change(kit, state) {
    if (state.clip !== null && !kit.clips[state.clip])
      throw new KitError('clip-missing', 'That clip is no longer in the kit. Choose another one.', state.clip);
    const grounds = groundsOf(kit);
    const at = grounds.states.findIndex((one) => one.state === state.state);
    if (state.clip === null && state.over === 0) {
      if (at >= 0) grounds.states.splice(at, 1);
      return;
    }
    if (at >= 0) grounds.states[at] = state;
    else grounds.states.push(state);
  },
});

/** Says how a material shines by night; with a factor of null it does no longer. */
export const setGlow = defineOperation<Omit<Glow, 'factor'> & { factor: number | null }>({
  id: 'grounds.set-glow',
  title: (_, { material, factor }) => (factor === null ? `Let “${material}” be dark by night` : `Let “${material}” shine by night`),
  args: glowSchema.fork(['factor'], (factor) => factor.allow(null)),
  change(kit, { factor, ...said }) {
    const grounds = groundsOf(kit);
    const others = grounds.glows.filter(({ material }) => material !== said.material);
    grounds.glows = factor === null ? others : [...others, { ...said, factor }];
  },
});

/** Writes facts onto the sheet; null takes one off. */
export const setFacts = defineOperation<{ facts: Record<string, Fact | null> }>({
  id: 'grounds.set-facts',
  title: (_, { facts }) => `Write ${Object.keys(facts).join(', ')} onto the sheet of facts`,
  args: Joi.object({
    facts: Joi.object()
      .pattern(idSchema, Joi.alternatives(Joi.number(), Joi.string().allow('').max(2000), Joi.boolean()).allow(null))
      .min(1)
      .required(),
  }),
  change(kit, { facts }) {
    const sheet = groundsOf(kit).facts;
    for (const [name, fact] of Object.entries(facts)) {
      if (fact === null) delete sheet[name];
      else sheet[name] = fact;
    }
  },
});
