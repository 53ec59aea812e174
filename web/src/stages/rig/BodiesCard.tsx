'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import Radio from '@mui/material/Radio';
import Close from '@mui/icons-material/Close';
import { useState } from 'react';
import { callOf, count, nameList, newId, type Coupling, type Id } from '@itchkit/core/document';
import { anchorBody, dropBodies, gatherBodies, makeBody, uncouple } from '@itchkit/core/rig';
import { TryButton } from '../../card/TryButton';
import { Buttons } from '../../panels/Fold';
import { Empty, Section } from '../../panels/Section';
import { useKit, useRun, useSetUi, useUi } from '../../session/context';
import { CouplingEditor } from './CouplingEditor';
import { CouplingSwing } from './CouplingSwing';

/** Parts held together as rigid bodies, and what couples them. */
export function BodiesCard() {
  const kit = useKit();
  const [edited, setEdited] = useState<Id | null>(null);
  const bodies = kit.bodies ?? [];
  const couplings = kit.couplings ?? [];
  const known = couplings.find(({ id }) => id === edited) ?? null;
  return (
    <>
      <Bodies />
      {bodies.length > 1 && (
        <Section title="Couplings" aside={<span className="figures">{couplings.length}</span>}>
          <Box sx={{ mt: 1 }}>
            {couplings.map((coupling) => (
              <CouplingRow
                key={coupling.id}
                coupling={coupling}
                open={edited === coupling.id}
                onOpen={() => setEdited(edited === coupling.id ? null : coupling.id)}
              />
            ))}
            {couplings.length > 0 && (
              <Box sx={{ fontSize: 12.5, color: 'text.secondary', mt: 1 }}>
                Pull a body on the bench: the assembly moves as its couplings let it. R brings it back.
              </Box>
            )}
            <Box sx={{ mt: 1.5 }}>
              <Button variant="outlined" onClick={() => setEdited(edited === 'new' ? null : 'new')}>
                {edited === 'new' ? 'Leave it' : 'Couple two bodies …'}
              </Button>
            </Box>
          </Box>
        </Section>
      )}
      {(edited === 'new' || known) && bodies.length > 1 && <CouplingEditor key={edited} coupling={known} onDone={setEdited} />}
    </>
  );
}

function Bodies() {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const bodies = kit.bodies ?? [];
  const [asking, setAsking] = useState(false);
  const hold = (anchored: boolean) => {
    setAsking(false);
    run(callOf(makeBody, { id: newId(), parts: selection, anchored }));
  };
  const shown = Object.values(kit.parts).filter((part) => part.mesh !== null);
  const chosen = selection.length > 1 ? selection : shown.map(({ id }) => id);
  const which = selection.length > 1 ? `${selection.length} chosen parts` : 'all parts';
  return (
    <Section title="Bodies" aside={<span className="figures">{bodies.length}</span>}>
      {bodies.length === 0 && (
        <Empty>No part is held to another yet. What is one piece becomes one body; bodies are coupled by hinges, slides and balls.</Empty>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, mt: bodies.length > 0 ? 1 : 0 }}>
        {bodies.map((body) => (
          <Box component="li" key={body.id} sx={{ display: 'flex', alignItems: 'center' }}>
            <Radio
              size="small"
              checked={body.anchored}
              onChange={() => run(callOf(anchorBody, { body: body.id }))}
              slotProps={{ input: { 'aria-label': `Anchor ${body.name}` } }}
              title="Stands still"
            />
            <ButtonBase
              onClick={() => setUi({ selection: body.parts })}
              sx={{ flex: 1, justifyContent: 'space-between', fontSize: 13, px: 0.5, py: 0.5, gap: 1, textAlign: 'left' }}
            >
              <span>{body.name}</span>
              <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
                {body.anchored ? 'anchored, ' : ''}
                {count(body.parts.length, 'part')}
              </Box>
            </ButtonBase>
            <IconButton size="small" aria-label={`Let ${body.name} go`} onClick={() => run(callOf(dropBodies, { bodies: [body.id] }))}>
              <Close sx={{ fontSize: 16 }} />
            </IconButton>
          </Box>
        ))}
      </Box>
      <Box sx={{ mt: 1.5 }}>
        <Buttons>
          <Button
            variant="outlined"
            disabled={selection.length === 0}
            onClick={() => (bodies.some((body) => body.anchored) ? hold(true) : setAsking(true))}
          >
            {selection.length > 0 ? `Hold ${count(selection.length, 'chosen part')} together` : 'Hold chosen parts together'}
          </Button>
          <TryButton
            disabled={chosen.length === 0}
            title={`Of ${which}`}
            calls={() => callOf(gatherBodies, { parts: chosen, by: 'touch' })}
          >
            What touches
          </TryButton>
          <TryButton
            disabled={chosen.length === 0}
            title={`Of ${which}`}
            calls={() => callOf(gatherBodies, { parts: chosen, by: 'material' })}
          >
            What is of one material
          </TryButton>
        </Buttons>
      </Box>
      {asking && <AskAnchor names={selection.map((id) => kit.parts[id].name)} onAnswer={hold} onClose={() => setAsking(false)} />}
    </Section>
  );
}

/** Nothing stands still yet: whether what is held together first does is for a person to say. */
function AskAnchor({ names, onAnswer, onClose }: { names: string[]; onAnswer: (anchored: boolean) => void; onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>
        {names.length === 1 ? 'Does' : 'Do'} {nameList(names)} stand still?
      </DialogTitle>
      <DialogContent sx={{ fontSize: 13.5, lineHeight: 1.5 }}>
        One body of an assembly stands still, its anchor, and the others move against it. There is none yet.
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="outlined" onClick={() => onAnswer(false)}>
          It moves
        </Button>
        <Button variant="contained" autoFocus onClick={() => onAnswer(true)}>
          It stands still
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function CouplingRow({ coupling, open, onOpen }: { coupling: Coupling; open: boolean; onOpen: () => void }) {
  const kit = useKit();
  const run = useRun();
  const name = (id: Id) => kit.bodies?.find((body) => body.id === id)?.name;
  return (
    <Box sx={{ borderBottom: 1, borderColor: 'divider', py: 0.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <ButtonBase onClick={onOpen} aria-expanded={open} sx={{ flex: 1, display: 'block', textAlign: 'left', fontSize: 13, py: 0.5 }}>
          <b>{coupling.name}</b>
          <Box sx={{ color: 'text.secondary', fontSize: 12 }}>
            {coupling.kind}: {name(coupling.from)} holds {name(coupling.to)}
          </Box>
        </ButtonBase>
        <IconButton
          size="small"
          aria-label={`Take out ${coupling.name}`}
          onClick={() => run(callOf(uncouple, { couplings: [coupling.id] }))}
        >
          <Close sx={{ fontSize: 16 }} />
        </IconButton>
      </Box>
      {coupling.kind !== 'ball' && <CouplingSwing coupling={coupling} />}
    </Box>
  );
}
