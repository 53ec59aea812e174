import Badge from '@mui/material/Badge';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import FilterList from '@mui/icons-material/FilterList';
import { useState } from 'react';
import { GRADES, type Finding, type GradeCounts } from '@itchkit/core/rulebook';
import { NO_FILTER, type LedgerFilter } from './filter-findings';
import { GradeCount } from './GradeCount';

/** Counts by grade, each a filter; families and the selection behind a button. */
export function LedgerFilters({
  findings,
  counts,
  filter,
  onFilter,
}: {
  findings: readonly Finding[];
  counts: GradeCounts;
  filter: LedgerFilter;
  onFilter: (filter: LedgerFilter) => void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const families = [...new Set(findings.map((finding) => finding.family))].sort();
  const close = (next: LedgerFilter) => {
    setAnchor(null);
    onFilter(next);
  };
  return (
    <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'center', mt: findings.length > 0 ? 0.5 : 0, ml: -0.75 }} aria-live="polite">
      {GRADES.map(
        (grade) =>
          counts[grade] > 0 && (
            <ButtonBase
              key={grade}
              aria-pressed={filter.grade === grade}
              aria-label={`Only ${grade}s`}
              onClick={() => onFilter({ ...filter, grade: filter.grade === grade ? null : grade })}
              sx={{
                px: 0.75,
                py: 0.25,
                borderRadius: 1,
                border: 1,
                borderColor: filter.grade === grade ? 'kit.signal' : 'transparent',
                '&:hover': { bgcolor: 'kit.card' },
              }}
            >
              <GradeCount grade={grade} count={counts[grade]} />
            </ButtonBase>
          ),
      )}
      {findings.length > 0 && (
        <Tooltip title="Show only some">
          <IconButton
            size="small"
            sx={{ ml: 'auto' }}
            aria-label="Show only some findings"
            aria-haspopup="menu"
            onClick={(event) => setAnchor(event.currentTarget)}
          >
            <Badge variant="dot" color="primary" invisible={filter.family === null && filter.parts === null}>
              <FilterList sx={{ fontSize: 17 }} />
            </Badge>
          </IconButton>
        </Tooltip>
      )}
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem selected={filter.family === null && filter.parts === null} onClick={() => close(NO_FILTER)}>
          All findings
        </MenuItem>
        <MenuItem selected={filter.parts !== null} onClick={() => close({ ...filter, parts: filter.parts ? null : [] })}>
          Of the selected parts
        </MenuItem>
        {families.map((family) => (
          <MenuItem
            key={family}
            selected={filter.family === family}
            onClick={() => close({ ...filter, family: filter.family === family ? null : family })}
          >
            About {family}
          </MenuItem>
        ))}
      </Menu>
    </Box>
  );
}
