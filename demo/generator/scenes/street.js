import * as THREE from 'three';
import { backdrop, daylight } from '../parts/camera.js';
import { sky, surroundings } from '../parts/sky.js';
import { cobbles, grass, slabs } from '../parts/textures.js';
import { bystander, streetLamp, terrace } from '../parts/town.js';
import { hedge, tree } from '../parts/tree.js';
import { rails, tram } from '../parts/tram.js';
import { worn } from '../parts/worn.js';

export const format = { width: 1280, height: 720, rate: 25, seconds: 8 };

/** By day: the tram passes under trees while the camera follows. */
export function build(renderer) {
  const scene = new THREE.Scene();
  const dome = sky({ zenith: '#2f66b4', horizon: '#9cc2e2', low: '#dfe6e6', sun: [0.6, 0.75, 0.4], sunColour: '#fff0d0', cloud: '#f4f4f2', cover: 0.62, strength: 1 });
  scene.add(dome);
  scene.environment = surroundings(renderer, dome);
  scene.environmentIntensity = 0.5;
  scene.fog = new THREE.Fog('#c3d2dc', 60, 260);
  const light = daylight({
    toSun: [26, 34, 18],
    sunColour: '#fff1da',
    sun: 2.9,
    skyColour: '#c2d8f2',
    sky: 1.35,
    bounce: '#8d8468',
    reach: 30,
    centre: [0, 0, -12],
    width: 0.015,
  });
  scene.add(light.group);
  const far = new THREE.Group();
  far.add(terrace({ x: -13, side: -1, from: 26, to: -110, seed: 31 }));
  const ground = (w, l, x, y, z, material) => {
    const mesh = new THREE.Mesh(new THREE.PlaneGeometry(w, l), material);
    mesh.rotation.x = -Math.PI / 2;
    mesh.position.set(x, y, z);
    mesh.receiveShadow = true;
    return mesh;
  };
  const stones = cobbles(1024, 9, [12, 106]);
  stones.map.anisotropy = 8;
  const setts = worn(new THREE.MeshStandardMaterial({ map: stones.map, color: new THREE.Color('#ddd2c0').multiplyScalar(1.5), roughness: 0.72, envMapIntensity: 0.5 }), {
    fine: 2.2,
    broad: 0.35,
    tint: 0.45,
    dirt: 0.35,
  });
  const road = ground(18, 160, -2, 0, -60, setts);
  const flags = worn(new THREE.MeshStandardMaterial({ map: slabs(512, 4, [5, 80]), roughness: 0.9 }), { fine: 3, broad: 0.5, tint: 0.3, dirt: 0.25 });
  const kerb = worn(new THREE.MeshStandardMaterial({ color: '#a39c90', roughness: 0.9 }), { fine: 9, broad: 0.8, tint: 0.4, dirt: 0.4 });
  for (const [x, w, edge] of [
    [-10.4, 5.2, -7.8],
    [7.4, 2.2, 6.3],
  ]) {
    const pavement = ground(w, 160, x, 0.14, -60, flags);
    const stone = new THREE.Mesh(new THREE.BoxGeometry(0.3, 0.15, 160), kerb);
    stone.position.set(edge, 0.075, -60);
    stone.castShadow = stone.receiveShadow = true;
    far.add(pavement, stone);
  }
  far.add(ground(90, 200, 53.5, 0.02, -60, worn(new THREE.MeshLambertMaterial({ map: grass(512, 8, [40, 90]) }), { fine: 1.4, broad: 0.16, tint: 0.7, dirt: 0.3 })));
  far.add(hedge({ from: [26, 14], to: [16, -130], height: 2.6, count: 2600, seed: 5 }), hedge({ from: [16, -130], to: [-16, -136], height: 5, count: 900, seed: 6 }));
  far.add(road, rails(160));
  // In the picture of what is far the road lies without what moves, whose shadows fall on a plane of their own.
  const shaded = ground(30, 160, -2, 0.03, -60, new THREE.ShadowMaterial({ opacity: 0.62 }));
  scene.add(far, shaded);
  const trees = [];
  for (let i = 0; i < 7; i++) {
    for (const [x, turn] of [
      [8.6, 0],
      [-9.6, 2],
    ]) {
      if (x < 0 && i % 2) continue;
      const t = tree(40 + i * 3 + turn, 6.5 + ((i * 37 + turn) % 5) * 0.5, i < 3 ? 900 : 420);
      t.position.set(x, 0, 2 - i * 11 - turn * 2);
      // The nearest sway; the others stand still in the picture of what is far.
      if (x > 0 && i < 3) trees.push(t);
      (x > 0 && i < 3 ? scene : far).add(t);
    }
  }
  for (let i = 0; i < 6; i++) {
    const lamp = streetLamp(false);
    lamp.position.set(-10.8, 0, 8 - i * 16);
    far.add(lamp);
  }
  const walkers = [
    ['#b8452f', '#2a2622', -8.8, -4, 0, 0.9],
    ['#3d5f8f', null, -9.2, -16, Math.PI, -0.8],
    ['#d0b04a', null, -8.2, -20, Math.PI, -0.8],
    ['#3a4a3a', '#3a2c20', 7.0, -9, 0, 0.7],
  ].map(([coat, hat, x, z, turn, speed]) => {
    const person = bystander(coat, hat);
    person.position.set(x, 0.14, z);
    person.rotation.y = turn;
    scene.add(person);
    return { person, z, speed };
  });
  const car = tram({ seed: 9 });
  scene.add(car);
  const camera = new THREE.PerspectiveCamera(40, 16 / 9, 0.1, 1200);
  const look = (t) => {
    camera.position.set(4.4, 1.75, 8.5);
    camera.lookAt(-0.6 - 0.1 * t, 2.3, -14 + 0.9 * t);
  };
  look(format.seconds / 2);
  scene.userData.dome = dome;
  const optics = { samples: 5, shutter: 0.5, pupil: 0.02, focus: 18, exposure: 0.95, veil: 0.05, noise: 0.02 };
  backdrop(renderer, { scene, far, eye: camera, light, optics: { ...optics, samples: 24 }, distance: 110, margin: 1.2 }, format);
  return {
    scene,
    camera,
    light,
    optics,
    pose(t) {
      car.position.z = -31 + 4.6 * t;
      car.rotation.z = 0.006 * Math.sin(t * 6.2);
      car.position.y = 0.01 * Math.sin(t * 9.7);
      trees.forEach((tr, i) => {
        tr.userData.crown.rotation.z = 0.014 * Math.sin(t * 1.4 + i);
        tr.userData.crown.rotation.x = 0.011 * Math.sin(t * 1.9 + i * 2.1);
      });
      for (const { person, z, speed } of walkers) {
        person.position.z = z + speed * t;
        person.position.y = 0.14 + 0.025 * Math.abs(Math.sin(t * 5.4 + z));
        person.rotation.z = 0.03 * Math.sin(t * 5.4 + z);
      }
      look(t);
    },
  };
}
