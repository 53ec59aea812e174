'use client';
import { MixChart } from './MixChart';
import { MixRope } from './MixRope';
import type { PictureProps } from './mix-parts';

/** A mix as it is: of one value a rope with its clips as knots, of two a chart with its clips as buoys. */
export function MixPicture(props: PictureProps) {
  return props.mix.kind === 'line' ? <MixRope key={props.mix.id} {...props} /> : <MixChart key={props.mix.id} {...props} />;
}
