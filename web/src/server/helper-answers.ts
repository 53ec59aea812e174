import { spill, takeIn, type WithBytes } from '@itchkit/core/node/spilled-bytes';

/** What a helper made, or why it was refused. */
type Said = { ok: true; result: object } | { ok: false };
/** What holds the data of an answer: what was made, or the package that was built of it. */
type Made = WithBytes & { built?: WithBytes | null };

/** An answer as it is sent: its large data lies in files. */
export async function spillAnswer(said: Said): Promise<object> {
  if (!said.ok) return said;
  const { built, ...made } = said.result as Made;
  return { ok: true, result: { ...(await spill(made)), ...(built === undefined ? {} : { built: built && (await spill(built)) }) } };
}

/** An answer as it was made, its data taken in. */
export async function takeInAnswer<A extends Said>(said: A): Promise<A> {
  if (!said.ok) return said;
  const { built, ...made } = said.result as Made;
  const result = { ...(await takeIn(made)), ...(built === undefined ? {} : { built: built && (await takeIn(built)) }) };
  return { ok: true, result } as unknown as A;
}
