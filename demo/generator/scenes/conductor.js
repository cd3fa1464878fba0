import * as THREE from 'three';
import { backdrop, daylight } from '../parts/camera.js';
import { sky, surroundings } from '../parts/sky.js';
import { bed } from '../parts/flowers.js';
import { painted, speckle, text } from '../parts/textures.js';
import { ball, carve, join, rod, surfaceNet } from '../parts/surface-net.js';
import { terrace } from '../parts/town.js';
import { tree } from '../parts/tree.js';
import { tram } from '../parts/tram.js';
import { worn } from '../parts/worn.js';

export const format = { width: 1280, height: 720, rate: 30, seconds: 6 };

/** The head, facing +z, in units of a head's half width; joined softly from simple bodies. */
function headField(X, y, z) {
  const x = Math.abs(X);
  let d = ball(x, y - 0.3, z + 0.12, 0.98, 1.12, 1.12);
  d = join(d, ball(x, y + 0.42, z - 0.16, 0.74, 0.78, 0.76), 0.5);
  d = join(d, ball(x, y + 0.98, z - 0.52, 0.3, 0.24, 0.26), 0.35);
  d = join(d, ball(x - 0.5, y + 0.22, z - 0.6, 0.3, 0.24, 0.24), 0.3);
  d = join(d, rod(x, y, z, [0.12, 0.24, 0.92], [0.56, 0.2, 0.72], 0.1, 0.09), 0.22);
  d = carve(d, ball(x - 0.36, y + 0.0, z - 1.02, 0.24, 0.17, 0.24), 0.2);
  d = join(d, rod(x, y, z, [0, 0.12, 0.96], [0, -0.34, 1.2], 0.1, 0.13), 0.16);
  d = join(d, ball(x - 0.13, y + 0.38, z - 1.08, 0.1, 0.085, 0.1), 0.08);
  d = carve(d, ball(x - 0.075, y + 0.46, z - 1.12, 0.04, 0.03, 0.05), 0.03);
  d = join(d, ball(x, y + 0.68, z - 0.9, 0.28, 0.085, 0.12), 0.1);
  d = join(d, ball(x, y + 0.79, z - 0.88, 0.22, 0.08, 0.12), 0.08);
  d = carve(d, rod(x, y, z, [0, -0.735, 1.03], [0.24, -0.72, 0.94], 0.016), 0.035);
  d = join(d, ball(x - 0.99, y + 0.05, z + 0.08, 0.11, 0.28, 0.18), 0.08);
  d = carve(d, ball(x - 1.06, y + 0.02, z + 0.03, 0.06, 0.16, 0.08), 0.06);
  d = join(d, rod(x, y, z, [0, -0.7, -0.2], [0, -1.9, -0.32], 0.56, 0.6), 0.3);
  return d;
}

function head() {
  const group = new THREE.Group();
  const geometry = surfaceNet(headField, [-1.3, -1.75, -1.35], [1.3, 1.55, 1.45], 104);
  const p = geometry.getAttribute('position');
  const colours = [];
  const tone = new THREE.Color();
  const near = (x, y, z, cx, cy, cz, r) => Math.exp(-((Math.abs(x) - cx) ** 2 + (y - cy) ** 2 + (z - cz) ** 2) / (r * r));
  for (let i = 0; i < p.count; i++) {
    const [x, y, z] = [p.getX(i), p.getY(i), p.getZ(i)];
    tone.set('#d3946f');
    tone.lerp(new THREE.Color('#bf5f4c'), 0.5 * near(x, y, z, 0.52, -0.3, 0.8, 0.3) + 0.6 * near(x, y, z, 0, -0.36, 1.2, 0.2) + 0.5 * near(x, y, z, 1, -0.05, -0.1, 0.28));
    tone.lerp(new THREE.Color('#9c4a40'), 0.85 * Math.min(1, 1.3 * Math.exp(-((Math.abs(x) / 0.27) ** 4) - ((y + 0.735) / 0.1) ** 4) * (z > 0.85 ? 1 : 0)));
    tone.lerp(new THREE.Color('#8f6552'), 0.5 * near(x, y, z, 0.36, -0.02, 0.85, 0.2));
    if (z < 1.05 && y < -0.45) tone.lerp(new THREE.Color('#a2806c'), 0.3 * Math.min(1, (-0.45 - y) * 2) * (z > 0 ? 1 : 0));
    const mottle = 1 + 0.035 * Math.sin(x * 31 + y * 17) * Math.sin(y * 29 - z * 23);
    colours.push(tone.r * mottle, tone.g * mottle, tone.b * mottle);
  }
  geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
  const skin = new THREE.Mesh(
    geometry,
    worn(new THREE.MeshStandardMaterial({ vertexColors: true, roughness: 0.52, envMapIntensity: 0.7 }), { fine: 58, broad: 5, bump: 0.0025, folds: 0.008, tint: 0.14, dirt: 0.08 }),
  );
  skin.castShadow = skin.receiveShadow = true;
  group.add(skin);
  const iris = painted(256, 256, (c) => {
    c.fillStyle = '#ece7df';
    c.fillRect(0, 0, 256, 256);
    c.fillStyle = '#4d3a22';
    c.beginPath();
    c.arc(128, 128, 44, 0, 7);
    c.fill();
    c.fillStyle = '#7a5c34';
    c.beginPath();
    c.arc(128, 128, 36, 0, 7);
    c.fill();
    c.fillStyle = '#0c0a08';
    c.beginPath();
    c.arc(128, 128, 18, 0, 7);
    c.fill();
  });
  const eyes = [];
  const lids = [];
  const lidMaterial = worn(new THREE.MeshStandardMaterial({ color: '#b67a5c', roughness: 0.6 }), { fine: 60, bump: 0.003, tint: 0.2 });
  for (const side of [-1, 1]) {
    const eye = new THREE.Mesh(new THREE.SphereGeometry(0.17, 40, 28), new THREE.MeshStandardMaterial({ map: iris, roughness: 0.12 }));
    // The texture's middle looks along +x; turned to look along +z.
    const holder = new THREE.Group();
    eye.rotation.y = -Math.PI / 2;
    holder.add(eye);
    holder.position.set(side * 0.36, 0.0, 0.79);
    group.add(holder);
    eyes.push(holder);
    const lid = new THREE.Mesh(new THREE.SphereGeometry(0.182, 40, 20, 0, Math.PI * 2, 0, 1.22), lidMaterial);
    const lower = new THREE.Mesh(new THREE.SphereGeometry(0.18, 40, 20, 0, Math.PI * 2, 0, 1.05), lidMaterial);
    lid.position.copy(holder.position);
    lower.position.copy(holder.position);
    lid.rotation.x = 0.12;
    lower.rotation.x = Math.PI - 0.1;
    group.add(lid, lower);
    lids.push(lid);
    const brow = new THREE.Mesh(
      surfaceNet((x, y, z) => rod(x, y, z, [-0.2, 0, 0.02], [0.2, 0.03, -0.05], 0.045, 0.03), [-0.3, -0.1, -0.14], [0.3, 0.14, 0.12], 28),
      worn(new THREE.MeshStandardMaterial({ color: '#4a3625', roughness: 1 }), { fine: 70, bump: 0.03, tint: 1.2 }),
    );
    brow.position.set(side * 0.37, 0.3, 0.98);
    brow.scale.x = -side;
    group.add(brow);
  }
  // A full moustache, combed to both sides.
  const moustache = new THREE.Mesh(
    surfaceNet(
      (X, y, z) =>
        join(rod(Math.abs(X), y, z, [0.03, 0, 0], [0.3, -0.07, -0.12], 0.085, 0.05), rod(Math.abs(X), y, z, [0.28, -0.07, -0.11], [0.42, 0.0, -0.22], 0.05, 0.015), 0.06) +
        0.008 * Math.sin(X * 60 + y * 30),
      [-0.55, -0.22, -0.32],
      [0.55, 0.14, 0.16],
      64,
    ),
    worn(new THREE.MeshStandardMaterial({ color: '#5a4330', roughness: 0.9 }), { fine: 60, bump: 0.02, tint: 1.1 }),
  );
  moustache.position.set(0, -0.55, 1.06);
  moustache.castShadow = true;
  const hair = new THREE.Mesh(
    surfaceNet((x, y, z) => Math.max(headField(x, y, z) - 0.055, z - 0.18 - 0.4 * Math.max(0, y), -0.75 - y), [-1.4, -0.95, -1.45], [1.4, 1.6, 0.9], 64),
    worn(new THREE.MeshStandardMaterial({ color: '#4d3a2a', roughness: 0.85 }), { fine: 50, bump: 0.03, tint: 1 }),
  );
  group.add(moustache, hair);
  // Cap: band, crown, peak, badge.
  const cloth = worn(new THREE.MeshStandardMaterial({ color: '#1d2740', roughness: 0.95 }), { fine: 55, broad: 4, bump: 0.006, folds: 0.02, tint: 0.4, dirt: 0.2 });
  const cap = new THREE.Group();
  const profile = [
    [1.12, 0],
    [1.14, 0.3],
    [1.42, 0.62],
    [1.4, 0.72],
    [1.0, 0.84],
    [0.02, 0.88],
  ].map(([x, y]) => new THREE.Vector2(x, y));
  const crown = new THREE.Mesh(new THREE.LatheGeometry(new THREE.SplineCurve(profile).getPoints(40), 72), cloth);
  const band = new THREE.Mesh(
    new THREE.CylinderGeometry(1.145, 1.13, 0.26, 72, 1, true),
    worn(new THREE.MeshStandardMaterial({ color: '#7c1f1a', roughness: 0.85, side: THREE.DoubleSide }), { fine: 60, bump: 0.004, tint: 0.3 }),
  );
  band.position.y = 0.15;
  const peak = new THREE.Mesh(
    new THREE.SphereGeometry(1.16, 64, 20, 0, Math.PI, 1.25, 0.33),
    worn(new THREE.MeshStandardMaterial({ color: '#0f0f12', roughness: 0.3, side: THREE.DoubleSide }), { fine: 30, bump: 0.0015, tint: 0.3 }),
  );
  peak.scale.set(1, 0.55, 1.52);
  peak.position.set(0, -0.13, 0.0);
  const gold = worn(new THREE.MeshStandardMaterial({ color: '#c9a050', roughness: 0.34, metalness: 1 }), { fine: 40, bump: 0.004, tint: 0.3, dirt: 0.4 });
  const badge = new THREE.Mesh(new THREE.CylinderGeometry(0.17, 0.17, 0.05, 40), gold);
  badge.rotation.x = Math.PI / 2;
  badge.position.set(0, 0.44, 1.3);
  const number = new THREE.Mesh(
    new THREE.CircleGeometry(0.125, 32),
    new THREE.MeshStandardMaterial({ map: text(['14'], { w: 128, h: 128, back: '#7c1f1a', fore: '#f2dfa4', font: 'bold 84px "Liberation Sans", sans-serif' }) }),
  );
  number.position.set(0, 0.44, 1.33);
  for (const part of [crown, band, peak]) part.castShadow = part.receiveShadow = true;
  cap.add(crown, band, peak, badge, number);
  cap.position.set(0, 0.62, -0.12);
  cap.rotation.x = -0.1;
  cap.scale.set(0.97, 0.97, 1.06);
  group.add(cap);
  return { group, eyes, lids };
}

function uniform() {
  const group = new THREE.Group();
  const weave = painted(
    512,
    512,
    (c, w, h) => {
      c.fillStyle = '#27345a';
      c.fillRect(0, 0, w, h);
      c.strokeStyle = 'rgba(255,255,255,.05)';
      for (let i = -h; i < w; i += 4) {
        c.beginPath();
        c.moveTo(i, 0);
        c.lineTo(i + h, h);
        c.stroke();
      }
      speckle(c, w, h, 5, 0.08);
    },
    { repeat: [3, 3] },
  );
  const cloth = worn(new THREE.MeshStandardMaterial({ map: weave, roughness: 0.95, envMapIntensity: 0.6 }), {
    fine: 42,
    broad: 1.7,
    bump: 0.008,
    folds: 0.13,
    tint: 0.3,
    dirt: 0.25,
  });
  const gold = worn(new THREE.MeshStandardMaterial({ color: '#c9a050', roughness: 0.34, metalness: 1 }), { fine: 40, bump: 0.004, tint: 0.3, dirt: 0.4 });
  const field = (X, y, z) => {
    const x = Math.abs(X);
    let d = ball(x, y + 2.5, z + 0.1, 1.75, 2.1, 1.05);
    d = join(d, rod(x, y, z, [0.5, -0.35, -0.2], [1.95, -0.85, -0.2], 0.42, 0.55), 0.5);
    d = join(d, rod(x, y, z, [2.05, -0.95, -0.2], [2.35, -3.4, 0.1], 0.52, 0.45), 0.3);
    d = join(d, Math.max(Math.hypot(x, z + 0.22) - 0.72, Math.abs(y + 0.22) - 0.24), 0.12);
    return d;
  };
  const geometry = surfaceNet(field, [-3.2, -3.4, -1.6], [3.2, 0.3, 1.3], 120);
  const p = geometry.getAttribute('position');
  const uv = [];
  for (let i = 0; i < p.count; i++) uv.push(p.getX(i) * 0.6, p.getY(i) * 0.6);
  geometry.setAttribute('uv', new THREE.Float32BufferAttribute(uv, 2));
  const coat = new THREE.Mesh(geometry, cloth);
  coat.castShadow = coat.receiveShadow = true;
  group.add(coat);
  const front = (y) => {
    let z = 1.4;
    while (field(0, y, z) > 0 && z > 0) z -= 0.01;
    return z;
  };
  for (let i = 0; i < 5; i++) {
    const y = -0.85 - i * 0.5;
    for (const x of [-0.42, 0.42]) {
      const button = new THREE.Mesh(new THREE.SphereGeometry(0.1, 24, 16), gold);
      button.scale.z = 0.5;
      button.position.set(x, y, front(y) - 0.03);
      button.castShadow = true;
      group.add(button);
    }
  }
  const seam = new THREE.Mesh(new THREE.BoxGeometry(0.02, 2.2, 0.02), new THREE.MeshStandardMaterial({ color: '#141b30' }));
  seam.position.set(0, -1.7, front(-1.7) + 0.0);
  group.add(seam);
  const scarf = new THREE.Mesh(
    new THREE.TorusGeometry(0.66, 0.13, 16, 48),
    worn(new THREE.MeshStandardMaterial({ color: '#b3271c', roughness: 0.9 }), { fine: 38, broad: 5, bump: 0.012, folds: 0.09, tint: 0.35 }),
  );
  scarf.rotation.x = Math.PI / 2 - 0.15;
  scarf.position.set(0, -0.02, -0.12);
  scarf.castShadow = true;
  group.add(scarf);
  return group;
}

/** The conductor by his car, by daylight; strong colours stand at the edges of the picture. */
export function build(renderer) {
  const scene = new THREE.Scene();
  const dome = sky({ zenith: '#3c71b8', horizon: '#a9c9e2', low: '#e2e6e2', sun: [0.5, 0.7, 0.6], sunColour: '#fff0d2', cloud: '#f6f6f4', cover: 0.6, strength: 1 });
  scene.add(dome);
  scene.environment = surroundings(renderer, dome);
  scene.environmentIntensity = 0.55;
  const light = daylight({
    toSun: [5, 7, 7],
    sunColour: '#fff0d8',
    sun: 3.1,
    skyColour: '#c4daf4',
    sky: 1.0,
    bounce: '#a09478',
    reach: 7,
    texels: 1024,
  });
  scene.add(light.group);

  const man = new THREE.Group();
  const { group: face, eyes, lids } = head();
  face.position.y = 1.35;
  man.add(face, uniform());
  scene.add(man);
  // The car stands behind him at an angle, in head units (a head's half width is about 8 cm).
  const far = new THREE.Group();
  const car = tram({ seed: 12, matt: true });
  car.scale.setScalar(6.2);
  car.rotation.y = 0.95;
  car.position.set(4, -19, -26);
  far.add(car);
  for (let i = 0; i < 9; i++) {
    const t = tree(90 + i, 8, 420);
    t.scale.setScalar(5.5);
    t.position.set(-58 + i * 17, -19, -66 - (i % 2) * 14);
    far.add(t);
  }
  const meadow = new THREE.Mesh(new THREE.PlaneGeometry(900, 420), worn(new THREE.MeshLambertMaterial({ color: '#5d7a3c' }), { fine: 1.3, broad: 0.06, tint: 0.7, dirt: 0.3 }));
  meadow.rotation.x = -Math.PI / 2;
  meadow.position.set(0, -19.1, -240);
  const street = new THREE.Mesh(new THREE.PlaneGeometry(300, 50), worn(new THREE.MeshLambertMaterial({ color: '#8b867c' }), { fine: 1.6, broad: 0.12, tint: 0.5 }));
  street.rotation.x = -Math.PI / 2;
  street.position.set(0, -19, -34);
  const houses = terrace({ x: 0, side: 1, from: 60, to: -60, seed: 71 });
  houses.scale.setScalar(5.5);
  houses.rotation.y = Math.PI / 2;
  houses.position.set(0, -19, -190);
  meadow.receiveShadow = street.receiveShadow = true;
  far.add(meadow, street, houses);
  scene.add(far);
  const solid = (geometry, material, x, y, z) => {
    const mesh = new THREE.Mesh(geometry, material);
    mesh.position.set(x, y, z);
    mesh.castShadow = mesh.receiveShadow = true;
    scene.add(mesh);
    return mesh;
  };
  const gloss = (colour, more = {}) =>
    worn(new THREE.MeshStandardMaterial({ color: colour, roughness: 0.42, ...more }), { fine: 14, broad: 1.4, bump: 0.004, folds: 0.01, tint: 0.16, dirt: 0.3 });
  // A pillar box with its cap, its slot and a plate.
  const blue = gloss('#1548b0');
  const box = (x, y, z) => [x - 6.6, y - 0.4, z - 3.5];
  solid(new THREE.CylinderGeometry(1.55, 1.55, 8, 56), blue, ...box(0, -3.4, 0));
  solid(new THREE.CylinderGeometry(1.35, 1.8, 0.5, 56), blue, ...box(0, 0.85, 0));
  solid(new THREE.SphereGeometry(1.4, 56, 20, 0, Math.PI * 2, 0, Math.PI / 2), blue, ...box(0, 1.05, 0)).scale.y = 0.35;
  solid(new THREE.TorusGeometry(1.58, 0.07, 12, 56), blue, ...box(0, -1.35, 0)).rotation.x = Math.PI / 2;
  solid(new THREE.BoxGeometry(1.1, 0.16, 0.5), new THREE.MeshStandardMaterial({ color: '#070a12' }), ...box(0.35, 0.28, 1.36)).rotation.y = 0.25;
  const plate = solid(
    new THREE.CylinderGeometry(1.57, 1.57, 0.8, 32, 1, true, -0.3, 1.1),
    gloss('#ffffff', { map: text(['POST'], { w: 256, h: 128, back: '#efe9d8', fore: '#1548b0', font: 'bold 84px "DejaVu Sans", sans-serif' }) }),
    ...box(0, -0.45, 0),
  );
  plate.castShadow = false;
  solid(new THREE.CylinderGeometry(0.13, 0.13, 14, 24), gloss('#3b3f3f'), 6.5, -3, -4);
  const flag = solid(
    new THREE.BoxGeometry(3.2, 2.2, 0.06),
    gloss('#ffffff', { map: text(['STOP'], { w: 384, h: 256, back: '#f2c318', fore: '#b31212', frame: '#b31212', font: 'bold 120px "DejaVu Sans", sans-serif' }) }),
    6.2,
    2.9,
    -3.8,
  );
  const flowers = new THREE.Group();
  flowers.add(bed({ size: [4.6, 1.6, 2.4], count: 46, radius: 0.2, colours: ['#ff5a10', '#e8175f', '#ffc400'], seed: 12 }));
  flowers.position.set(5.6, -2.95, -1.6);
  scene.add(flowers);
  solid(
    new THREE.BoxGeometry(4.9, 1.2, 2.6),
    worn(new THREE.MeshStandardMaterial({ color: '#8a8378', roughness: 0.95 }), { fine: 16, broad: 2, bump: 0.03, tint: 0.4, dirt: 0.4 }),
    5.7,
    -4.1,
    -1.6,
  );
  const camera = new THREE.PerspectiveCamera(26, 16 / 9, 0.5, 2000);
  camera.position.set(0, 0.55, 14.2);
  camera.lookAt(0, 0.05, 0);
  scene.userData.dome = dome;
  backdrop(renderer, { scene, far, eye: camera, light, optics: { samples: 32, pupil: 0.2, focus: 13.2 }, distance: 42, margin: 1.16 }, format);
  const smooth = (a, b, t) => {
    const s = Math.max(0, Math.min(1, (t - a) / (b - a)));
    return s * s * (3 - 2 * s);
  };
  return {
    scene,
    camera,
    light,
    // An 85 mm lens stopped down to f/5.6, on the face.
    optics: { samples: 8, shutter: 0.5, pupil: 0.13, focus: 13.2, exposure: 0.84, veil: 0.05, noise: 0.02 },
    pose(t) {
      const turn = -0.5 + 0.75 * smooth(0.6, 2.1, t) - 0.42 * smooth(3.6, 4.9, t);
      face.rotation.y = turn + 0.02 * Math.sin(t * 2.1);
      face.rotation.x = 0.05 * Math.sin(t * 1.3) + 0.07 * smooth(2.6, 3.1, t) - 0.07 * smooth(3.1, 3.6, t);
      man.rotation.y = turn * 0.3;
      man.position.y = -1.0 + 0.02 * Math.sin(t * 1.9);
      for (const eye of eyes) {
        eye.rotation.y = -0.25 * Math.sin(t * 1.1) - turn * 0.35;
        eye.rotation.x = 0.04 * Math.sin(t * 2.3);
      }
      const blink = [1.4, 3.3, 5.2].reduce((s, b) => Math.max(s, Math.max(0, 1 - Math.abs(t - b) / 0.09)), 0);
      for (const lid of lids) lid.rotation.x = 0.12 + blink * 0.75;
      flag.rotation.z = 0.03 * Math.sin(t * 2.2);
      flowers.rotation.z = 0.01 * Math.sin(t * 1.7);
      camera.position.set(0.25 * Math.sin(t * 0.5), 0.55, 14.2);
      camera.lookAt(0, 0.05, 0);
    },
  };
}
