import * as THREE from 'three';
import { sky, surroundings } from '../parts/sky.js';
import { cobbles } from '../parts/textures.js';
import { bystander, streetLamp, terrace } from '../parts/town.js';
import { tree } from '../parts/tree.js';
import { rails, tram } from '../parts/tram.js';

export const format = { width: 1280, height: 720, rate: 25, seconds: 3 };

/** A winter afternoon at the terminus: low sun, a waiting car. Never shown clean; what is worn from it serves as references. */
export function build(renderer) {
  const scene = new THREE.Scene();
  const dome = sky({ zenith: '#5b7ea8', horizon: '#d9c7a8', low: '#e9dcc0', sun: [-0.8, 0.28, 0.3], sunColour: '#ffe2b0', cloud: '#e6e0d6', cover: 0.45, strength: 1 });
  scene.add(dome);
  scene.environment = surroundings(renderer, dome);
  scene.environmentIntensity = 0.55;
  scene.fog = new THREE.Fog('#d3c8b4', 40, 200);
  const sun = new THREE.DirectionalLight('#ffdca6', 3.2);
  sun.position.set(-24, 26, 18);
  sun.castShadow = true;
  sun.shadow.mapSize.set(2048, 2048);
  Object.assign(sun.shadow.camera, { left: -30, right: 30, top: 24, bottom: -30, near: 1, far: 120 });
  sun.shadow.bias = -0.0008;
  scene.add(sun, new THREE.HemisphereLight('#b4c8e2', '#8d7e66', 1.3));
  scene.add(terrace({ x: 12, side: 1, from: 22, to: -90, seed: 57 }));
  const stones = cobbles(1024, 21, [12, 60]);
  const road = new THREE.Mesh(new THREE.PlaneGeometry(26, 160), new THREE.MeshLambertMaterial({ map: stones.map, color: '#efe6d6' }));
  road.rotation.x = -Math.PI / 2;
  road.position.set(0, 0, -60);
  road.receiveShadow = true;
  const grass = new THREE.Mesh(new THREE.PlaneGeometry(120, 200), new THREE.MeshLambertMaterial({ color: '#6d7440' }));
  grass.rotation.x = -Math.PI / 2;
  grass.position.set(-67, -0.02, -60);
  scene.add(road, grass, rails(160));
  for (let i = 0; i < 5; i++) {
    const t = tree(80 + i * 5, 6 + (i % 3) * 0.7, i < 2 ? 800 : 400);
    t.position.set(-9.5 - (i % 2), 0, -3 - i * 9);
    const lamp = streetLamp(false);
    lamp.position.set(6.2, 0, 2 - i * 15);
    scene.add(t, lamp);
  }
  const people = [
    ['#7a2f2a', '#241d18', 3.4, -6, 2.4],
    ['#2f4a6e', null, 4.2, -6.6, -1.2],
    ['#c9b27a', '#3a3026', -4.4, -12, 0.6],
  ].map(([coat, hat, x, z, turn]) => {
    const person = bystander(coat, hat);
    person.position.set(x, 0, z);
    person.rotation.y = turn;
    scene.add(person);
    return person;
  });
  const car = tram({ seed: 14 });
  scene.add(car);
  const camera = new THREE.PerspectiveCamera(36, 16 / 9, 0.1, 1200);
  return {
    scene,
    camera,
    optics: { samples: 6, shutter: 0.5, pupil: 0.02, focus: 16, exposure: 0.9, veil: 0.06, noise: 0.02 },
    pose(t) {
      car.position.z = -17 + 0.9 * t;
      dome.material.uniforms.time.value = t;
      people.forEach((person, i) => (person.rotation.z = 0.02 * Math.sin(t * 3 + i * 2)));
      camera.position.set(-4.6 + 0.25 * t, 1.9, 6);
      camera.lookAt(1.2, 2.2, -14);
    },
  };
}
