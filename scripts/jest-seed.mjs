// Property tests draw the same cases at every run, so that a run that passed passes again; ITCHKIT_SEED=random looks further.
import fc from 'fast-check';

const asked = process.env.ITCHKIT_SEED;
if (asked !== 'random') fc.configureGlobal({ seed: asked ? Number(asked) : 1125 });
