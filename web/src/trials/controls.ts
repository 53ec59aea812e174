import { lazy, type ComponentType } from 'react';

const known = new Map<string, ComponentType>();

/** The controls of a platform's stand-in, the default export of `trials/<platform>/Controls.tsx`; a test asks for one of each in core. */
export function trialControls(platform: string): ComponentType {
  const controls = known.get(platform) ?? lazy(() => import(`./${platform}/Controls`) as Promise<{ default: ComponentType }>);
  known.set(platform, controls);
  return controls;
}
