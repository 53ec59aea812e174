'use client';
import { Empty } from '../../panels/Section';
import { useKit, useRulebook, useUi } from '../../session/context';
import { BehaviourCard } from './behaviour/BehaviourCard';
import { Catalogue } from './Catalogue';
import { ChainSection } from './ChainSection';
import { DriveSection } from './DriveSection';
import { GroundsCard } from './grounds/GroundsCard';
import { LinkSection } from './LinkSection';
import { OwnVariables } from './OwnVariables';
import { SwitchSection } from './SwitchSection';

/** What carries the chosen part, the target's variables, and what is needed to bind the part to one. */
export function WiringCard() {
  const kit = useKit();
  const rulebook = useRulebook();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  if (!rulebook) return <Empty>Choose a target at the top: its rulebook has the catalogue of variables.</Empty>;
  return (
    <>
      {rulebook.behaviours && <BehaviourCard rulebook={rulebook} />}
      {rulebook.grounds && <GroundsCard rulebook={rulebook} />}
      {selection.length > 0 && rulebook.variables.length > 0 && <ChainSection parts={selection} rulebook={rulebook} />}
      {selection.length > 0 && rulebook.variables.length > 0 && <LinkSection parts={selection} rulebook={rulebook} />}
      {selection.length > 0 && rulebook.variables.length > 0 && <DriveSection parts={selection} rulebook={rulebook} />}
      {selection.length > 0 && rulebook.variables.length > 0 && <SwitchSection parts={selection} rulebook={rulebook} />}
      {rulebook.variables.length > 0 && <OwnVariables rulebook={rulebook} />}
      {(rulebook.variables.length > 0 || (!rulebook.grounds && !rulebook.behaviours)) && (
        <Catalogue rulebook={rulebook} part={selection.length === 1 ? kit.parts[selection[0]] : null} />
      )}
    </>
  );
}
