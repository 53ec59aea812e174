/** Numbers as people read them. */
export function formatBytes(bytes: number): string {
  if (bytes < 1024) return `${bytes} B`;
  if (bytes < 1024 * 1024) return `${(bytes / 1024).toFixed(1)} KiB`;
  return `${(bytes / 1024 / 1024).toFixed(1)} MiB`;
}

export function formatCount(n: number): string {
  return n.toLocaleString('en');
}

/** A length in metres with a unit that suits its size. */
export function formatLength(metres: number): string {
  if (metres === 0) return '0 m';
  if (metres >= 1000) return `${Number((metres / 1000).toPrecision(3)).toLocaleString('en')} km`;
  if (metres < 0.01) return `${Number((metres * 1000).toPrecision(3))} mm`;
  return `${Number(metres.toPrecision(3))} m`;
}

const AGO = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
const STEPS: [Intl.RelativeTimeFormatUnit, number][] = [
  ['year', 31_536_000],
  ['month', 2_592_000],
  ['day', 86_400],
  ['hour', 3600],
  ['minute', 60],
];

export function formatAgo(iso: string, now = Date.now()): string {
  const seconds = (now - new Date(iso).getTime()) / 1000;
  const step = STEPS.find(([, size]) => seconds >= size);
  return step ? AGO.format(-Math.floor(seconds / step[1]), step[0]) : 'just now';
}
