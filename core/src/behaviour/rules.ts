/** What a game passes in, as the platform says. `always`: on this platform it never has another value. */
export type ParameterRule = { name: string; title: string; about: string } &
  /** `moves`: it is how fast the body goes that way, metres a second. */
  (
    | { kind: 'number'; unit: string; min: number; max: number; whole?: boolean; moves?: 'ahead' | 'left'; always?: number }
    | { kind: 'names'; values: string[]; always?: string }
    | { kind: 'yes-no'; always?: 'yes' | 'no' }
    /** There for the one frame in which it is sent. */
    | { kind: 'signal' }
  );

/** What a platform plays by values that its game passes in. */
export interface BehavioursRules {
  parameters: ParameterRule[];
  /** How many passages of 0 seconds a layer takes within one frame. */
  chain: number;
}

/** Values of parameters by name: numbers, names (`yes` and `no` among them), and whether a signal is sent. */
export type Values = Readonly<Record<string, number | string | boolean>>;
