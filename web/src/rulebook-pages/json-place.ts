/** Where a value begins in a JSON text: the offset of what a path such as `rules.3.limit` names, or of the nearest thing above it. */
export function jsonPlace(text: string, path: string): number {
  const steps = path === '' ? [] : path.split('.');
  let at = 0;
  let best = 0;
  const skip = () => {
    while (/\s/.test(text[at] ?? '')) at++;
  };
  const string = (): string => {
    const start = at++;
    while (at < text.length && text[at] !== '"') at += text[at] === '\\' ? 2 : 1;
    at++;
    return JSON.parse(text.slice(start, at)) as string;
  };
  /** Goes over a value; `depth` is how many steps of the path have led here, or −1 off the path. */
  const value = (depth: number): void => {
    skip();
    if (depth >= 0) best = at;
    if (depth === steps.length) throw new Found();
    const open = text[at];
    if (open === '"') return void string();
    if (open !== '{' && open !== '[') {
      while (at < text.length && !/[,\]}\s]/.test(text[at])) at++;
      return;
    }
    at++;
    for (let i = 0; ; i++) {
      skip();
      if (text[at] === ',') {
        at++;
        skip();
      }
      if (at >= text.length || text[at] === '}' || text[at] === ']') break;
      let key = String(i);
      if (open === '{') {
        key = string();
        skip();
        at++;
      }
      value(depth >= 0 && steps[depth] === key ? depth + 1 : -1);
    }
    at++;
  };
  try {
    value(0);
  } catch (error) {
    if (!(error instanceof Found) && !(error instanceof SyntaxError)) throw error;
  }
  return best;
}

class Found extends Error {}

export function lineOf(text: string, offset: number): number {
  return text.slice(0, offset).split('\n').length;
}
