import { samplesOfSound, SOUNDS } from './sounds';

test.each(SOUNDS.map((voice) => [voice.name, voice] as const))(
  '%s is heard, does not clip and begins and ends without a click',
  (_, voice) => {
    const samples = samplesOfSound(voice);
    expect(samples).toHaveLength(Math.round(voice.seconds * 44_100));
    let peak = 0;
    for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
    expect(peak).toBeGreaterThan(0.05);
    expect(peak).toBeLessThanOrEqual(1);
    expect(Math.abs(samples[0])).toBeLessThan(0.01);
    expect(Math.abs(samples[samples.length - 1])).toBeLessThan(0.01);
  },
);
