// Sound of the demo footage, synthesised: 48 kHz stereo, the same each time.
import { stream } from './parts/random.js';

const RATE = 48000;

/** Noise through two one-pole filters: a low pass at `high` Hz and a high pass at `low` Hz. */
function noise(seed, low, high) {
  const r = stream(seed);
  const a = 1 - Math.exp((-2 * Math.PI * high) / RATE);
  const b = 1 - Math.exp((-2 * Math.PI * low) / RATE);
  let [x, y] = [0, 0];
  return () => {
    x += a * (r() * 2 - 1 - x);
    y += b * (x - y);
    return x - y;
  };
}

/** A struck bell: partials that die away, the high ones first. */
const bell = (t, f) => (t < 0 ? 0 : [1, 2.01, 2.76, 5.4].reduce((s, p, i) => s + Math.exp(-t * (2.2 + 2.4 * i)) * Math.sin(2 * Math.PI * f * p * t) * [0.5, 0.3, 0.22, 0.1][i], 0));
const tick = (t) => (t < 0 ? 0 : Math.exp(-t * 260) * Math.sin(2 * Math.PI * 2600 * t));

const SCORES = {
  dusk(seconds) {
    const [rumble, hiss, wind] = [noise(1, 25, 140), noise(2, 1800, 5200), noise(3, 90, 500)];
    return (t) => {
      const near = t / seconds;
      const speed = 1 - near;
      const whine = Math.sin(2 * Math.PI * (90 * t + 140 * (t - (t * t) / (2 * seconds)))) * 0.05 * speed;
      return (
        rumble() * (1.2 + 3 * near) * (0.25 + speed) +
        hiss() * 0.3 * near * speed +
        wind() * 0.5 +
        whine +
        0.22 * bell(t - 2.1, 980) +
        0.22 * bell(t - 2.45, 980) +
        0.1 * bell(t - 6.8, 980)
      );
    };
  },
  conductor() {
    const [air, crowd] = [noise(4, 200, 1500), noise(5, 250, 900)];
    return (t) => air() * 0.35 + crowd() * 0.5 * (1 + 0.6 * Math.sin(t * 3.1) * Math.sin(t * 1.7)) + 0.3 * bell(t - 3.2, 1240);
  },
  workshop() {
    const [room, scrape] = [noise(6, 60, 400), noise(7, 2200, 6000)];
    return (t) =>
      room() * 0.45 +
      0.02 * Math.sin(2 * Math.PI * 100 * t) +
      0.5 * tick(t % 1) +
      0.3 * tick((t % 1) - 0.08) +
      scrape() * 0.35 * Math.max(0, Math.sin(t * 2.4)) ** 8 +
      0.3 * bell(t - 4.4, 2100) * Math.exp(-(t - 4.4) * 6 * (t > 4.4));
  },
  street() {
    const [leaves, rumble] = [noise(8, 1200, 5000), noise(9, 25, 160)];
    const r = stream(10);
    const chirps = Array.from({ length: 22 }, () => ({ at: r() * 8, f: 2600 + 2200 * r(), long: 0.05 + 0.08 * r() }));
    return (t) => {
      const birds = chirps.reduce((s, c) => {
        const u = (t - c.at) / c.long;
        return u < 0 || u > 1 ? s : s + Math.sin(2 * Math.PI * (c.f * t + 300 * Math.sin(u * 9))) * Math.sin(Math.PI * u) * 0.06;
      }, 0);
      const pass = Math.exp(-((t - 4) ** 2) / 5);
      return leaves() * 0.16 * (1 + 0.5 * Math.sin(t * 0.8)) + rumble() * 4.2 * pass + birds + 0.2 * bell(t - 1.6, 980);
    };
  },
};

/** A WAV file (16 bits, stereo) of a scene's sound. */
export function sound(scene, seconds) {
  const samples = Math.round(seconds * RATE);
  const [left, right] = [SCORES[scene](seconds), SCORES[scene](seconds)];
  const data = Buffer.alloc(44 + samples * 4);
  data.write('RIFF', 0);
  data.writeUInt32LE(36 + samples * 4, 4);
  data.write('WAVEfmt ', 8);
  data.writeUInt32LE(16, 16);
  data.writeUInt16LE(1, 20);
  data.writeUInt16LE(2, 22);
  data.writeUInt32LE(RATE, 24);
  data.writeUInt32LE(RATE * 4, 28);
  data.writeUInt16LE(4, 32);
  data.writeUInt16LE(16, 34);
  data.write('data', 36);
  data.writeUInt32LE(samples * 4, 40);
  const code = (v) => Math.max(-32767, Math.min(32767, Math.round(v * 0.6 * 32767)));
  for (let i = 0; i < samples; i++) {
    const t = i / RATE;
    const edge = Math.min(1, t / 0.05, (seconds - t) / 0.05);
    data.writeInt16LE(code(left(t) * edge), 44 + i * 4);
    data.writeInt16LE(code(right(t + 0.00035) * edge), 46 + i * 4);
  }
  return data;
}
