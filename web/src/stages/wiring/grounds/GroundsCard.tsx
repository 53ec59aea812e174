'use client';
import type { Rulebook } from '@itchkit/core/rulebook';
import { CollidersSection } from './CollidersSection';
import { FactsSection } from './FactsSection';
import { NightSection } from './NightSection';
import { SeatsSection } from './SeatsSection';
import { TilesSection } from './TilesSection';
import { WalkwaySection } from './WalkwaySection';

/** How a thing stands on tiles, in the order of the work. */
export function GroundsCard({ rulebook }: { rulebook: Rulebook }) {
  return (
    <>
      <TilesSection rulebook={rulebook} />
      <SeatsSection rulebook={rulebook} />
      <CollidersSection rulebook={rulebook} />
      <WalkwaySection rulebook={rulebook} />
      <NightSection rulebook={rulebook} />
      <FactsSection rulebook={rulebook} />
    </>
  );
}
