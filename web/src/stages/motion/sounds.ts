/** A sound made of a few partials, each a sine that dies away, with a breath of noise. All are our own. */
interface Voice {
  name: string;
  seconds: number;
  partials: { hz: number; to?: number; strength: number; decay: number }[];
  noise: number;
}

export const SOUNDS: Voice[] = [
  {
    name: 'harbour bell',
    seconds: 1.6,
    partials: [
      { hz: 523, strength: 0.5, decay: 2.2 },
      { hz: 1412, strength: 0.25, decay: 4 },
      { hz: 2830, strength: 0.12, decay: 7 },
    ],
    noise: 0,
  },
  {
    name: 'foghorn',
    seconds: 1.8,
    partials: [
      { hz: 98, strength: 0.6, decay: 0.6 },
      { hz: 147, strength: 0.3, decay: 0.7 },
      { hz: 196, strength: 0.2, decay: 0.9 },
    ],
    noise: 0.02,
  },
  { name: 'plank knock', seconds: 0.25, partials: [{ hz: 210, to: 150, strength: 0.7, decay: 22 }], noise: 0.15 },
  {
    name: 'tram brake',
    seconds: 0.9,
    partials: [
      { hz: 2100, to: 1500, strength: 0.15, decay: 2.5 },
      { hz: 3170, to: 2300, strength: 0.1, decay: 3 },
    ],
    noise: 0.12,
  },
  { name: 'splash', seconds: 0.7, partials: [{ hz: 380, to: 120, strength: 0.15, decay: 8 }], noise: 0.5 },
];

let audio: AudioContext | null = null;
const RATE = 44_100;

/** Samples of a sound, −1 to 1. */
export function samplesOfSound(voice: Voice): Float32Array<ArrayBuffer> {
  const out = new Float32Array(Math.round(voice.seconds * RATE));
  let noise = 0;
  let state = 1;
  const phases = voice.partials.map(() => 0);
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    voice.partials.forEach(({ hz, to = hz, strength, decay }, p) => {
      phases[p] += (2 * Math.PI * (hz + ((to - hz) * t) / voice.seconds)) / RATE;
      out[i] += strength * Math.exp(-decay * t) * Math.sin(phases[p]);
    });
    state = (state * 16807) % 2147483647;
    noise += 0.35 * ((2 * state) / 2147483647 - 1 - noise);
    out[i] += voice.noise * noise * Math.exp((-5 * t) / voice.seconds);
    // A few milliseconds in and out, so that nothing clicks.
    out[i] *= Math.min(1, t / 0.004, (voice.seconds - t) / 0.02);
  }
  return out;
}

/** Plays a shipped sound; other names are silent. */
export function hear(name: string): void {
  const voice = SOUNDS.find((one) => one.name === name);
  if (!voice || typeof AudioContext === 'undefined') return;
  audio ??= new AudioContext();
  const samples = samplesOfSound(voice);
  const buffer = audio.createBuffer(1, samples.length, RATE);
  buffer.copyToChannel(samples, 0);
  const source = audio.createBufferSource();
  source.buffer = buffer;
  source.connect(audio.destination);
  source.start();
}
