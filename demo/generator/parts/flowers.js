import * as THREE from 'three';
import { mergeGeometries } from 'three/addons/utils/BufferGeometryUtils.js';
import { stream } from './random.js';
import { leaves } from './tree.js';

/** One bloom of the radius 1: cupped petals in two rings, paler towards their tips, round a yellow heart. */
function bloom(petals) {
  const parts = [];
  const coloured = (geometry, colourAt) => {
    const p = geometry.getAttribute('position');
    const colours = [];
    for (let i = 0; i < p.count; i++) colours.push(...colourAt(Math.hypot(p.getX(i), p.getZ(i))));
    geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
    geometry.deleteAttribute('uv');
    parts.push(geometry);
  };
  for (let ring = 0; ring < 2; ring++) {
    for (let i = 0; i < petals; i++) {
      const petal = new THREE.SphereGeometry(0.5, 8, 6);
      petal.scale(1, 0.12, 0.55);
      petal.translate(0.5, 0, 0);
      petal.rotateZ(ring ? 0.75 : 0.28);
      if (ring) petal.scale(0.72, 0.72, 0.72);
      petal.rotateY(((i + ring / 2) * 2 * Math.PI) / petals);
      coloured(petal, (r) => [0.55 + 0.6 * r, 0.55 + 0.6 * r, 0.55 + 0.6 * r]);
    }
  }
  const heart = new THREE.SphereGeometry(0.2, 10, 6);
  heart.translate(0, 0.12, 0);
  coloured(heart, () => [1.1, 0.75, 0.2]);
  return mergeGeometries(parts);
}

/** A bed of flowers and their leaves over a box of `size`, its middle at the origin. @param count of blooms */
export function bed({ size: [w, h, d], count, radius, colours, seed }) {
  const r = stream(seed);
  const group = new THREE.Group();
  const at = new THREE.Object3D();
  const tint = new THREE.Color();
  const petals = new THREE.MeshStandardMaterial({ vertexColors: true, roughness: 0.75, side: THREE.DoubleSide });
  for (const [kind, colour] of colours.entries()) {
    const mesh = new THREE.InstancedMesh(bloom(5 + kind), petals, count);
    for (let i = 0; i < count; i++) {
      const [u, v] = [r() - 0.5, r() - 0.5];
      at.position.set(u * w, h * (0.08 + 0.38 * r() - 0.5 * v * v), v * d);
      at.rotation.set(0.5 + 0.7 * (r() - 0.3), 6.28 * r(), 0.9 * (r() - 0.5), 'YXZ');
      at.scale.setScalar(radius * (0.7 + 0.5 * r()));
      at.updateMatrix();
      mesh.setMatrixAt(i, at.matrix);
      mesh.setColorAt(i, tint.set(colour).multiplyScalar(0.75 + 0.4 * r()));
    }
    mesh.castShadow = mesh.receiveShadow = true;
    group.add(mesh);
  }
  const green = new THREE.InstancedMesh(
    new THREE.PlaneGeometry(1, 1),
    new THREE.MeshLambertMaterial({ map: leaves(), alphaTest: 0.5, side: THREE.DoubleSide, color: '#c9d8b0' }),
    count * 3,
  );
  for (let i = 0; i < count * 3; i++) {
    at.position.set((r() - 0.5) * w, h * (0.62 * r() - 0.5), (r() - 0.5) * d);
    at.rotation.set(r() * 6.28, r() * 6.28, r() * 6.28);
    at.scale.setScalar(radius * (3.4 + 2 * r()));
    at.updateMatrix();
    green.setMatrixAt(i, at.matrix);
    green.setColorAt(i, tint.setScalar(0.5 + 0.5 * r()));
  }
  green.castShadow = green.receiveShadow = true;
  group.add(green);
  return group;
}
