import { quatFromTurn, Poser, flattenParts, posedVertices } from '../geometry';
import { callOf } from '../operations';
import { bodyKit, tube } from '../tests/bodies';
import { run } from '../tests/helpers';
import { enclosedVolume } from './pose-figures';
import { skinField } from './skin-field';
import { solveSkin } from './solve-skin';

test('x', () => {
  for (const falloff of [2, 2.5, 3, 3.5, 4, 5])
    for (const smoothing of [0, 2, 4]) {
      const body = tube(0.05, 0, 0.6, 60, 24);
      const { kit, blobs } = bodyKit(body, [
        { id: 'low', parent: null, at: [0, 0.02, 0] },
        { id: 'high', parent: 'low', at: [0, 0.28, 0], tail: [0, 0.28, 0] },
      ]);
      const t = Date.now();
      const next = run(kit, blobs, callOf(solveSkin, { parts: ['skin'], falloff, smoothing }));
      const ms = Date.now() - t;
      const poser = new Poser(flattenParts(next));
      const rest = enclosedVolume(
        posedVertices(next, blobs, next.parts.skin, (id) => poser.worldOf(id)),
        body.indices,
      );
      poser.pose.turn[3 * poser.flat.indexOf.get('high')!] = 60;
      poser.update();
      const bent = enclosedVolume(
        posedVertices(next, blobs, next.parts.skin, (id) => poser.worldOf(id)),
        body.indices,
      );
      const field = skinField(next, ['skin'], blobs);
      const col = [];
      for (let p = 0; p < field.points.length / 3; p += 24 * 5) col.push(field.rows[2 * p + 1].toFixed(2));
      console.log(falloff, smoothing, (bent / rest).toFixed(4), ms, col.join(' '));
    }
  void quatFromTurn;
});
