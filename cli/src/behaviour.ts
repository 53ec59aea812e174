import { proofsOf, timelessIn, type Claim, type Values } from '@itchkit/core/behaviour';
import { count, type Behaviour, type Blobs, type Id, type Kit } from '@itchkit/core/document';
import { runChecks, type Finding, type Rulebook, withDerived } from '@itchkit/core/rulebook';
import { STOPS, type Answer } from './job';

/** A claim by names: what it is about, and values that show it. */
interface SaidClaim {
  kind: Claim['kind'];
  layer?: string;
  states?: string[];
  passages?: string[];
  parameter?: string;
  values?: Values | string[];
}

/** What is proven of what plays when. */
export interface Proven {
  file: string;
  ok: true;
  target: { id: string; version: string };
  layers: { name: string; states: number; passages: number }[];
  claims: SaidClaim[];
  findings: Pick<Finding, 'check' | 'grade' | 'message'>[];
}

function saidOf({ layers }: Behaviour, claim: Claim): SaidClaim {
  const layer = 'layer' in claim ? layers.find(({ id }) => id === claim.layer)! : null;
  const state = (id: Id) => layer!.states.find((one) => one.id === id)!.name;
  const passage = (id: Id) => {
    const { from, to } = layer!.passages.find((one) => one.id === id)!;
    return `${from === null ? '*' : state(from)} → ${state(to)}`;
  };
  const base = { kind: claim.kind, ...(layer && { layer: layer.name }) };
  switch (claim.kind) {
    case 'unreached':
    case 'stuck':
      return { ...base, states: [state(claim.state)] };
    case 'never':
      return { ...base, passages: [passage(claim.passage), ...claim.by.map(passage)] };
    case 'both':
      return { ...base, states: [state(claim.state)], passages: claim.passages.map(passage), values: claim.values };
    case 'endless':
      return { ...base, states: claim.states.map(state), values: claim.values };
    case 'unknown':
      return { ...base, passages: [passage(claim.passage)], parameter: claim.parameter, ...(claim.value && { values: [claim.value] }) };
    case 'unsure':
      return base;
    case 'unread':
      return { ...base, parameter: claim.parameter };
    case 'alike':
      return { ...base, parameter: claim.parameter, values: claim.values };
  }
}

/** What is proven of a kit's behaviour, with the findings of its rulebook. Ends with 1 where something stops it. */
export function behaviourProven(file: string, kit: Kit, rulebook: Rulebook, blobs: Blobs): Answer {
  const behaviour = kit.behaviour ?? { layers: [] };
  const findings = runChecks({ kit, rulebook, blobs }).filter(({ family }) => family === 'behaviour');
  const result: Proven = {
    file,
    ok: true,
    target: { id: rulebook.id, version: rulebook.version },
    layers: behaviour.layers.map(({ name, states, passages }) => ({ name, states: states.length, passages: passages.length })),
    claims: proofsOf(behaviour, withDerived(rulebook, kit.derived).behaviours?.parameters ?? [], timelessIn(kit), kit.mixes).map((claim) =>
      saidOf(behaviour, claim),
    ),
    findings: findings.map(({ check, grade, message }) => ({ check, grade, message })),
  };
  const layers = result.layers.map(({ name, states, passages }) => `  ${name}: ${count(states, 'state')}, ${count(passages, 'passage')}\n`);
  const said = result.findings.map(({ grade, message }) => `  ${grade.padEnd(4)} ${message}\n`);
  const nothing = behaviour.layers.length === 0 ? '  Nothing says what plays when.\n' : '  All of it can happen, and nothing else.\n';
  const text = `${file}  for ${rulebook.id} ${rulebook.version}\n${layers.join('')}${said.join('') || nothing}`;
  return { result, text, exitCode: findings.some(({ grade }) => grade === 'stop') ? STOPS : 0 };
}
