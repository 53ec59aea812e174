import { count, newId, type Clip, type Id } from '../document';
import { SAME_TIME, tidyTime } from './same-time';

/** A piece of a clip, seconds; both ends belong to it. */
interface Piece {
  from: number;
  to: number;
}

type Marks = Pick<Clip, 'cues' | 'flags'>;

const inside = ({ from, to }: Piece, time: number) => time > from - SAME_TIME && time < to + SAME_TIME;

/** Cues and flags of a clip for which `which` holds; only those lists that the clip has. */
function marksWhere({ cues, flags }: Marks, which: (time: number) => boolean): Marks {
  const some = <T extends { time: number }>(list: T[]) => list.filter(({ time }) => which(time));
  return { ...(cues ? { cues: some(cues) } : {}), ...(flags ? { flags: some(flags) } : {}) };
}

/** The same with other times, and with ids of their own where they are to be others. */
function marksMoved({ cues, flags }: Marks, move: (time: number) => number, fresh = false): Marks {
  const moved = <T extends { id: Id; time: number }>(list: T[]) =>
    list.map((one) => ({ ...one, ...(fresh ? { id: newId() } : {}), time: tidyTime(move(one.time)) }));
  return { ...(cues ? { cues: moved(cues) } : {}), ...(flags ? { flags: moved(flags) } : {}) };
}

/** “2 cues and 1 flag”; null where there are none. */
function marksInWords({ cues = [], flags = [] }: Marks): string | null {
  const words = [...(cues.length > 0 ? [count(cues.length, 'cue')] : []), ...(flags.length > 0 ? [count(flags.length, 'flag')] : [])];
  return words.length > 0 ? words.join(' and ') : null;
}

const howMany = ({ cues = [], flags = [] }: Marks) => cues.length + flags.length;

/** Cues and flags within a piece of a clip, by times of their own. @param fresh Whether they get ids of their own. */
export const marksOfPiece = (clip: Marks, piece: Piece, fresh = false): Marks =>
  marksMoved(
    marksWhere(clip, (time) => inside(piece, time)),
    (time) => time - piece.from,
    fresh,
  );

/** All cues and flags of a clip, with ids of their own. */
export const copyOfMarks = (clip: Marks): Marks => marksMoved(clip, (time) => time, true);

/** What is said of cues and flags that lie in none of some pieces of a clip, and so go; null where none does. */
export function marksThatGo(clip: Marks, pieces: readonly Piece[]): string | null {
  const gone = marksWhere(clip, (time) => !pieces.some((piece) => inside(piece, time)));
  const words = marksInWords(gone);
  return words && `${words} outside of what is kept ${howMany(gone) === 1 ? 'goes' : 'go'}.`;
}

/** Lets go of cues and flags after the end of a clip. Gives what is said of them; null where there are none. */
export function dropMarksAfter(clip: Clip, end: number): string | null {
  const piece = { from: -Infinity, to: end };
  const said = marksThatGo(clip, [piece]);
  Object.assign(
    clip,
    marksWhere(clip, (time) => inside(piece, time)),
  );
  return said;
}

/** Moves cues and flags of a clip, those from a time on. Gives what is said of them; null where none moves. @param after Seconds. */
export function moveMarks(clip: Clip, move: (time: number) => number, after = -Infinity): string | null {
  const moving = marksWhere(clip, (time) => time > after + SAME_TIME);
  Object.assign(
    clip,
    marksMoved(clip, (time) => (time > after + SAME_TIME ? move(time) : time)),
  );
  const words = marksInWords(moving);
  return words && `${words} ${howMany(moving) === 1 ? 'goes' : 'go'} along.`;
}
