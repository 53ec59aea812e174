import type { Blobs, Kit } from '../document';
import { AS_IT_IS, fittedMotion, LIBRARY } from '../motion';
import { body } from './body';
import { run } from './helpers';

/** A body with motions of the library, each a clip of that id, on the spot where nothing else is said. */
export function walkingBody(
  blobs: Blobs,
  ids: readonly string[],
  { kit = body(), inPlace = true }: { kit?: Kit; inPlace?: boolean } = {},
): Kit {
  return run(
    kit,
    blobs,
    ...ids.flatMap((id) =>
      fittedMotion(kit, {
        motion: LIBRARY.find((one) => one.id === id)!,
        clip: id,
        name: id,
        choices: { ...AS_IT_IS, inPlace },
        rate: 30,
      }),
    ),
  );
}
