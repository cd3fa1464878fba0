import * as THREE from 'three';
import { daylight } from '../parts/camera.js';
import { bricks, painted, speckle, text, weather } from '../parts/textures.js';
import { stream } from '../parts/random.js';
import { worn } from '../parts/worn.js';

export const format = { width: 1920, height: 1080, rate: 24, seconds: 7 };

/** The depot's workbench: tools, lettering, a clock that goes, straight lines. */
export function build() {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color('#1c1b19');
  const lam = (color, more = {}) => worn(new THREE.MeshLambertMaterial({ color, ...more }), { fine: 90, broad: 5, tint: 0.16, dirt: 0.18 });
  const metal = { fine: 110, broad: 14, bump: 0.0006, folds: 0.001, tint: 0.25, dirt: 0.45 };
  const steel = worn(new THREE.MeshPhongMaterial({ color: '#83888b', specular: '#d8dde0', shininess: 38 }), metal);
  const brass = worn(new THREE.MeshPhongMaterial({ color: '#a98238', specular: '#ffe7b0', shininess: 50 }), metal);
  const add = (geometry, material, x, y, z, turn = [0, 0, 0]) => {
    const mesh = new THREE.Mesh(geometry, material);
    mesh.position.set(x, y, z);
    mesh.rotation.set(...turn);
    mesh.castShadow = mesh.receiveShadow = true;
    scene.add(mesh);
    return mesh;
  };
  const box = (w, h, d, m, x, y, z, turn) => add(new THREE.BoxGeometry(w, h, d), m, x, y, z, turn);
  const sheet = (w, h, map, x, y, z, turn) => add(new THREE.PlaneGeometry(w, h), lam('#ffffff', { map }), x, y, z, turn);

  add(new THREE.PlaneGeometry(8, 4), lam('#ffffff', { map: bricks(2048, 1024, 3, { base: [156, 120, 98], rows: 52, across: 36, mortar: '#a89f92' }) }), 0, 1.9, -0.6);
  const wood = painted(2048, 512, (c, w, h) => {
    const r = stream(6);
    c.fillStyle = '#8a633c';
    c.fillRect(0, 0, w, h);
    for (let i = 0; i < 900; i++) {
      c.strokeStyle = `rgba(${40 + r() * 60},${24 + r() * 40},10,${0.1 + r() * 0.25})`;
      c.beginPath();
      const y = r() * h;
      c.moveTo(0, y);
      c.bezierCurveTo(w / 3, y + r() * 16 - 8, (2 * w) / 3, y + r() * 16 - 8, w, y + r() * 10 - 5);
      c.stroke();
    }
    for (let i = 1; i < 5; i++) {
      c.fillStyle = 'rgba(20,10,4,.8)';
      c.fillRect(0, (i * h) / 5, w, 3);
    }
    speckle(c, w, h, 7, 0.08);
  });
  const top = box(5.2, 0.09, 1.05, lam('#ffffff', { map: wood }), 0, 0.86, 0);
  top.receiveShadow = true;
  for (const x of [-2.3, -0.8, 0.8, 2.3]) box(0.12, 0.82, 0.12, lam('#5d4228'), x, 0.41, 0.3);

  sheet(
    2.3,
    0.34,
    text(['ORRIN VALE TRAMWAYS · DEPOT No. 2'], {
      w: 2048,
      h: 300,
      back: '#1d3a35',
      fore: '#efe2bd',
      frame: '#c9a95c',
      font: 'bold 94px "Liberation Serif", "DejaVu Serif", serif',
    }),
    -0.15,
    2.36,
    -0.57,
  );
  // Timetable: small type in columns.
  const timetable = painted(1024, 1400, (c, w, h) => {
    c.fillStyle = '#ebe2c8';
    c.fillRect(0, 0, w, h);
    c.fillStyle = '#231f1a';
    c.textAlign = 'center';
    c.font = 'bold 78px "Liberation Serif", serif';
    c.fillText('LINE 14', w / 2, 100);
    c.font = '38px "Liberation Serif", serif';
    c.fillText('Harbour · Market · Vale Road · Depot', w / 2, 160);
    c.font = '30px "Liberation Mono", monospace';
    c.textAlign = 'left';
    for (let row = 0; row < 26; row++) {
      for (let col = 0; col < 5; col++) {
        const m = (row * 17 + col * 9) % 60;
        c.fillText(`${String(5 + Math.floor(row * 0.72)).padStart(2, '0')}.${String(m).padStart(2, '0')}`, 90 + col * 180, 245 + row * 41);
      }
      c.fillRect(70, 255 + row * 41, w - 140, 1);
    }
    c.fillStyle = '#9c2a1a';
    c.font = 'bold 50px "Liberation Serif", serif';
    c.textAlign = 'center';
    c.fillText('LAST CAR 23.14 — THE VERY LAST', w / 2, h - 60);
    weather(c, w, h, 4, 0.05);
  });
  sheet(0.62, 0.85, timetable, -1.55, 1.68, -0.57);
  const plan = painted(1024, 700, (c, w, h) => {
    c.fillStyle = '#2c5a86';
    c.fillRect(0, 0, w, h);
    c.strokeStyle = 'rgba(225,238,250,.28)';
    for (let i = 0; i < w; i += 32) c.strokeRect(i, -2, 32, h + 4);
    for (let i = 0; i < h; i += 32) c.strokeRect(-2, i, w + 4, 32);
    c.strokeStyle = '#e4eefa';
    c.lineWidth = 3;
    c.strokeRect(120, 190, 780, 210);
    c.strokeRect(150, 150, 720, 40);
    for (let i = 0; i < 9; i++) c.strokeRect(150 + i * 80, 220, 64, 84);
    for (const x of [240, 340, 680, 780]) {
      c.beginPath();
      c.arc(x, 440, 42, 0, 7);
      c.moveTo(x - 60, 440);
      c.lineTo(x + 60, 440);
      c.stroke();
    }
    c.fillStyle = '#e4eefa';
    c.font = '34px "Liberation Mono", monospace';
    c.fillText('CAR 37  ELEVATION  1:24', 130, 600);
    c.fillText('L 12.00  H 3.62  GAUGE 1.44', 130, 645);
  });
  sheet(0.95, 0.65, plan, 1.5, 1.72, -0.565, [0, 0, -0.02]);

  // Clock.
  const face = painted(512, 512, (c) => {
    c.fillStyle = '#f2ecd9';
    c.fillRect(0, 0, 512, 512);
    c.fillStyle = '#1d1b18';
    c.textAlign = 'center';
    c.textBaseline = 'middle';
    c.font = 'bold 54px "Liberation Serif", serif';
    for (let i = 0; i < 60; i++) {
      const a = (i * Math.PI) / 30;
      const long = i % 5 ? 8 : 20;
      c.save();
      c.translate(256, 256);
      c.rotate(a);
      c.fillRect(-2, -240, i % 5 ? 3 : 6, long);
      c.restore();
    }
    for (let i = 1; i <= 12; i++) c.fillText(String(i), 256 + 188 * Math.sin((i * Math.PI) / 6), 258 - 188 * Math.cos((i * Math.PI) / 6));
    c.font = '26px "Liberation Serif", serif';
    c.fillText('ORRIN VALE', 256, 170);
  });
  add(new THREE.CircleGeometry(0.26, 64), lam('#ffffff', { map: face }), 0, 1.86, -0.53);
  add(new THREE.TorusGeometry(0.275, 0.03, 16, 64), brass, 0, 1.86, -0.53);
  const hand = (w, l, m, z) => {
    const pivot = new THREE.Group();
    const mesh = new THREE.Mesh(new THREE.BoxGeometry(w, l, 0.006), m);
    mesh.position.y = l / 2 - 0.03;
    mesh.castShadow = true;
    pivot.add(mesh);
    pivot.position.set(0, 1.86, z);
    scene.add(pivot);
    return pivot;
  };
  const black = lam('#16140f');
  const [hour, minute, second] = [hand(0.018, 0.15, black, -0.52), hand(0.012, 0.22, black, -0.515), hand(0.005, 0.25, lam('#a02818'), -0.51)];

  // Spanners on a rail, from large to small.
  box(1.9, 0.03, 0.03, steel, 0.05, 1.5, -0.54);
  for (let i = 0; i < 12; i++) {
    const l = 0.36 - i * 0.018;
    const x = -0.82 + i * 0.155;
    box(0.024 + l * 0.03, l, 0.014, steel, x, 1.47 - l / 2, -0.52, [0, 0, 0.02 * Math.sin(i * 2.3)]);
    add(new THREE.TorusGeometry(0.022 + l * 0.05, 0.011, 8, 24), steel, x, 1.47 - l, -0.52);
    add(new THREE.TorusGeometry(0.018 + l * 0.05, 0.011, 8, 24, 4.6), steel, x, 1.49, -0.52, [0, 0, 2.2]);
  }
  // On the bench: a gear, a motor's armature, tins, a steel rule, a vice, a lamp.
  const gear = new THREE.Group();
  const disc = new THREE.Mesh(new THREE.CylinderGeometry(0.2, 0.2, 0.06, 48), steel);
  gear.add(disc);
  for (let i = 0; i < 36; i++) {
    const tooth = new THREE.Mesh(new THREE.BoxGeometry(0.022, 0.06, 0.045), steel);
    tooth.position.set(0.215 * Math.sin((i * Math.PI) / 18), 0, 0.215 * Math.cos((i * Math.PI) / 18));
    tooth.rotation.y = (i * Math.PI) / 18;
    tooth.castShadow = true;
    gear.add(tooth);
  }
  const hub = new THREE.Mesh(new THREE.CylinderGeometry(0.05, 0.05, 0.1, 32), brass);
  const rim = new THREE.Mesh(new THREE.TorusGeometry(0.155, 0.012, 10, 60), steel);
  rim.rotation.x = Math.PI / 2;
  rim.position.y = 0.03;
  gear.add(hub, rim);
  for (let i = 0; i < 6; i++) {
    const hole = new THREE.Mesh(new THREE.CylinderGeometry(0.03, 0.03, 0.064, 28), lam('#17140f'));
    hole.position.set(0.1 * Math.sin((i * Math.PI) / 3), 0, 0.1 * Math.cos((i * Math.PI) / 3));
    gear.add(hole);
  }
  gear.position.set(-0.5, 1.14, 0.05);
  gear.rotation.x = Math.PI / 2 - 0.1;
  scene.add(gear);
  box(0.09, 0.16, 0.16, lam('#3f4a3c'), -0.5, 0.98, -0.02);
  const core = add(new THREE.CylinderGeometry(0.1, 0.1, 0.34, 40), new THREE.MeshPhongMaterial({ color: '#a0562c', shininess: 40 }), 0.35, 1.01, 0.1, [0, 0.3, Math.PI / 2]);
  for (let i = 0; i < 24; i++) {
    const bar = new THREE.Mesh(new THREE.BoxGeometry(0.012, 0.345, 0.012), brass);
    bar.position.set(0.1 * Math.sin((i * Math.PI) / 12), 0, 0.1 * Math.cos((i * Math.PI) / 12));
    core.add(bar);
  }
  const shaft = new THREE.Mesh(new THREE.CylinderGeometry(0.022, 0.022, 0.62, 20), steel);
  core.add(shaft);
  const labels = ['GREASE', 'BRASS OIL', 'RED LEAD', 'VARNISH', 'FUSES'];
  labels.forEach((name, i) => {
    const back = ['#2f5d50', '#b98a2c', '#9c2f1d', '#31435e', '#d8cfb4'][i];
    const map = text([name], {
      w: 512,
      h: 160,
      back,
      fore: i === 4 ? '#222' : '#f3ead0',
      frame: '#e6d7a8',
      font: 'bold 44px "Liberation Sans Narrow", "Liberation Sans", sans-serif',
    });
    add(new THREE.CylinderGeometry(0.075, 0.075, 0.17 + (i % 2) * 0.05, 36), [lam('#ffffff', { map }), steel, steel], 0.95 + i * 0.19, 0.99 + (i % 2) * 0.025, -0.22, [0, 1.55, 0]);
  });
  const rule = painted(2048, 96, (c, w, h) => {
    c.fillStyle = '#cfd2d2';
    c.fillRect(0, 0, w, h);
    c.fillStyle = '#111';
    c.font = '30px "Liberation Sans", sans-serif';
    for (let i = 0; i <= 300; i++) c.fillRect(24 + i * 6.66, 0, 1.6, i % 10 === 0 ? 52 : i % 5 === 0 ? 38 : 24);
    for (let i = 0; i <= 30; i++) c.fillText(String(i), 28 + i * 66.6, 84);
  });
  add(new THREE.BoxGeometry(0.9, 0.006, 0.042), [steel, steel, lam('#ffffff', { map: rule }), steel, steel, steel], -0.1, 0.91, 0.36, [0, 0.06, 0]);
  box(0.26, 0.14, 0.16, lam('#33506b'), -1.75, 0.98, 0.12);
  box(0.05, 0.14, 0.2, steel, -1.6, 1.06, 0.12);
  box(0.05, 0.14, 0.2, steel, -1.5, 1.06, 0.12);
  add(new THREE.CylinderGeometry(0.012, 0.012, 0.3, 12), steel, -1.38, 0.98, 0.12, [Math.PI / 2, 0, 0]);
  for (let i = 0; i < 14; i++) {
    const bolt = add(new THREE.CylinderGeometry(0.016, 0.016, 0.028, 6), i % 3 ? steel : brass, -1.1 + Math.sin(i * 7) * 0.16, 0.92, 0.3 + Math.cos(i * 5) * 0.09, [i, i * 2, 0]);
    bolt.castShadow = true;
  }
  const shade = add(new THREE.ConeGeometry(0.2, 0.2, 40, 1, true), new THREE.MeshPhongMaterial({ color: '#2a5a48', side: THREE.DoubleSide, shininess: 50 }), -0.95, 2.02, 0.2);
  add(new THREE.SphereGeometry(0.05, 20, 12), new THREE.MeshBasicMaterial({ color: new THREE.Color('#ffe9b8').multiplyScalar(3) }), -0.95, 1.95, 0.2);
  add(new THREE.CylinderGeometry(0.006, 0.006, 1.4, 6), black, -0.95, 2.8, 0.2);
  const lamp = new THREE.SpotLight('#ffd9a0', 16, 6, 1.05, 0.7, 1.6);
  lamp.position.set(-0.95, 1.96, 0.2);
  lamp.target.position.set(-0.9, 0.8, 0.1);
  const light = daylight({ toSun: [3.4, 3.6, 3.2], sunColour: '#e6eef8', sun: 1.7, skyColour: '#c4ccd4', sky: 0.5, bounce: '#6a5238', reach: 3, centre: [0, 1.2, 0], width: 0.09 });
  scene.add(lamp, lamp.target, light.group);

  const camera = new THREE.PerspectiveCamera(36, 16 / 9, 0.05, 50);
  return {
    scene,
    camera,
    light,
    optics: { samples: 6, shutter: 0.5, pupil: 0.01, focus: 2.9, exposure: 1.15, veil: 0.05, noise: 0.02 },
    pose(t) {
      const s = t / format.seconds;
      const e = s * s * (3 - 2 * s);
      second.rotation.z = -((Math.floor(t) + Math.min(1, (t % 1) * 9) + 8) * Math.PI) / 30;
      minute.rotation.z = -((14 + t / 60) * Math.PI) / 30;
      hour.rotation.z = -((11 + 14 / 60) * Math.PI) / 6;
      core.rotation.x = 0.35 * t;
      gear.rotation.y = t * 0.22;
      shade.rotation.z = 0.02 * Math.sin(t * 1.5);
      camera.position.set(-0.85 + 1.3 * e, 1.62 - 0.04 * e, 2.95 - 0.25 * e);
      camera.lookAt(-0.35 + 0.6 * e, 1.5, -0.4);
    },
  };
}
