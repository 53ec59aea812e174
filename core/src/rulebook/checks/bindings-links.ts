import { KitError, type Kit, type Link } from '../../document';
import { LINK_GAP, LINK_METRES, partedAt, solveLink, spanOfTables, worstGap, type LinkGap } from '../../wiring';
import type { Check, Mend, Said } from '../types';
import { figure, nameList } from '../wording';

/** A link as plain data: checks read records that are watched. */
const plain = (link: Link): Link => ({ ...link, parts: [...link.parts], axes: [...link.axes] });

const millimetres = (metres: number) => `${figure(1000 * metres)} mm`;

/** Values at an end of a range within this share of it are that end. */
const NEAR = 1e-6;

const OFF = {
  meet: { title: 'Links do not meet', what: (mm: string) => `their ends are ${mm} apart` },
  aim: { title: 'Links miss one another', what: (mm: string) => `one aims ${mm} beside the other` },
  roll: { title: 'A wheel does not roll as it goes', what: (mm: string) => `its rim is ${mm} off the way that it has gone` },
} as const satisfies Record<Link['kind'], { title: string; what: (mm: string) => string }>;

/** Why a link can’t be worked out as the kit stands; null where it can. */
function whyNot(kit: Kit, link: Link): string | null {
  try {
    solveLink(kit, link);
    return null;
  } catch (error) {
    if (error instanceof KitError) return error.message;
    throw error;
  }
}

function offSaid(names: string, link: Link, worst: LinkGap | null, unit: string, stuck: string | null): Said[] {
  const { title, what } = OFF[link.kind];
  const mend: Mend = {
    title: 'Work them out again',
    safe: false,
    call: { operation: 'wiring.renew-links', args: { links: [link.id] } },
    changes: [`${names}: tables worked out again`],
  };
  const where = worst === null ? 'no table moves them' : `at ${figure(worst.value)} ${unit} ${what(millimetres(worst.metres))}`;
  return [
    {
      key: link.id,
      title,
      message: `${names}: ${where}. ${stuck ?? 'What carries them moves otherwise than when they were worked out, or a table was changed by hand.'}`,
      measured: worst === null ? 'no table' : millimetres(worst.metres),
      limit: millimetres(LINK_METRES),
      parts: [...link.parts],
      ...(stuck === null && { mend }),
    },
  ];
}

function reachSaid(names: string, link: Link, { from, to }: { from: number; to: number }, unit: string): Said[] {
  const slack = NEAR * (link.max - link.min);
  const lost = [...(from > link.min + slack ? [`below ${figure(from)}`] : []), ...(to < link.max - slack ? [`above ${figure(to)}`] : [])];
  if (lost.length === 0) return [];
  return [
    {
      key: `reach ${link.id}`,
      title: 'Links no longer reach one another',
      message: `${names} can’t meet ${lost.join(' and ')} ${unit}: they stand still there. Make one of them longer, move a pivot, or end the table of what carries them there.`,
      measured: `${figure(from)} to ${figure(to)} ${unit}`,
      limit: `${figure(link.min)} to ${figure(link.max)} ${unit}`,
      parts: [...link.parts],
    },
  ];
}

/** Parts that are linked are where they should be at every value, and reach one another over the whole range. */
export const bindingsLinks: Check = {
  id: 'bindings.links',
  family: 'variables',
  stage: 'wiring',
  about: 'Links meet, aim and roll as they should at every value, and reach one another over the whole range',
  run({ kit, rulebook, blobs }) {
    return (kit.links ?? []).flatMap((watched): Said[] => {
      const link = plain(watched);
      const names = nameList(link.parts.map((id) => kit.parts[id].name));
      const unit = rulebook.variables.find(({ name }) => name === link.variable)?.unit ?? '';
      // What rolls is compared with what it would be worked out as, which can fail.
      const stuck = link.kind === 'roll' ? whyNot(kit, link) : null;
      const worst = stuck === null ? worstGap(kit, link) : null;
      if (worst === null || worst.metres > LINK_GAP) return offSaid(names, link, worst, unit, stuck ?? whyNot(kit, link));
      const parted = partedAt(kit, blobs, link);
      return [
        ...reachSaid(names, link, spanOfTables(kit, link), unit),
        ...(parted === null
          ? []
          : [
              {
                key: `parted ${link.id}`,
                title: 'A rod leaves its sleeve',
                message: `${names} slide in one another, and at ${figure(parted.value)} ${unit} there are ${millimetres(parted.metres)} between them. Make one of them longer, or end the table of what carries them before that.`,
                measured: millimetres(parted.metres),
                limit: 'within one another',
                parts: [...link.parts],
              },
            ]),
      ];
    });
  },
};
