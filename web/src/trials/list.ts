import type { ComponentType } from 'react';
import { BrineworkControls } from './brinework/BrineworkControls';

/** The controls of each stand-in, by the rulebook's id; `core/trial` has what it does with a package. */
export const TRIAL_CONTROLS: Readonly<Record<string, ComponentType>> = { brinework: BrineworkControls };
