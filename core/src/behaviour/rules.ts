/** What a game passes in, as the platform says. `always`: on this platform it never has another value. */
export type ParameterRule = { name: string; title: string; about: string } &
  /**
   * `moves`: it is how fast the body goes that way, metres a second. `expression`: the game does not pass it in, the kit works it out of
   * what it does.
   */
  (
    | {
        kind: 'number';
        unit: string;
        min: number;
        max: number;
        whole?: boolean;
        moves?: 'ahead' | 'left';
        always?: number;
        expression?: string;
      }
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

/** What is passed in where nothing else is said: nothing moves, nothing is sent. */
export function valuesAtStart(parameters: readonly ParameterRule[]): Values {
  return Object.fromEntries(parameters.map((rule) => [rule.name, atStart(rule)]));
}

function atStart(rule: ParameterRule): number | string | boolean {
  if (rule.kind === 'signal') return false;
  if (rule.always !== undefined) return rule.always;
  if (rule.kind === 'yes-no') return 'no';
  return rule.kind === 'names' ? rule.values[0] : Math.min(Math.max(0, rule.min), rule.max);
}
