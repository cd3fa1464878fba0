import * as THREE from 'three';
import { Reflector } from 'three/addons/objects/Reflector.js';
import { sky, surroundings } from '../parts/sky.js';
import { cobbles, glow } from '../parts/textures.js';
import { bystander, streetLamp, terrace } from '../parts/town.js';
import { rails, tram } from '../parts/tram.js';

export const format = { width: 1920, height: 1080, rate: 25, seconds: 8 };

/** The last tram comes up the wet street at dusk, lamps lit, and slows for the stop. */
export function build(renderer) {
  const scene = new THREE.Scene();
  const dome = sky({ zenith: '#16244c', horizon: '#a85c50', low: '#e8a05c', sun: [-0.25, 0.05, -1], sunColour: '#ff9a55', cloud: '#6b4a57', cover: 0.5, strength: 0.72 });
  scene.add(dome);
  scene.environment = surroundings(renderer, dome);
  scene.environmentIntensity = 0.42;
  scene.fog = new THREE.Fog('#8a5a50', 40, 190);
  scene.add(terrace({ x: -8.5, side: -1, from: 14, to: -120, seed: 11, lit: 0.42 }), terrace({ x: 8.5, side: 1, from: 14, to: -120, seed: 23, lit: 0.38 }));
  const halo = glow();
  for (let i = 0; i < 7; i++) {
    for (const side of [-1, 1]) {
      const lamp = streetLamp(true, halo);
      lamp.position.set(side * 5.6, 0.12, -4 - i * 16 - (side > 0 ? 8 : 0));
      scene.add(lamp);
      if (i < 1 || (i === 1 && side < 0)) {
        const light = new THREE.PointLight('#ffbe78', 38, 15, 1.9);
        light.position.copy(lamp.position).setY(4.5);
        scene.add(light);
      }
    }
  }
  const stones = cobbles(1024, 5, [7, 56]);
  // Below the wet stones lies a mirror; they let it through more where water stands.
  const mirror = new Reflector(new THREE.PlaneGeometry(11, 160), { textureWidth: 640, textureHeight: 360, color: '#b9b9b9', clipBias: 0.001, multisample: 0 });
  mirror.material.fragmentShader = `
    uniform vec3 color; uniform sampler2D tDiffuse; varying vec4 vUv;
    float h(vec2 p){ vec3 q = fract(vec3(p.xyx) * .1031); q += dot(q, q.yzx + 33.33); return fract((q.x + q.y) * q.z); }
    float n(vec2 p){ vec2 i = floor(p), f = fract(p); f = f*f*(3.-2.*f); return mix(mix(h(i),h(i+vec2(1,0)),f.x), mix(h(i+vec2(0,1)),h(i+vec2(1,1)),f.x), f.y); }
    void main(){ vec2 u = vUv.xy / vUv.w; vec2 g = vec2(n(u*vec2(260.,90.))-.5, n(u*vec2(240.,80.)+7.)-.5); vec3 c = vec3(0.);
      for (int i = 0; i < 3; i++) { float t = float(i) - 1.; c += texture2D(tDiffuse, u + vec2(g.x*.006, g.y*.024 + t*.014)).rgb; }
      gl_FragColor = vec4(c / 3. * color * .62, 1.);
      #include <tonemapping_fragment>
      #include <colorspace_fragment>
    }`;
  mirror.rotation.x = -Math.PI / 2;
  mirror.position.set(0, -0.002, -60);
  const road = new THREE.Mesh(
    new THREE.PlaneGeometry(11, 160),
    new THREE.MeshStandardMaterial({ map: stones.map, bumpMap: stones.bumpMap, bumpScale: 3, roughness: 0.35, transparent: true, opacity: 0.6, color: '#7d7a78' }),
  );
  road.rotation.x = -Math.PI / 2;
  road.position.set(0, 0.004, -60);
  road.receiveShadow = true;
  scene.add(mirror, road, rails(160));
  const kerb = new THREE.MeshStandardMaterial({ color: '#6d6963', roughness: 0.8 });
  for (const side of [-1, 1]) {
    const pavement = new THREE.Mesh(new THREE.BoxGeometry(3.2, 0.16, 160), kerb);
    pavement.position.set(side * 7.05, 0.06, -60);
    pavement.receiveShadow = true;
    scene.add(pavement);
  }
  const wire = new THREE.LineBasicMaterial({ color: '#15130f' });
  scene.add(new THREE.Line(new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(0, 5.7, 20), new THREE.Vector3(0, 5.7, -140)]), wire));
  for (let i = 0; i < 8; i++)
    scene.add(
      new THREE.Line(
        new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(-8.5, 7.2, -i * 16 - 2), new THREE.Vector3(0, 5.7, -i * 16 - 2), new THREE.Vector3(8.5, 7.2, -i * 16 - 2)]),
        wire,
      ),
    );
  const people = [
    ['#3a4256', '#20242c', 5.9, -3.4, -2.2],
    ['#5a3a34', null, 6.4, -4.1, -1.8],
    ['#4a4a3c', '#2c2a22', 6.9, -2.6, -2.6],
    ['#6a2f3a', null, -6.1, -6.5, 1.4],
  ].map(([coat, hat, x, z, turn]) => {
    const person = bystander(coat, hat);
    person.position.set(x, 0.14, z);
    person.rotation.y = turn;
    scene.add(person);
    return person;
  });
  const car = tram({ lit: true });
  scene.add(car);
  const moon = new THREE.DirectionalLight('#ffb184', 0.7);
  moon.position.set(-12, 9, -40);
  scene.add(moon, new THREE.HemisphereLight('#3c4d7c', '#4a3428', 0.9));
  const camera = new THREE.PerspectiveCamera(34, 16 / 9, 0.1, 1200);
  return {
    scene,
    camera,
    optics: { samples: 6, shutter: 0.5, pupil: 0.02, focus: 16, exposure: 0.78, veil: 0.06, noise: 0.02 },
    pose(t) {
      const s = t / format.seconds;
      // Coasting in: the way left falls off as the square of the time left.
      car.position.z = -5.2 - 36 * (1 - s) ** 2;
      car.position.x = 0.008 * Math.sin(t * 7.3) * (1 - s);
      car.rotation.z = 0.004 * Math.sin(t * 5.1) * (1 - s);
      dome.material.uniforms.time.value = t;
      people.forEach((p, i) => {
        p.rotation.y += 0.0015 * Math.sin(t * 1.3 + i * 2);
        p.rotation.z = 0.012 * Math.sin(t * 0.9 + i * 1.7);
      });
      camera.position.set(2.9 - 0.35 * s, 1.72, 7.2 - 0.8 * s);
      camera.lookAt(-0.25 + 0.25 * s, 2.0, -14);
    },
  };
}
