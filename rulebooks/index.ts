import brinework from './brinework.rulebook.json';
import brinework10 from './brinework-1.0.0.rulebook.json';
import brinework11 from './brinework-1.1.0.rulebook.json';
import brinework12 from './brinework-1.2.0.rulebook.json';
import brinework13 from './brinework-1.3.0.rulebook.json';
import clashmere from './clashmere.rulebook.json';
import cubbin from './cubbin.rulebook.json';
import cubbin10 from './cubbin-1.0.0.rulebook.json';
import cubbin11 from './cubbin-1.1.0.rulebook.json';
import emberfold from './emberfold.rulebook.json';
import emberfold10 from './emberfold-1.0.0.rulebook.json';
import emberfold11 from './emberfold-1.1.0.rulebook.json';
import glasswink from './glasswink.rulebook.json';
import lanternlot from './lanternlot.rulebook.json';
import plotwick from './plotwick.rulebook.json';
import plotwick10 from './plotwick-1.0.0.rulebook.json';

/** A rulebook as its file has it. */
export interface RulebookFile {
  id: string;
  version: string;
}

/** The newest version of each rulebook that ships with Itch Kit, as read from its file: to be checked before it is used. */
export const NEWEST: RulebookFile[] = [brinework, plotwick, cubbin, emberfold, glasswink, clashmere, lanternlot];

/** Older versions, to which kits may be pinned. */
export const OLDER: RulebookFile[] = [
  brinework10,
  brinework11,
  brinework12,
  brinework13,
  cubbin10,
  cubbin11,
  emberfold10,
  emberfold11,
  plotwick10,
];
