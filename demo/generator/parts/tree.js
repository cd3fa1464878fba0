import * as THREE from 'three';
import { stream } from './random.js';
import { painted } from './textures.js';
import { worn } from './worn.js';

let leafCard;

/** A spray of leaves on one card, with holes between them. */
export function leaves() {
  leafCard ??= painted(256, 256, (c) => {
    const r = stream(77);
    for (let i = 0; i < 130; i++) {
      const [x, y] = [24 + r() * 208, 24 + r() * 208];
      c.save();
      c.translate(x, y);
      c.rotate(r() * 6.28);
      const g = 74 + r() * 62;
      c.fillStyle = `rgb(${g * 0.66 + r() * 22},${g},${g * 0.38})`;
      c.beginPath();
      c.ellipse(0, 0, 12 + r() * 7, 5 + r() * 3, 0, 0, 6.29);
      c.fill();
      c.restore();
    }
  });
  return leafCard;
}

/** A broad-leaved tree. @param count of leaf cards */
export function tree(seed, height, count = 700) {
  const r = stream(seed);
  const group = new THREE.Group();
  const bark = worn(new THREE.MeshStandardMaterial({ color: '#6a5a48', roughness: 1 }), { fine: 13, broad: 2.2, bump: 0.03, folds: 0.02, tint: 0.9, dirt: 0.3 });
  // Wider at its foot, and not quite straight.
  const outline = [0.46, 0.34, 0.29, 0.26, 0.23, 0.2, 0.17].map((x, i) => new THREE.Vector2(x, (i / 6) ** 1.4 * height * 0.56));
  const trunk = new THREE.Mesh(new THREE.LatheGeometry(outline, 14), bark);
  trunk.rotation.set(0.03 * Math.sin(seed), seed, 0.03 * Math.cos(seed * 3));
  trunk.castShadow = true;
  group.add(trunk);
  const crown = new THREE.Group();
  for (let i = 0; i < 7; i++) {
    const bough = new THREE.Mesh(new THREE.CylinderGeometry(0.04, 0.1, height * 0.42, 6), bark);
    bough.position.set(Math.sin(i * 0.9) * 0.5, height * 0.62, Math.cos(i * 0.9) * 0.5);
    bough.rotation.set(Math.cos(i * 0.9) * 0.7, 0, -Math.sin(i * 0.9) * 0.7);
    crown.add(bough);
  }
  const cards = new THREE.InstancedMesh(new THREE.PlaneGeometry(1.15, 1.15), new THREE.MeshLambertMaterial({ map: leaves(), alphaTest: 0.5, side: THREE.DoubleSide }), count);
  const at = new THREE.Object3D();
  const tint = new THREE.Color();
  for (let i = 0; i < count; i++) {
    // Several overlapping clumps, fuller at their rims.
    const k = Math.floor(r() * 6);
    const clump = [Math.sin(k * 1.05) * 1.5, height * (0.66 + 0.09 * (k % 3)), Math.cos(k * 1.05) * 1.5];
    const [u, v, q] = [r() * 2 - 1, r() * 6.283, 0.75 + 0.25 * r()];
    const s = Math.sqrt(1 - u * u);
    at.position.set(clump[0] + 1.6 * q * s * Math.cos(v), clump[1] + 1.25 * q * u, clump[2] + 1.6 * q * s * Math.sin(v));
    at.rotation.set(r() * 6.28, r() * 6.28, r() * 6.28);
    at.scale.setScalar(0.65 + 0.6 * r());
    at.updateMatrix();
    cards.setMatrixAt(i, at.matrix);
    cards.setColorAt(i, tint.setScalar(0.72 + 0.5 * r() * (0.6 + 0.4 * (u + 1))));
  }
  cards.castShadow = true;
  cards.receiveShadow = true;
  crown.add(cards);
  group.add(crown);
  group.userData.crown = crown;
  return group;
}

/** A hedge of leaves from one point of the ground to another. @param from, to x and z */
export function hedge({ from, to, height, count, seed }) {
  const r = stream(seed);
  const cards = new THREE.InstancedMesh(
    new THREE.PlaneGeometry(1.3, 1.3),
    new THREE.MeshLambertMaterial({ map: leaves(), alphaTest: 0.5, side: THREE.DoubleSide, color: '#b9c4a4' }),
    count,
  );
  const at = new THREE.Object3D();
  const tint = new THREE.Color();
  for (let i = 0; i < count; i++) {
    const [k, up] = [r(), Math.sqrt(r())];
    at.position.set(
      from[0] + (to[0] - from[0]) * k + (r() - 0.5) * 1.6,
      up * height * (0.8 + 0.3 * Math.sin(k * 91 + 2 * Math.sin(k * 37))),
      from[1] + (to[1] - from[1]) * k + (r() - 0.5) * 1.6,
    );
    at.rotation.set(r() * 6.28, r() * 6.28, r() * 6.28);
    at.scale.setScalar(0.8 + 0.8 * r());
    at.updateMatrix();
    cards.setMatrixAt(i, at.matrix);
    cards.setColorAt(i, tint.setScalar(0.35 + 0.55 * up + 0.25 * r()));
  }
  cards.castShadow = cards.receiveShadow = true;
  return cards;
}
