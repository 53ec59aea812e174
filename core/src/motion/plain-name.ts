const SIDES: [RegExp, string][] = [
  [/(^|[ _.-])(l|lf|left)(?=$|[ _.-])/g, '$1<'],
  [/(^|[ _.-])(r|rt|right)(?=$|[ _.-])/g, '$1>'],
];

/** A name without what programs add to it: a namespace, a mark of the kind, separators; sides as one sign each. */
export function plainName(name: string): string {
  let plain = name
    .replace(/^.*[:|]/, '')
    .replace(/([a-z])([A-Z])/g, '$1_$2')
    .toLowerCase();
  for (const [pattern, sign] of SIDES) plain = plain.replace(pattern, sign);
  plain = plain
    .replace(/^(left|right)/, (side) => (side === 'left' ? '<' : '>'))
    .replace(/(left|right)$/, (side) => (side === 'left' ? '<' : '>'));
  const letters = plain
    .replace(/[ _.-]+/g, ' ')
    .replace(/\b(jnt|joint|bone|def|ctrl|bip\d*)\b/g, '')
    .replace(/[^a-z0-9<>]/g, '');
  const side = /[<>]/.exec(letters)?.[0] ?? '';
  return side + letters.replace(/[<>]/g, '');
}
