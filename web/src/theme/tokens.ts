/** The tokens of the look, by scheme. */
export interface Tokens {
  paper: string;
  sheet: string;
  card: string;
  ink: string;
  inkSoft: string;
  line: string;
  sea: string;
  /** Sea under the pointer: further from what is written on it. */
  seaPressed: string;
  signal: string;
  good: string;
  warn: string;
  stop: string;
  note: string;
}

export const DAY: Tokens = {
  paper: '#F2EDE2',
  sheet: '#FAF7F0',
  card: '#FFFFFF',
  ink: '#1B2A32',
  inkSoft: '#55656D',
  line: '#D9D0BE',
  sea: '#0E5A6B',
  seaPressed: '#0A4654',
  signal: '#C8501F',
  good: '#2F7049',
  warn: '#8F5F0F',
  stop: '#AE2A1E',
  note: '#4C5F86',
};

export const NIGHT: Tokens = {
  paper: '#10181D',
  sheet: '#162127',
  card: '#1D2B33',
  ink: '#EAE5D9',
  inkSoft: '#A3B0B5',
  line: '#2E3F48',
  sea: '#6BB8C8',
  seaPressed: '#8FCDD9',
  signal: '#F2905F',
  good: '#7FC79B',
  warn: '#E0B25C',
  stop: '#F08A80',
  note: '#9DB0DA',
};

export const FONT = {
  title: '"Bricolage Grotesque Variable", sans-serif',
  text: '"Instrument Sans Variable", sans-serif',
  figures: '"Martian Mono Variable", monospace',
};
