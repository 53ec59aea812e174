'use client';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { callOf, count, setTarget } from '@itchkit/core/document';
import { countByStage, type Rulebook } from '@itchkit/core/rulebook';
import { bakeOf, leftOut, type BuiltPackage, type Manifest } from '@itchkit/core/ship';
import { formatBytes, formatCount } from '../../format';
import { Empty, Section } from '../../panels/Section';
import { GradeSign } from '../../ledger/GradeCount';
import { OwedMatrix } from '../../ledger/OwedMatrix';
import { newestOf } from '../../rulebooks';
import { useKit, useOpenKit, useRulebook, useRun, useSession } from '../../session/context';
import { PathText } from './PathText';
import { useDryPackage } from './use-dry-package';

/** What goes into the package and what does not. */
export function ShipCard() {
  const { data, error, isPending } = useDryPackage();
  const kit = useKit();
  const rulebook = useRulebook();
  return (
    <>
      <Typography variant="h2" sx={{ px: 3, pt: 2.5 }}>
        The package
      </Typography>
      <Targets />
      <OpenStops />
      {kit.targets.length === 0 && <Empty>Choose a target at the top: its rulebook says what a package holds.</Empty>}
      {error && <Empty>{error.message}</Empty>}
      {kit.targets.length > 0 && isPending && <Empty>Working out what goes in …</Empty>}
      {data && <GoesIn built={data} />}
      {data && rulebook && <Plays played={data.played} rulebook={rulebook} />}
      <Section title="Does not go in">
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 13, lineHeight: 1.6 }}>
          {leftOut(kit, rulebook).map((line) => (
            <li key={line.what}>
              {line.what}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {' '}
                {line.why}
              </Box>
            </li>
          ))}
        </Box>
      </Section>
    </>
  );
}

/** Every target of the kit against the stages; a click brings one into view. */
function Targets() {
  const { targets } = useKit();
  const owed = useSession((state) => state.owed);
  const run = useRun();
  if (targets.length < 2) return null;
  const rows = targets.map(({ rulebook }) => ({
    id: rulebook,
    title: newestOf(rulebook)?.title ?? rulebook,
    owed: countByStage(owed[rulebook] ?? []),
  }));
  const choose = (id: string) =>
    id !== targets[0].rulebook &&
    run(
      callOf(
        setTarget,
        targets.find(({ rulebook }) => rulebook === id)!,
      ),
    );
  return (
    <Section title="Targets">
      <OwedMatrix rows={rows} onChoose={choose} />
    </Section>
  );
}

function OpenStops() {
  const { session } = useOpenKit();
  const stops = useSession((state) => state.findings).filter((finding) => finding.grade === 'stop');
  if (stops.length === 0) return null;
  return (
    <Section title="Stops open">
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 13, lineHeight: 1.7 }}>
        {stops.map((finding) => (
          <Box component="li" key={finding.id} sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
            <GradeSign grade="stop" size={9} />
            <Link component={NextLink} href={`/kits/${session.id}/${finding.stage}`}>
              {finding.title}
            </Link>
          </Box>
        ))}
      </Box>
    </Section>
  );
}

/** How near the clips in the files are to those that were made: the files are read back and measured. */
function Plays({ played, rulebook }: Pick<BuiltPackage, 'played'> & { rulebook: Rulebook }) {
  if (played.length === 0) return null;
  const worst = played.reduce((a, b) => (b.millimetres > a.millimetres ? b : a));
  const within = 1000 * bakeOf(rulebook).toleranceLength;
  return (
    <Section title="As it plays" aside={<span style={{ fontSize: 12 }}>read back from the files</span>}>
      <Box sx={{ fontSize: 13, lineHeight: 1.6 }} data-testid="played-in-files">
        {worst.millimetres < 0.005
          ? 'Every clip plays as it was made.'
          : `No vertex is further from where it was made than ${formatMillimetres(worst.millimetres)}: “${worst.part}” in “${worst.clip}”.`}
        {worst.millimetres <= within ? ` ${within} mm is allowed.` : ` That is more than the ${within} mm that are allowed.`}
      </Box>
      <Box component="details" sx={{ mt: 1, fontSize: 12.5 }}>
        <Box component="summary" sx={{ cursor: 'pointer', py: 0.5 }}>
          Every clip
        </Box>
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {played.map(({ clip, path, millimetres }) => (
            <Box component="li" key={`${path} ${clip}`} sx={{ display: 'flex', gap: 2 }}>
              <span style={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>{clip}</span>
              <span className="figures">{formatMillimetres(millimetres)}</span>
            </Box>
          ))}
        </Box>
      </Box>
    </Section>
  );
}

const formatMillimetres = (value: number) => `${value < 0.005 ? '0' : value.toFixed(2)} mm`;

/** What the manifest reports: every finding, and with which reason one was set aside. */
function Report({ report }: Pick<Manifest, 'report'>) {
  const aside = report.filter((finding) => finding.aside !== undefined).length;
  return (
    <Box component="details" sx={{ mt: 1, fontSize: 12.5 }}>
      <Box component="summary" sx={{ cursor: 'pointer', py: 0.5 }}>
        The report in manifest.json: {report.length === 0 ? 'nothing is owed' : count(report.length, 'finding')}
        {aside > 0 && `, ${aside} of them set aside`}
      </Box>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, lineHeight: 1.5 }}>
        {report.map((finding, i) => (
          <Box component="li" key={i} sx={{ py: 0.5 }}>
            {finding.message}
            {finding.aside !== undefined && <Box sx={{ color: 'text.secondary' }}>Set aside: {finding.aside || 'no reason given'}</Box>}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function GoesIn({ built: { manifest, contents, bytes } }: { built: BuiltPackage }) {
  const triangles = manifest.parts.reduce((sum, part) => sum + part.triangles, 0);
  return (
    <Section title="Goes in" aside={<span className="figures">{formatBytes(bytes.length)} zipped</span>}>
      <Box
        component="table"
        sx={{ width: '100%', borderCollapse: 'collapse', fontSize: 13, mb: 2, '& td': { py: 0.5, verticalAlign: 'baseline' } }}
      >
        <tbody>
          {contents.map((file) => (
            <tr key={file.path}>
              <td>
                <PathText path={file.path} />
              </td>
              <Box component="td" className="figures" sx={{ textAlign: 'right', whiteSpace: 'nowrap', color: 'text.secondary', pl: 2 }}>
                {formatBytes(file.bytes)}
              </Box>
            </tr>
          ))}
        </tbody>
      </Box>
      <Box sx={{ fontSize: 13, lineHeight: 1.6 }}>
        {[
          count(manifest.parts.length, 'part'),
          count(triangles, 'triangle'),
          count(manifest.bindings.length, 'binding'),
          count(manifest.clips.length, 'clip'),
        ].join(', ')}
        ; collapsed and hidden parts too.
      </Box>
      <Report report={manifest.report} />
      <Box component="details" sx={{ mt: 1, fontSize: 12.5 }}>
        <Box component="summary" sx={{ cursor: 'pointer', py: 0.5 }}>
          Every part
        </Box>
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {manifest.parts.map((part) => (
            <Box component="li" key={part.node} sx={{ display: 'flex', gap: 2 }}>
              <span style={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>{part.path}</span>
              <span className="figures">{formatCount(part.triangles)}</span>
            </Box>
          ))}
        </Box>
      </Box>
    </Section>
  );
}
