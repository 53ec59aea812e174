import Box from '@mui/material/Box';
import { figure } from '@itchkit/core/document';
import type { SizeClass } from '@itchkit/core/rulebook';
import { BookTable } from './BookTable';

const PERSON_METRES = 1.75;

/** Size classes as fronts drawn to one scale, a person beside them, and as a table. */
export function SizeClasses({ classes }: { classes: SizeClass[] }) {
  const gap = 0.06 * Math.max(...classes.map(({ max }) => max[0]));
  const height = Math.max(PERSON_METRES, ...classes.map(({ max }) => max[1]));
  const width = classes.reduce((sum, { max }) => sum + max[0] + gap, PERSON_METRES);
  const starts = classes.map((_, i) => PERSON_METRES + classes.slice(0, i).reduce((sum, { max }) => sum + max[0] + gap, 0));
  const line = Math.max(width, height * 2) / 400;
  return (
    <>
      <Box
        component="svg"
        viewBox={`0 ${-height - line} ${width} ${height + 3 * line}`}
        role="img"
        aria-label="Size classes beside a person"
        sx={{ display: 'block', width: '100%', maxHeight: 220, mb: 2 }}
      >
        <Box component="path" d={`M0 0 H${width}`} sx={{ stroke: (t) => t.vars!.palette.text.secondary, strokeWidth: line }} />
        <Box
          component="ellipse"
          cx={PERSON_METRES / 3}
          cy={-PERSON_METRES * 0.91}
          rx={PERSON_METRES * 0.07}
          ry={PERSON_METRES * 0.09}
          sx={{ fill: (t) => t.vars!.palette.text.secondary }}
        />
        <Box
          component="rect"
          x={PERSON_METRES * 0.21}
          y={-PERSON_METRES * 0.8}
          width={PERSON_METRES * 0.25}
          height={PERSON_METRES * 0.8}
          rx={PERSON_METRES * 0.08}
          sx={{ fill: (t) => t.vars!.palette.text.secondary }}
        />
        {classes.map(({ name, max }, i) => (
          <Box
            key={name}
            component="rect"
            x={starts[i]}
            y={-max[1]}
            width={max[0]}
            height={max[1]}
            sx={{
              fill: (t) => t.vars!.palette.kit.card,
              stroke: (t) => t.vars!.palette.kit.sea,
              strokeWidth: line * 1.5,
              strokeDasharray: `${line * 5} ${line * 3}`,
            }}
          />
        ))}
      </Box>
      <BookTable
        head={['Class', 'Side × up × forward', 'What it is for']}
        rows={classes.map(({ name, max, about }) => ({
          key: name,
          cells: [
            <b key="name">{name}</b>,
            <span key="size" className="figures">
              {max.map((value) => figure(value, 2)).join(' × ')} m
            </span>,
            about,
          ],
        }))}
      />
    </>
  );
}
