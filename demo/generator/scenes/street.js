import * as THREE from 'three';
import { sky, surroundings } from '../parts/sky.js';
import { cobbles } from '../parts/textures.js';
import { bystander, streetLamp, terrace } from '../parts/town.js';
import { tree } from '../parts/tree.js';
import { rails, tram } from '../parts/tram.js';

export const format = { width: 1280, height: 720, rate: 25, seconds: 8 };

/** By day: the tram passes under trees while the camera follows. */
export function build(renderer) {
  const scene = new THREE.Scene();
  renderer.toneMappingExposure = 0.9;
  const dome = sky({ zenith: '#2f66b4', horizon: '#9cc2e2', low: '#dfe6e6', sun: [0.6, 0.75, 0.4], sunColour: '#fff0d0', cloud: '#f4f4f2', cover: 0.62, strength: 1 });
  scene.add(dome);
  scene.environment = surroundings(renderer, dome);
  scene.environmentIntensity = 0.5;
  scene.fog = new THREE.Fog('#c3d2dc', 60, 260);
  const sun = new THREE.DirectionalLight('#fff1d6', 3.4);
  sun.position.set(26, 34, 18);
  sun.castShadow = true;
  sun.shadow.mapSize.set(2048, 2048);
  Object.assign(sun.shadow.camera, { left: -26, right: 26, top: 24, bottom: -40, near: 1, far: 120 });
  sun.shadow.bias = -0.0008;
  scene.add(sun, new THREE.HemisphereLight('#a9c8ee', '#75694f', 1.1));
  scene.add(terrace({ x: -13, side: -1, from: 26, to: -110, seed: 31 }));
  const stones = cobbles(1024, 9, [12, 60]);
  const road = new THREE.Mesh(new THREE.PlaneGeometry(18, 160), new THREE.MeshLambertMaterial({ map: stones.map, color: '#cfc8bb' }));
  road.rotation.x = -Math.PI / 2;
  road.position.set(-2, 0, -60);
  road.receiveShadow = true;
  const grass = new THREE.Mesh(new THREE.PlaneGeometry(80, 200), new THREE.MeshLambertMaterial({ color: '#5f7d3a' }));
  grass.rotation.x = -Math.PI / 2;
  grass.position.set(46.5, -0.02, -60);
  grass.receiveShadow = true;
  scene.add(road, grass, rails(160));
  const trees = [];
  for (let i = 0; i < 7; i++) {
    for (const [x, turn] of [
      [8.6, 0],
      [-9.6, 2],
    ]) {
      if (x < 0 && i % 2) continue;
      const t = tree(40 + i * 3 + turn, 6.5 + ((i * 37 + turn) % 5) * 0.5, i < 3 ? 900 : 420);
      t.position.set(x, 0, 2 - i * 11 - turn * 2);
      scene.add(t);
      trees.push(t);
    }
  }
  for (let i = 0; i < 6; i++) {
    const lamp = streetLamp(false);
    lamp.position.set(-10.8, 0, 8 - i * 16);
    scene.add(lamp);
  }
  const walkers = [
    ['#b8452f', '#2a2622', -8.8, -4, 0, 0.9],
    ['#3d5f8f', null, -9.2, -16, Math.PI, -0.8],
    ['#d0b04a', null, -8.2, -20, Math.PI, -0.8],
    ['#3a4a3a', '#3a2c20', 6.4, -9, 0, 0.7],
  ].map(([coat, hat, x, z, turn, speed]) => {
    const person = bystander(coat, hat);
    person.position.set(x, 0, z);
    person.rotation.y = turn;
    scene.add(person);
    return { person, z, speed };
  });
  const car = tram({ seed: 9 });
  scene.add(car);
  const camera = new THREE.PerspectiveCamera(40, 16 / 9, 0.1, 1200);
  return {
    scene,
    camera,
    pose(t) {
      car.position.z = -31 + 4.6 * t;
      car.rotation.z = 0.006 * Math.sin(t * 6.2);
      car.position.y = 0.01 * Math.sin(t * 9.7);
      dome.material.uniforms.time.value = t * 2;
      trees.forEach((tr, i) => {
        tr.userData.crown.rotation.z = 0.014 * Math.sin(t * 1.4 + i);
        tr.userData.crown.rotation.x = 0.011 * Math.sin(t * 1.9 + i * 2.1);
      });
      for (const { person, z, speed } of walkers) {
        person.position.z = z + speed * t;
        person.position.y = 0.025 * Math.abs(Math.sin(t * 5.4 + z));
        person.rotation.z = 0.03 * Math.sin(t * 5.4 + z);
      }
      camera.position.set(4.4, 1.75, 8.5);
      camera.lookAt(-0.6 - 0.1 * t, 2.3, -14 + 0.9 * t);
    },
  };
}
