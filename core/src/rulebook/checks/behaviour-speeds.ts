import { ownPlace } from '../../behaviour';
import type { Check, Mend, Said } from '../types';
import { figure } from '../wording';
import { needsBehaviours } from './behaviour-shared';

/** Clips of mixes have their places where their own feet go as fast as the body. */
export const behaviourSpeeds: Check = {
  id: 'behaviour.speeds',
  family: 'behaviour',
  stage: 'wiring',
  about: 'In a mix by speed a clip has its place where its own feet go as fast',
  limit: 'metres a second',
  needs: needsBehaviours,
  run({ kit, rulebook, blobs }, { limit = 0.2 }) {
    return (kit.mixes ?? []).flatMap((mix) =>
      mix.pegs.flatMap((peg): Said[] => {
        const place = ownPlace(kit, mix, peg, blobs, rulebook.behaviours!.parameters);
        const off = place ? Math.max(...place.map((value, i) => Math.abs(value - peg.at[i]))) : 0;
        if (!place || off <= limit) return [];
        const clip = kit.clips[peg.clip!].name;
        const said = (at: number[]) => at.map((value) => figure(value, 2)).join(' and ');
        const there = place.map((value) => Math.round(value * 100) / 100 + 0);
        const taken = mix.pegs.some((one) => one !== peg && one.at.every((value, i) => value === there[i]));
        const mend: Mend = {
          title: `Put it at ${said(there)}`,
          safe: false,
          call: { operation: 'mixes.set-peg', args: { mix: mix.id, peg: peg.id, at: there } },
          changes: [`“${clip}” in “${mix.name}” from ${said(peg.at)} to ${said(there)}`],
        };
        return [
          {
            key: `${mix.id}.${peg.id}`,
            title: 'Feet slide in a mix',
            message: `“${clip}” goes ${said(place)} m/s by its own feet; in the mix “${mix.name}” it has its place at ${said(peg.at)}.`,
            measured: `${said(place)} m/s`,
            limit: `${said(peg.at)} ± ${figure(limit, 2)} m/s`,
            parts: [],
            things: [peg.id],
            ...(!taken && { mend }),
          },
        ];
      }),
    );
  },
};
