import { parseMidi } from 'midi-file';
import { createRandom } from '../units';
import { readMidi, writeMidi } from './index';

/** Worked example of the format notes: beats at 0, 512345, 1020001 and 1540777 µs at 960 ticks a quarter. */
const anchors = [0, 0.512345, 1.020001, 1.540777].map((seconds, quarters) => ({ quarters, seconds }));

describe('writing', () => {
  it('gives the tempi of the worked example (MMA RP-001; checked there with three readers)', () => {
    const bytes = writeMidi({
      name: 'Tempo',
      ppq: 960,
      anchors,
      meters: [{ quarters: 0, numerator: 4, denominator: 4 }],
      markers: [
        { quarters: 0, text: 'Intro' },
        { quarters: 3, text: 'Verse' },
      ],
    });
    const read = readMidi(bytes);
    if (!read.ok) throw new Error('unreadable');
    expect(read.value.tempos.map((t) => t.microsecondsPerQuarter)).toEqual([512345, 507656, 520776]);
    expect(read.value.toSeconds(2880)).toBeCloseTo(1.540777, 9);
    expect(read.value.markers).toEqual([
      { tick: 0, text: 'Intro' },
      { tick: 2880, text: 'Verse' },
    ]);
    expect(Buffer.from(bytes.subarray(0, 14)).toString('hex')).toBe('4d546864000000060001000103c0');
  });
  it('never lets errors add up: 2000 swinging quarters within 0.5 µs, by an independent reader (npm midi-file; seed 5)', () => {
    const random = createRandom(5);
    const points = [{ quarters: 0, seconds: 0 }];
    for (let q = 1; q <= 2000; q++)
      points.push({ quarters: q, seconds: (points.at(-1)?.seconds ?? 0) + 0.4 + 0.2 * random() });
    const bytes = writeMidi({
      name: 'x',
      ppq: 960,
      anchors: points,
      meters: [{ quarters: 0, numerator: 4, denominator: 4 }],
      markers: [],
    });
    const file = parseMidi(bytes);
    let tick = 0;
    let micros = 0;
    let tempo = 500_000;
    const at = new Map<number, number>([[0, 0]]);
    for (const event of file.tracks[0] ?? []) {
      micros += (event.deltaTime * tempo) / 960;
      tick += event.deltaTime;
      at.set(tick, micros);
      if (event.type === 'setTempo') tempo = event.microsecondsPerBeat;
    }
    for (const p of points)
      expect(Math.abs((at.get(p.quarters * 960) ?? NaN) - p.seconds * 1e6)).toBeLessThan(0.51);
  });
  it('refuses anchors off the grid and impossible tempi', () => {
    const plan = { name: '', ppq: 960, meters: [], markers: [] };
    expect(() =>
      writeMidi({
        ...plan,
        anchors: [
          { quarters: 0, seconds: 0 },
          { quarters: 1 / 7, seconds: 1 },
        ],
      }),
    ).toThrow(RangeError);
    expect(() =>
      writeMidi({
        ...plan,
        anchors: [
          { quarters: 0, seconds: 0 },
          { quarters: 1, seconds: 40 },
        ],
      }),
    ).toThrow(RangeError);
  });
});

describe('reading', () => {
  it('answers what is wrong instead of throwing', () => {
    expect(readMidi(Uint8Array.from([1, 2, 3]))).toEqual({ ok: false, error: { code: 'midi.not_midi' } });
    const good = writeMidi({ name: 'x', ppq: 960, anchors, meters: [], markers: [] });
    expect(readMidi(Uint8Array.from([...good.subarray(0, 12), 0xe7, 0x28, ...good.subarray(14)]))).toEqual({
      ok: false,
      error: { code: 'midi.no_quarters' },
    });
  });
  it('survives a thousand damaged files (seed 9)', () => {
    const good = writeMidi({
      name: 'x',
      ppq: 960,
      anchors,
      meters: [{ quarters: 0, numerator: 3, denominator: 4 }],
      markers: [{ quarters: 1, text: 'm' }],
    });
    const random = createRandom(9);
    for (let i = 0; i < 1000; i++) {
      const bad = good.slice(0, 14 + Math.floor(random() * (good.length - 14)));
      for (let k = 0; k < 4; k++) bad[Math.floor(random() * bad.length)] = Math.floor(random() * 256);
      expect(() => readMidi(bad)).not.toThrow();
    }
  });
});
