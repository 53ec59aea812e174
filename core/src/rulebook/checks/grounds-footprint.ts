import { isOnGrid, tilesAcross } from '../../grounds';
import type { Check } from '../types';
import { figure } from '../wording';
import { needsGrounds } from './grounds-shared';

/** The kit says which tiles it takes, and they are whole ones. */
export const groundsFootprint: Check = {
  id: 'grounds.footprint',
  family: 'grounds',
  stage: 'wiring',
  about: 'The kit says which tiles it takes, and they are whole ones',
  needs: needsGrounds,
  run({ kit, rulebook: { tileMetres: tile } }) {
    const footprint = kit.grounds?.footprint;
    if (!footprint)
      return [
        {
          title: 'Its tiles are not said',
          message: 'The kit does not say which tiles it takes.',
          measured: 'none',
          limit: 'whole tiles',
          parts: [],
          mend: {
            title: 'Take them from all that moves',
            safe: true,
            call: { operation: 'grounds.sweep-footprint', args: { tile } },
          },
        },
      ];
    if (isOnGrid(footprint, tile)) return [];
    const { low, high } = footprint;
    const [across, deep] = tilesAcross(footprint, tile);
    return [
      {
        title: 'Half tiles',
        message: `Its tiles go from ${figure(low[0])}, ${figure(low[2])} to ${figure(high[0])}, ${figure(high[2])} m, which are not on lines of ${figure(tile)} m.`,
        measured: `${figure((high[0] - low[0]) / tile)} × ${figure((high[2] - low[2]) / tile)}`,
        limit: `${across} × ${deep}`,
        parts: [],
        mend: {
          title: 'Round them outward',
          safe: false,
          call: { operation: 'grounds.set-footprint', args: { footprint: { low: [...low], high: [...high] }, tile } },
          changes: ['the tiles are rounded outward'],
        },
      },
    ];
  },
};
