import * as THREE from 'three';
import { stream } from './random.js';

/** A texture painted on a canvas. */
export function painted(width, height, paint, { repeat, srgb = true } = {}) {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  paint(canvas.getContext('2d', { willReadFrequently: true }), width, height);
  const texture = new THREE.CanvasTexture(canvas);
  if (srgb) texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 2;
  if (repeat) {
    texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
    texture.repeat.set(...repeat);
  }
  return texture;
}

/** Fine speckle over what is painted, so that no surface is flat. */
export function speckle(c, w, h, seed, amount) {
  const r = stream(seed);
  const image = c.getImageData(0, 0, w, h);
  const { data } = image;
  for (let i = 0; i < data.length; i += 4) {
    const v = (r() - 0.5) * 510 * amount * r();
    data[i] += v;
    data[i + 1] += v;
    data[i + 2] += v;
  }
  c.putImageData(image, 0, 0);
}

/** Stains and streaks that run down. */
export function weather(c, w, h, seed, amount) {
  const r = stream(seed);
  for (let i = 0; i < 60; i++) {
    const x = r() * w;
    const y = r() * h;
    const long = h * (0.1 + 0.5 * r());
    const g = c.createLinearGradient(0, y, 0, y + long);
    g.addColorStop(0, `rgba(20,16,12,${amount * r()})`);
    g.addColorStop(1, 'rgba(20,16,12,0)');
    c.fillStyle = g;
    c.fillRect(x, y, 2 + r() * w * 0.04, long);
  }
}

export function bricks(w, h, seed, { base = [142, 84, 66], mortar = '#8d8377', rows = 24, across = 10, repeat }) {
  const draw = (bump) => (c) => {
    const r = stream(seed);
    c.fillStyle = bump ? '#303030' : mortar;
    c.fillRect(0, 0, w, h);
    const bh = h / rows;
    const bw = w / across;
    for (let j = 0; j < rows; j++) {
      for (let i = -1; i <= across; i++) {
        const t = 0.78 + 0.42 * r();
        const x = (i + (j % 2 ? 0.5 : 0)) * bw;
        c.fillStyle = bump ? `rgb(${150 * t},${150 * t},${150 * t})` : `rgb(${base[0] * t},${base[1] * t + 6 * r()},${base[2] * t})`;
        c.fillRect(x + bw * 0.03, j * bh + bh * 0.07, bw * 0.94, bh * 0.86);
      }
    }
    speckle(c, w, h, seed + 1, 0.08);
    if (!bump) weather(c, w, h, seed + 2, 0.22);
  };
  return painted(w, h, draw(false), { repeat });
}

export function cobbles(size, seed, repeat) {
  const draw = (bump) => (c) => {
    const r = stream(seed);
    c.fillStyle = bump ? '#101010' : '#3d3b38';
    c.fillRect(0, 0, size, size);
    const n = 16;
    const s = size / n;
    for (let j = 0; j < n; j++) {
      for (let i = -1; i <= n; i++) {
        const t = 0.7 + 0.5 * r();
        const x = (i + (j % 2) * 0.5) * s;
        const g = c.createRadialGradient(x + s / 2, j * s + s / 2, 1, x + s / 2, j * s + s / 2, s * 0.62);
        const v = bump ? 200 * t : 118 * t;
        g.addColorStop(0, `rgb(${v},${v * 0.98},${v * 0.94})`);
        g.addColorStop(1, `rgb(${v * 0.45},${v * 0.45},${v * 0.45})`);
        c.fillStyle = g;
        c.beginPath();
        c.roundRect(x + s * 0.06, j * s + s * 0.07, s * 0.88, s * 0.86, s * 0.2);
        c.fill();
      }
    }
    speckle(c, size, size, seed + 1, 0.14);
  };
  return { map: painted(size, size, draw(false), { repeat }), bumpMap: painted(size, size, draw(true), { repeat, srgb: false }), roughnessMap: undefined };
}

/** Paving slabs with their joints. */
export function slabs(size, seed, repeat) {
  return painted(
    size,
    size,
    (c) => {
      const r = stream(seed);
      c.fillStyle = '#6d675e';
      c.fillRect(0, 0, size, size);
      const s = size / 4;
      for (let j = 0; j < 4; j++) {
        for (let i = -1; i < 4; i++) {
          const v = 150 + 34 * r();
          c.fillStyle = `rgb(${v},${v * 0.97},${v * 0.92})`;
          c.fillRect((i + (j % 2) * 0.5) * s + 2, j * s + 2, s - 4, s - 4);
        }
      }
      speckle(c, size, size, seed + 1, 0.1);
      weather(c, size, size, seed + 2, 0.12);
    },
    { repeat },
  );
}

/** Short grass: blades of many greens, some of them dry. */
export function grass(size, seed, repeat) {
  return painted(
    size,
    size,
    (c) => {
      const r = stream(seed);
      c.fillStyle = '#44592c';
      c.fillRect(0, 0, size, size);
      for (let i = 0; i < 9000; i++) {
        const [x, y, g] = [r() * size, r() * size, 80 + r() * 75];
        const dry = r() < 0.12 ? 1.15 : 0.68;
        c.strokeStyle = `rgb(${g * dry},${g},${g * 0.42})`;
        c.beginPath();
        c.moveTo(x, y);
        c.lineTo(x + (r() - 0.5) * 7, y - 4 - r() * 8);
        c.stroke();
      }
    },
    { repeat },
  );
}

export function text(lines, { w = 512, h = 128, back = '#111', fore = '#f4e9c8', font = 'bold 84px "Liberation Sans", "DejaVu Sans", sans-serif', line = 100, frame } = {}) {
  return painted(w, h, (c) => {
    c.fillStyle = back;
    c.fillRect(0, 0, w, h);
    if (frame) {
      c.strokeStyle = frame;
      c.lineWidth = h * 0.04;
      c.strokeRect(h * 0.06, h * 0.06, w - h * 0.12, h - h * 0.12);
    }
    c.fillStyle = fore;
    c.font = font;
    c.textAlign = 'center';
    c.textBaseline = 'middle';
    lines.forEach((t, i) => c.fillText(t, w / 2, h / 2 + (i - (lines.length - 1) / 2) * line));
  });
}

/** A round soft light, for glows that face the camera. */
export const glow = () =>
  painted(128, 128, (c) => {
    const g = c.createRadialGradient(64, 64, 0, 64, 64, 64);
    g.addColorStop(0, 'rgba(255,255,255,1)');
    g.addColorStop(0.12, 'rgba(255,255,255,.55)');
    g.addColorStop(0.4, 'rgba(255,255,255,.12)');
    g.addColorStop(1, 'rgba(255,255,255,0)');
    c.fillStyle = g;
    c.fillRect(0, 0, 128, 128);
  });
