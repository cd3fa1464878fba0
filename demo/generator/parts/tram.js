import * as THREE from 'three';
import { RoundedBoxGeometry } from 'three/addons/geometries/RoundedBoxGeometry.js';
import { glow, painted, speckle, text, weather } from './textures.js';
import { stream } from './random.js';

/**
 * Car 37 of the Orrin Vale Tramways: red below, cream above, twelve metres long, its nose at z = 0 and looking to +z.
 * @param lit whether its lamps and saloon are on @param matt without reflections, for a background
 */
export function tram({ lit = false, seed = 7, matt = false } = {}) {
  const car = new THREE.Group();
  const paint = (colour, more = {}) =>
    matt ? new THREE.MeshLambertMaterial({ color: colour, ...more }) : new THREE.MeshStandardMaterial({ color: colour, roughness: 0.34, ...more });
  const r = stream(seed);
  const add = (geometry, material, x, y, z, parent = car) => {
    const mesh = new THREE.Mesh(geometry, material);
    mesh.position.set(x, y, z);
    mesh.castShadow = mesh.receiveShadow = true;
    parent.add(mesh);
    return mesh;
  };
  const box = (w, h, d, m, x, y, z) => add(new THREE.BoxGeometry(w, h, d), m, x, y, z);

  const dirt = painted(1024, 256, (c, w, h) => {
    c.fillStyle = '#fff';
    c.fillRect(0, 0, w, h);
    weather(c, w, h, seed, 0.16);
    speckle(c, w, h, seed, 0.05);
  });
  const red = paint('#8e2418', { map: dirt });
  const cream = paint('#e6d6ae', { map: dirt });
  const dark = new THREE.MeshStandardMaterial({ color: '#1c1b1a', roughness: 0.7, metalness: 0.3 });
  const roof = new THREE.MeshStandardMaterial({ color: '#6c6a64', roughness: 0.85 });
  const brass = new THREE.MeshStandardMaterial({ color: '#c79a45', roughness: 0.3, metalness: 1 });
  const L = 12;
  add(new RoundedBoxGeometry(2.4, 1.25, L, 4, 0.24), red, 0, 1.32, -L / 2);
  box(2.42, 0.09, L - 0.4, cream, 0, 1.78, -L / 2);
  box(2.425, 0.025, L - 0.4, brass, 0, 1.62, -L / 2);
  add(new RoundedBoxGeometry(2.4, 0.5, L, 4, 0.2), cream, 0, 3.0, -L / 2);
  add(new RoundedBoxGeometry(2.2, 0.32, L - 0.3, 4, 0.14), roof, 0, 3.3, -L / 2);
  add(new RoundedBoxGeometry(1.2, 0.22, L - 2, 3, 0.08), roof, 0, 3.5, -L / 2);

  // Saloon: a warm box with seats and riders seen through the glass.
  const warm = new THREE.MeshStandardMaterial({ color: '#d9b37a', emissive: '#ffb04d', emissiveIntensity: lit ? 0.85 : 0.02, roughness: 0.8 });
  box(2.1, 0.05, L - 0.6, warm, 0, 2.78, -L / 2);
  box(2.1, 0.05, L - 0.6, new THREE.MeshStandardMaterial({ color: '#4a3524', roughness: 0.9 }), 0, 1.9, -L / 2);
  box(0.04, 0.85, L - 0.6, new THREE.MeshStandardMaterial({ color: '#7a5a37', emissive: '#b06a24', emissiveIntensity: lit ? 0.35 : 0, roughness: 0.9 }), 0.02, 2.3, -L / 2);
  const shade = new THREE.MeshStandardMaterial({ color: '#201610', roughness: 1 });
  for (let i = 0; i < 9; i++) {
    if (r() < 0.35) continue;
    const z = -1.5 - i * 1.15;
    const side = r() < 0.5 ? -0.6 : 0.6;
    add(new THREE.SphereGeometry(0.13, 16, 12), shade, side, 2.42, z);
    add(new THREE.CapsuleGeometry(0.2, 0.25, 4, 12), shade, side, 2.08, z);
  }
  const glass = new THREE.MeshStandardMaterial({
    color: '#b9c4c4',
    transparent: true,
    opacity: lit ? 0.16 : 0.34,
    roughness: 0.06,
    metalness: 0.1,
    envMapIntensity: 1.6,
    depthWrite: false,
  });
  const bulb = new THREE.MeshBasicMaterial({ color: new THREE.Color('#ffd9a0').multiplyScalar(lit ? 3.2 : 0.7) });
  for (let i = 0; i < 8; i++) add(new THREE.SphereGeometry(0.06, 12, 8), bulb, 0, 2.72, -1 - i * 1.4);
  for (const side of [-1, 1]) {
    const pane = box(0.02, 0.86, L - 0.5, glass, side * 1.19, 2.35, -L / 2);
    pane.castShadow = false;
    for (let i = 0; i <= 9; i++) box(0.07, 0.92, i % 9 === 0 ? 0.42 : 0.13, cream, side * 1.18, 2.34, -0.25 - (i * (L - 0.5)) / 9);
    const name = text(['ORRIN VALE  ·  37'], { w: 1024, h: 96, back: '#8e2418', fore: '#e8c777', font: 'bold 60px "Liberation Serif", "DejaVu Serif", serif' });
    const plate = add(new THREE.PlaneGeometry(4.2, 0.38), new THREE.MeshStandardMaterial({ map: name, roughness: 0.5 }), side * 1.213, 1.25, -L / 2);
    plate.rotation.y = (side * Math.PI) / 2;
  }
  // Nose: three panes, posts, destination, number, lamps, fender.
  for (const x of [-0.74, 0, 0.74]) {
    const pane = box(0.66, 0.78, 0.02, glass, x, 2.34, -0.02);
    pane.castShadow = false;
  }
  for (const x of [-1.12, -0.37, 0.37, 1.12]) box(x === -1.12 || x === 1.12 ? 0.14 : 0.08, 0.92, 0.1, cream, x, 2.34, -0.05);
  const sign = text(['DEPOT'], { w: 512, h: 96, fore: lit ? '#fff2cf' : '#e9dfc4', font: 'bold 74px "Liberation Sans Narrow", "Liberation Sans", sans-serif' });
  add(new THREE.PlaneGeometry(1.15, 0.24), new THREE.MeshBasicMaterial({ map: sign }), -0.28, 2.98, 0.012);
  const number = text(['14'], { w: 160, h: 128, back: '#f4ecd4', fore: '#8e2418', font: 'bold 112px "Liberation Sans", sans-serif' });
  add(new THREE.PlaneGeometry(0.42, 0.32), new THREE.MeshBasicMaterial({ map: number, color: lit ? '#ffffff' : '#d8d4c8' }), 0.66, 3.0, 0.012);
  const lens = new THREE.MeshBasicMaterial({ color: new THREE.Color('#fff1cf').multiplyScalar(lit ? 7 : 0.8) });
  const lamps = [];
  for (const x of [-0.78, 0.78]) {
    const rim = add(new THREE.TorusGeometry(0.16, 0.035, 12, 32), brass, x, 1.38, 0.03);
    rim.castShadow = false;
    add(new THREE.CircleGeometry(0.15, 32), lens, x, 1.38, 0.035);
    lamps.push([x, 1.38, 0.3]);
  }
  if (lit) {
    const map = glow();
    for (const [x, y, z] of lamps) {
      const halo = new THREE.Sprite(new THREE.SpriteMaterial({ map, color: new THREE.Color('#ffd79a'), blending: THREE.AdditiveBlending, depthWrite: false, opacity: 0.85 }));
      halo.scale.setScalar(1.7);
      halo.position.set(x, y, z);
      car.add(halo);
    }
    const beam = new THREE.SpotLight('#ffd9a6', 260, 38, 0.46, 0.75, 1.7);
    beam.position.set(0, 1.38, 0.2);
    beam.target.position.set(0, -0.4, 11);
    car.add(beam, beam.target);
    for (const z of [-4]) {
      const spill = new THREE.PointLight('#ffb55c', 22, 12, 1.8);
      spill.position.set(0, 2.3, z);
      car.add(spill);
    }
  }
  box(2.1, 0.22, 0.3, dark, 0, 0.62, -0.05);
  box(1.7, 0.5, L - 3, dark, 0, 0.5, -L / 2);
  for (const z of [-2.6, -3.9, -8.1, -9.4]) {
    for (const x of [-0.72, 0.72]) {
      const wheel = add(new THREE.CylinderGeometry(0.36, 0.36, 0.12, 28), dark, x, 0.37, z);
      wheel.rotation.z = Math.PI / 2;
    }
  }
  const pole = add(new THREE.CylinderGeometry(0.025, 0.035, 5, 8), dark, 0, 4.6, -8);
  pole.rotation.x = -1.05;
  return car;
}

/** Two rails along z, their heads polished. */
export function rails(length, offset = 0) {
  const group = new THREE.Group();
  const steel = new THREE.MeshStandardMaterial({ color: '#9a9792', roughness: 0.25, metalness: 1 });
  for (const x of [-0.72, 0.72]) {
    const rail = new THREE.Mesh(new THREE.BoxGeometry(0.07, 0.03, length), steel);
    rail.position.set(x + offset, 0.02, -length / 2 + 20);
    rail.receiveShadow = true;
    group.add(rail);
  }
  return group;
}
