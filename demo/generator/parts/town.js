import * as THREE from 'three';
import { bricks, painted, speckle, text, weather } from './textures.js';
import { stream } from './random.js';

/** A sash window: dark, or lit behind curtains drawn more or less. */
function sash(curtain) {
  const on = curtain >= 0;
  return painted(64, 96, (c) => {
    const g = c.createLinearGradient(0, 0, 0, 96);
    g.addColorStop(0, on ? '#ffd58a' : '#2c3a44');
    g.addColorStop(1, on ? '#e2923e' : '#141b20');
    c.fillStyle = g;
    c.fillRect(0, 0, 64, 96);
    if (on) {
      c.fillStyle = 'rgba(120,50,20,.5)';
      c.fillRect(0, 0, curtain, 96);
      c.fillRect(64 - curtain, 0, curtain, 96);
    }
    c.fillStyle = '#ded6c4';
    c.fillRect(30, 0, 4, 96);
    c.fillRect(0, 44, 64, 4);
  });
}

/** A terrace along z: houses of plaster and brick with windows; `lit` is the share of windows with a lamp on. */
export function terrace({ x, side, from, to, seed, lit = 0 }) {
  const group = new THREE.Group();
  const r = stream(seed);
  const panes = [sash(-1), sash(0), sash(12), sash(22)];
  const names = ['BAKERY', 'M. TALLIS · WATCHES', 'THE LAMP ROOM', 'IRONMONGER', 'VALE DAIRY', 'SHOES', 'CAFÉ ORRIN', 'TOBACCO'];
  let z = from;
  let i = 0;
  while (z > to) {
    const w = 6 + r() * 4;
    const h = 8 + r() * 6;
    const tone = [
      [150, 92, 72],
      [188, 176, 150],
      [120, 74, 62],
      [168, 150, 118],
      [142, 132, 122],
    ][Math.floor(r() * 5)];
    const wall = bricks(512, 512, seed + i, { base: tone, rows: 40, across: 18, mortar: '#7d756a', repeat: [w / 5, h / 5] });
    const house = new THREE.Mesh(new THREE.BoxGeometry(7, h, w), new THREE.MeshLambertMaterial({ map: wall }));
    house.position.set(x + side * 3.5, h / 2, z - w / 2);
    house.castShadow = house.receiveShadow = true;
    group.add(house);
    const roof = new THREE.Mesh(new THREE.CylinderGeometry(0.01, 5.2, 2.4, 4, 1), new THREE.MeshLambertMaterial({ color: '#4b3b38' }));
    roof.rotation.y = Math.PI / 4;
    roof.scale.set(1, 1, w / 7.3);
    roof.position.set(x + side * 3.5, h + 1.1, z - w / 2);
    roof.castShadow = true;
    group.add(roof);
    const stone = new THREE.MeshLambertMaterial({ color: '#b5aa96' });
    const cols = Math.max(2, Math.floor(w / 2));
    for (let f = 1; 3.4 + f * 2.7 < h + 1.6; f++) {
      for (let cIdx = 0; cIdx < cols; cIdx++) {
        const on = r() < lit;
        const tint = 0.75 + 0.5 * r();
        const pane = panes[on ? 1 + Math.floor(r() * 3) : 0];
        const glass = new THREE.Mesh(
          new THREE.PlaneGeometry(0.95, 1.5),
          on ? new THREE.MeshBasicMaterial({ map: pane, color: new THREE.Color(1.5 * tint, 1.4 * tint, 1.25 * tint) }) : new THREE.MeshLambertMaterial({ map: pane }),
        );
        glass.rotation.y = (-side * Math.PI) / 2;
        const wz = z - ((cIdx + 0.5) * w) / cols;
        const wy = 1.9 + f * 2.7;
        glass.position.set(x - side * 0.015, wy, wz);
        const sill = new THREE.Mesh(new THREE.BoxGeometry(0.2, 0.12, 1.2), stone);
        sill.position.set(x - side * 0.05, wy - 0.82, wz);
        sill.castShadow = true;
        const head = sill.clone();
        head.position.y = wy + 0.84;
        group.add(glass, sill, head);
      }
    }
    const name = names[i % names.length];
    const board = new THREE.Mesh(
      new THREE.PlaneGeometry(w * 0.86, 0.6),
      new THREE.MeshLambertMaterial({
        map: text([name], {
          w: 768,
          h: 80,
          back: ['#22382f', '#3a1f1c', '#1f2a3a', '#4a3a1c'][i % 4],
          fore: '#e9d9a6',
          font: 'bold 54px "Liberation Serif", "DejaVu Serif", serif',
        }),
      }),
    );
    board.rotation.y = (-side * Math.PI) / 2;
    board.position.set(x - side * 0.05, 3.25, z - w / 2);
    const shop = painted(512, 192, (c, cw, ch) => {
      const on = lit > 0 && r() < 0.75;
      const g = c.createLinearGradient(0, 0, 0, ch);
      g.addColorStop(0, on ? '#f0b866' : '#39474f');
      g.addColorStop(0.45, on ? '#b87532' : '#232e34');
      g.addColorStop(1, on ? '#4a2a12' : '#151b1f');
      c.fillStyle = g;
      c.fillRect(0, 0, cw, ch);
      for (let k = 0; k < 24; k++) {
        c.fillStyle = `rgba(${40 + 110 * r()},${30 + 60 * r()},${20 + 40 * r()},.7)`;
        const bw = 8 + 30 * r();
        c.fillRect(r() * cw, ch - 20 - 60 * r(), bw, 60);
      }
      c.fillStyle = '#2c2520';
      for (const px of [0, 0.25, 0.5, 0.75, 0.985]) c.fillRect(px * cw, 0, 10, ch);
      c.fillRect(0, ch - 26, cw, 26);
      speckle(c, cw, ch, seed + i, 0.05);
      weather(c, cw, ch, seed + i, 0.1);
    });
    const front = new THREE.Mesh(new THREE.PlaneGeometry(w * 0.86, 2.7), lit > 0 ? new THREE.MeshBasicMaterial({ map: shop }) : new THREE.MeshLambertMaterial({ map: shop }));
    front.rotation.y = (-side * Math.PI) / 2;
    front.position.set(x - side * 0.04, 1.45, z - w / 2);
    group.add(board, front);
    z -= w + 0.05;
    i++;
  }
  return group;
}

/** A cast-iron street lamp. */
export function streetLamp(lit, map) {
  const lamp = new THREE.Group();
  const iron = new THREE.MeshStandardMaterial({ color: '#23302c', roughness: 0.5, metalness: 0.6 });
  const post = new THREE.Mesh(new THREE.CylinderGeometry(0.06, 0.1, 4.4, 12), iron);
  post.position.y = 2.2;
  post.castShadow = true;
  const head = new THREE.Mesh(
    new THREE.CylinderGeometry(0.26, 0.16, 0.5, 6, 1),
    new THREE.MeshBasicMaterial({ color: lit ? new THREE.Color('#ffd9a0').multiplyScalar(3.5) : '#cfd6d4' }),
  );
  head.position.y = 4.65;
  const cap = new THREE.Mesh(new THREE.ConeGeometry(0.34, 0.28, 6), iron);
  cap.position.y = 5.02;
  lamp.add(post, head, cap);
  if (lit) {
    const halo = new THREE.Sprite(new THREE.SpriteMaterial({ map, color: '#ffbf73', blending: THREE.AdditiveBlending, depthWrite: false, opacity: 0.6 }));
    halo.scale.setScalar(2.6);
    halo.position.y = 4.65;
    lamp.add(halo);
  }
  return lamp;
}

/** Someone in a coat, seen from afar. */
export function bystander(colour, hat) {
  const body = new THREE.Group();
  const coat = new THREE.MeshStandardMaterial({ color: colour, roughness: 0.95 });
  const skin = new THREE.MeshStandardMaterial({ color: '#b98466', roughness: 0.8 });
  const part = (g, m, x, y, z) => {
    const mesh = new THREE.Mesh(g, m);
    mesh.position.set(x, y, z);
    mesh.castShadow = true;
    body.add(mesh);
    return mesh;
  };
  part(new THREE.CylinderGeometry(0.17, 0.27, 0.95, 20), coat, 0, 0.95, 0);
  part(new THREE.SphereGeometry(0.19, 20, 12), coat, 0, 1.4, 0).scale.set(1.2, 0.6, 0.8);
  for (const x of [-0.1, 0.1]) part(new THREE.CylinderGeometry(0.075, 0.07, 0.55, 12), new THREE.MeshStandardMaterial({ color: '#26221f' }), x, 0.28, 0);
  for (const x of [-0.25, 0.25]) part(new THREE.CapsuleGeometry(0.065, 0.5, 4, 10), coat, x, 1.1, 0.02).rotation.z = x * 0.5;
  part(new THREE.SphereGeometry(0.115, 20, 16), skin, 0, 1.6, 0);
  if (hat) {
    part(new THREE.CylinderGeometry(0.12, 0.125, 0.12, 20), new THREE.MeshStandardMaterial({ color: hat }), 0, 1.72, 0);
    part(new THREE.CylinderGeometry(0.18, 0.18, 0.015, 24), new THREE.MeshStandardMaterial({ color: hat }), 0, 1.665, 0);
  } else part(new THREE.SphereGeometry(0.12, 20, 12, 0, Math.PI * 2, 0, 1.7), new THREE.MeshStandardMaterial({ color: '#3a2a20', roughness: 1 }), 0, 1.625, -0.015);
  return body;
}
