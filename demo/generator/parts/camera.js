// A camera: what is drawn passes a lens and a shutter and falls on a sensor. A frame is the mean, in linear light, of several
// pictures, each from another place of the pupil, moment of the shutter, point of the sun and of the sky.
import * as THREE from 'three';

/** The radical inverse of `i` in `base`: evenly spread numbers in 0..1 (van der Corput's sequence). */
export function spread(i, base) {
  let [value, share] = [0, 1 / base];
  for (; i > 0; i = Math.floor(i / base), share /= base) value += (i % base) * share;
  return value;
}

/** A point of the unit disc from two numbers in 0..1, areas kept. */
const onDisc = (u, v) => [Math.sqrt(u) * Math.cos(v * 2 * Math.PI), Math.sqrt(u) * Math.sin(v * 2 * Math.PI)];

/**
 * Light of a clear or a clouded day: a sun with a face of some width and a sky, both with shadows.
 * @param toSun towards the sun @param sun, sky strengths @param reach half the side of the square that is lit with shadows
 * @returns the lights in a group, and `place(i, n)`, which moves them to sample `i` of `n`
 */
export function daylight({ toSun, sunColour, sun, skyColour, sky, bounce, reach, centre = [0, 0, 0], texels = 2048, width = 0.02 }) {
  const group = new THREE.Group();
  const towards = new THREE.Vector3(...toSun).normalize();
  const [right, up] = [new THREE.Vector3(), new THREE.Vector3()];
  right.crossVectors(towards, new THREE.Vector3(0, 1, 0)).normalize();
  up.crossVectors(right, towards);
  const lamp = (colour, strength, size, radius) => {
    const light = new THREE.DirectionalLight(colour, strength);
    light.castShadow = true;
    light.shadow.mapSize.set(size, size);
    Object.assign(light.shadow.camera, { left: -reach, right: reach, top: reach, bottom: -reach, near: 0.1, far: reach * 6 });
    light.shadow.bias = -0.0006;
    light.shadow.normalBias = (reach / size) * 2.5;
    light.shadow.radius = radius;
    light.target.position.set(...centre);
    group.add(light, light.target);
    return light;
  };
  const disc = lamp(sunColour, sun, texels, 1.5);
  const dome = lamp(skyColour, sky, texels / 2, 4);
  // What the shadows of the sky leave: light thrown back by the ground and by what stands around.
  group.add(new THREE.HemisphereLight(skyColour, bounce, sky * 0.28));
  const at = (light, direction) => light.position.set(...centre).addScaledVector(direction, reach * 3);
  return {
    group,
    place(i, n) {
      const [a, b] = onDisc((i + 0.5) / n, spread(i, 3)).map((v) => v * width);
      at(disc, towards.clone().addScaledVector(right, a).addScaledVector(up, b).normalize());
      // By the cosine: each sample then stands for the same share of what falls on level ground.
      const [x, z] = onDisc(((i * 5) % n) / n + 0.5 / n, spread(i, 2) + 0.13);
      at(dome, new THREE.Vector3(x * 0.97, Math.sqrt(1 - 0.94 * (x * x + z * z)), z * 0.97));
    },
  };
}

/** Blurs one channel by three running means, close to a Gaussian of the sigma given, in place. */
function blur(plane, w, h, sigma) {
  const r = Math.max(1, Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2));
  const line = new Float32Array(Math.max(w, h));
  const pass = (start, step, length) => {
    let sum = 0;
    for (let i = 0; i < length; i++) line[i] = plane[start + i * step];
    for (let i = -r; i <= r; i++) sum += line[Math.min(length - 1, Math.max(0, i))];
    for (let i = 0; i < length; i++) {
      plane[start + i * step] = sum / (2 * r + 1);
      sum += line[Math.min(length - 1, i + r + 1)] - line[Math.max(0, i - r)];
    }
  };
  for (let k = 0; k < 3; k++) {
    for (let y = 0; y < h; y++) pass(y * w, 1, w);
    for (let x = 0; x < w; x++) pass(x, w, h);
  }
}

/** Light to code: straight up to half, then a knee; what is more than some four times white clips. Then sRGB's curve. */
const CODES = new Uint8Array(8192).map((_, i) => {
  const x = (i / 8191) * 4;
  const y = x < 0.5 ? x : 0.5 + (0.5 * (1 - Math.exp(-(x - 0.5) / 0.62))) / (1 - Math.exp(-3.1 / 0.62));
  return Math.round(255 * Math.min(1, y <= 0.0031308 ? 12.92 * y : 1.055 * y ** (1 / 2.4) - 0.055));
});

/**
 * Sums pictures of a scene in linear light, each from another place of the pupil and shifted by parts of a pixel.
 * @param before called with each sample's number, to pose what moves @param pupil, focus in units of the scene
 * @returns the sum, three numbers a pixel, lowest line first
 */
function expose(renderer, scene, eye, { samples, pupil, focus }, width, height, before) {
  const target = new THREE.WebGLRenderTarget(width, height, { type: THREE.FloatType, colorSpace: THREE.LinearSRGBColorSpace });
  const count = width * height;
  const part = new Float32Array(count * 4);
  const sum = new Float32Array(count * 3);
  const [dx, dy, dz] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
  const high = 2 * focus * Math.tan((eye.fov * Math.PI) / 360);
  renderer.setRenderTarget(target);
  for (let i = 0; i < samples; i++) {
    before(i);
    const [px, py] = onDisc(spread(i + 1, 2), spread(i + 1, 3)).map((v) => (v * pupil) / 2);
    eye.updateMatrixWorld();
    eye.matrixWorld.extractBasis(dx, dy, dz);
    const stood = eye.position.clone();
    eye.position.addScaledVector(dx, px).addScaledVector(dy, py);
    // The frustum is shifted so that the plane in focus stays where it is.
    const [jx, jy] = [spread(i + 1, 5) + spread(i + 1, 7) - 1, spread(i + 1, 11) + spread(i + 1, 13) - 1];
    eye.setViewOffset(width, height, (-px / high) * height + jx, (py / high) * height + jy, width, height);
    renderer.render(scene, eye);
    eye.position.copy(stood);
    renderer.readRenderTargetPixels(target, 0, 0, width, height, part);
    for (let p = 0, q = 0; p < count * 4; p += 4, q += 3) {
      sum[q] += part[p];
      sum[q + 1] += part[p + 1];
      sum[q + 2] += part[p + 2];
    }
  }
  target.dispose();
  return sum;
}

/**
 * Puts a picture of what is far in its place: it is out of focus, and would cost most of the time of each frame.
 * @param far what the picture shows @param eye where it is taken from @param distance of the picture, in units
 * @param margin how much wider than the eye sees, so that the camera may move
 */
export function backdrop(renderer, { scene, far, eye, light, optics, distance, margin }, { width, height }) {
  const wide = eye.clone();
  wide.fov = (Math.atan(Math.tan((eye.fov * Math.PI) / 360) * margin) * 360) / Math.PI;
  const [w, h] = [width, height].map((v) => Math.round(v * margin));
  const others = scene.children.filter((child) => child !== far && child !== light.group && child.visible && child !== scene.userData.dome);
  for (const other of others) other.visible = false;
  const sum = expose(renderer, scene, wide, optics, w, h, (i) => light.place(i, optics.samples));
  for (const other of others) other.visible = true;
  const data = new Float32Array(w * h * 4).map((_, i) => (i % 4 === 3 ? 1 : sum[(i >> 2) * 3 + (i % 4)] / optics.samples));
  const map = new THREE.DataTexture(data, w, h, THREE.RGBAFormat, THREE.FloatType);
  map.needsUpdate = true;
  const high = 2 * distance * Math.tan((wide.fov * Math.PI) / 360);
  const picture = new THREE.Mesh(new THREE.PlaneGeometry((high * w) / h, high), new THREE.MeshBasicMaterial({ map, fog: false, toneMapped: false }));
  picture.quaternion.copy(eye.quaternion);
  picture.position.copy(eye.position).add(new THREE.Vector3(0, 0, -distance).applyQuaternion(eye.quaternion));
  scene.remove(far, scene.userData.dome);
  scene.add(picture);
}

/**
 * @param optics `samples` pictures a frame; `shutter` share of the frame it is open; `pupil` its diameter and `focus` the distance in
 *   units of the scene; `exposure`; `veil` share of light scattered in the lens; `noise` of the sensor at white
 * @returns `take(n, pixels)`: frame n as RGBA bytes, lowest line first
 */
export function camera(renderer, { scene, camera: eye, pose, light, optics }, { width, height, rate }) {
  const [qw, qh] = [width >> 2, height >> 2];
  const { samples, shutter, exposure, veil, noise } = optics;
  let state = 1;
  /** A normal number, near enough: the sum of four bytes of a linear congruential generator. */
  const normal = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const a = (state >>> 8) ^ (state << 7);
    return ((a & 255) + ((a >>> 8) & 255) + ((a >>> 16) & 255) + (state >>> 24) - 510) / 148;
  };
  return {
    take(n, pixels) {
      const sum = expose(renderer, scene, eye, optics, width, height, (i) => {
        pose((n + (shutter * (i + 0.5)) / samples) / rate);
        light?.place(i, samples);
      });
      const scale = exposure / samples;
      for (let q = 0; q < sum.length; q++) sum[q] = Math.min(24, sum[q] * scale);
      // Scatter in the lens, at a quarter of the size: a narrow and a wide part.
      const glows = [0, 1, 2].map((c) => {
        const narrow = new Float32Array(qw * qh);
        for (let y = 0; y < qh * 4; y++) for (let x = 0; x < qw * 4; x++) narrow[(y >> 2) * qw + (x >> 2)] += sum[(y * width + x) * 3 + c] / 16;
        const wide = narrow.slice();
        blur(narrow, qw, qh, height / 400);
        blur(wide, qw, qh, height / 50);
        return narrow.map((v, i) => v * 0.6 + wide[i] * 0.4);
      });
      state = n * 7919 + 1;
      for (let y = 0; y < height; y++) {
        const [gy, fy] = [Math.min(qh - 2, Math.max(0, Math.floor((y - 1.5) / 4))), Math.min(1, Math.max(0, (y - 1.5) / 4 - Math.floor((y - 1.5) / 4)))];
        for (let x = 0; x < width; x++) {
          const [gx, fx] = [Math.min(qw - 2, Math.max(0, Math.floor((x - 1.5) / 4))), Math.min(1, Math.max(0, (x - 1.5) / 4 - Math.floor((x - 1.5) / 4)))];
          const r2 = ((x - width / 2) ** 2 + (y - height / 2) ** 2) / (width * width * 0.33);
          const fall = 1 / (1 + 0.16 * r2) ** 2;
          const at = y * width + x;
          for (let c = 0; c < 3; c++) {
            const g = glows[c];
            const low = g[gy * qw + gx] * (1 - fx) + g[gy * qw + gx + 1] * fx;
            const high = g[(gy + 1) * qw + gx] * (1 - fx) + g[(gy + 1) * qw + gx + 1] * fx;
            const v = (sum[at * 3 + c] * (1 - veil) + (low * (1 - fy) + high * fy) * veil) * fall;
            const seen = v + normal() * noise * Math.sqrt(Math.max(0, v) + 0.01);
            pixels[at * 4 + c] = CODES[Math.min(8191, Math.max(0, Math.round(seen * (8191 / 4))))];
          }
          pixels[at * 4 + 3] = 255;
        }
      }
    },
  };
}
