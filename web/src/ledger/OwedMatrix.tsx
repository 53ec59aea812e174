import Box from '@mui/material/Box';
import { GRADES, STAGE_TITLES, STAGES, type OwedByStage } from '@itchkit/core/rulebook';
import { GradeSign } from './GradeCount';

export interface OwedRow {
  id: string;
  title: string;
  owed: OwedByStage;
}

/** What is owed to each target in each stage: the gravest grade as its sign, with how many there are of it. */
export function OwedMatrix({ rows, onChoose }: { rows: OwedRow[]; onChoose?: (id: string) => void }) {
  const stages = STAGES.filter((stage) => rows.some(({ owed }) => owed[stage]));
  return (
    <Box
      component="table"
      aria-label="Owed by target and stage"
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        fontSize: 12,
        '& th': { fontWeight: 500, color: 'text.secondary', textAlign: 'center', py: 0.25 },
        '& td': { textAlign: 'center', py: 0.5 },
      }}
    >
      <thead>
        <tr>
          <Box component="th" />
          {stages.map((stage) => (
            <th key={stage} scope="col">
              {STAGE_TITLES[stage]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, title, owed }) => (
          <Box
            component="tr"
            key={id}
            data-target={id}
            onClick={onChoose && (() => onChoose(id))}
            sx={{
              borderTop: 1,
              borderColor: 'divider',
              cursor: onChoose ? 'pointer' : 'inherit',
              '&:hover': onChoose ? { bgcolor: 'kit.card' } : {},
            }}
          >
            <Box component="th" scope="row" sx={{ textAlign: 'left !important', color: 'text.primary !important' }}>
              {title}
            </Box>
            {stages.map((stage) => {
              const counts = owed[stage];
              const grade = counts && GRADES.find((one) => counts[one] > 0);
              return (
                <Box component="td" key={stage} aria-label={grade ? `${counts[grade]} ${grade}` : 'nothing owed'}>
                  {grade ? (
                    <Box
                      component="span"
                      sx={{ display: 'inline-flex', gap: 0.75, alignItems: 'center', color: `kit.${grade}`, fontWeight: 600 }}
                    >
                      <GradeSign grade={grade} size={8} />
                      <span className="figures">{counts[grade]}</span>
                    </Box>
                  ) : (
                    <Box component="span" sx={{ color: 'kit.good' }}>
                      ·
                    </Box>
                  )}
                </Box>
              );
            })}
            {stages.length === 0 && (
              <Box component="td" sx={{ color: 'kit.good', textAlign: 'right !important' }}>
                nothing owed
              </Box>
            )}
          </Box>
        ))}
      </tbody>
    </Box>
  );
}
