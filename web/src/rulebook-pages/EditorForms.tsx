'use client';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { Rulebook } from '@itchkit/core/rulebook';
import { DraftNumber, DraftText, type DraftError } from './DraftField';
import { PatternForms } from './PatternForms';
import { RuleForms } from './RuleForms';

/** Forms for what is changed most; all else is in the JSON beside them. */
export function EditorForms({ rulebook, error, onChange }: { rulebook: Rulebook; error: DraftError; onChange: (next: Rulebook) => void }) {
  const set = <K extends keyof Rulebook>(key: K, value: Rulebook[K]) => onChange({ ...rulebook, [key]: value });
  const { naming } = rulebook;
  return (
    <Box component="form" onSubmit={(event) => event.preventDefault()}>
      <Block title="What it is">
        <Row columns="1fr 170px 110px">
          <DraftText label="Title" path="title" value={rulebook.title} error={error} onChange={(value) => set('title', value)} />
          <DraftText label="Id" path="id" value={rulebook.id} error={error} onChange={(value) => set('id', value)} />
          <DraftText label="Version" path="version" value={rulebook.version} error={error} onChange={(value) => set('version', value)} />
        </Row>
        <DraftText
          label="Summary"
          path="summary"
          value={rulebook.summary}
          error={error}
          multiline
          onChange={(value) => set('summary', value)}
        />
      </Block>
      <Block title="Space">
        <Row columns="repeat(4, 1fr)">
          <DraftNumber
            label="One unit"
            unit="m"
            path="space.metresPerUnit"
            value={rulebook.space.metresPerUnit}
            error={error}
            onChange={(value) => set('space', { ...rulebook.space, metresPerUnit: value })}
          />
          <DraftNumber
            label="Tile"
            unit="m"
            path="tileMetres"
            value={rulebook.tileMetres}
            error={error}
            onChange={(value) => set('tileMetres', value)}
          />
          <DraftNumber
            label="Step"
            unit="m"
            path="stepMetres"
            value={rulebook.stepMetres}
            error={error}
            onChange={(value) => set('stepMetres', value)}
          />
          <DraftNumber
            label="Step"
            unit="°"
            path="stepDegrees"
            value={rulebook.stepDegrees}
            error={error}
            onChange={(value) => set('stepDegrees', value)}
          />
        </Row>
      </Block>
      <Block title="Names">
        <Row columns="1fr 1fr">
          <DraftText
            label="Name of the root"
            path="naming.root"
            value={naming.root}
            error={error}
            onChange={(value) => set('naming', { ...naming, root: value })}
          />
          <DraftNumber
            label="Longest name"
            unit="characters"
            path="naming.maxLength"
            value={naming.maxLength}
            error={error}
            onChange={(value) => set('naming', { ...naming, maxLength: value })}
          />
        </Row>
        <PatternForms patterns={naming.patterns} error={error} onChange={(patterns) => set('naming', { ...naming, patterns })} />
      </Block>
      <Block title={`Rules (${rulebook.rules.length})`}>
        <RuleForms rules={rulebook.rules} error={error} onChange={(rules) => set('rules', rules)} />
      </Block>
    </Box>
  );
}

function Block({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 5 }}>
      <Typography variant="h2" sx={{ mb: 2 }}>
        {title}
      </Typography>
      <Box sx={{ display: 'grid', gap: 2.5 }}>{children}</Box>
    </Box>
  );
}

function Row({ columns, children }: { columns: string; children: ReactNode }) {
  return <Box sx={{ display: 'grid', gridTemplateColumns: columns, gap: 2 }}>{children}</Box>;
}
