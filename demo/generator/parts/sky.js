import * as THREE from 'three';

/** A dome with a gradient, a sun's glow and drifting clouds of summed value noise. */
export function sky({ zenith, horizon, low, sun, sunColour, cloud, cover = 0.5, strength = 1 }) {
  const material = new THREE.ShaderMaterial({
    side: THREE.BackSide,
    depthWrite: false,
    uniforms: {
      zenith: { value: new THREE.Color(zenith) },
      horizon: { value: new THREE.Color(horizon) },
      low: { value: new THREE.Color(low) },
      sun: { value: new THREE.Vector3(...sun).normalize() },
      sunColour: { value: new THREE.Color(sunColour) },
      cloud: { value: new THREE.Color(cloud) },
      cover: { value: cover },
      strength: { value: strength },
      time: { value: 0 },
    },
    vertexShader: 'varying vec3 d; void main(){ d = position; vec4 p = projectionMatrix * modelViewMatrix * vec4(position,1.); gl_Position = p.xyww; }',
    fragmentShader: `
      varying vec3 d; uniform vec3 zenith, horizon, low, sun, sunColour, cloud; uniform float cover, strength, time;
      float h(vec2 p){ vec3 q = fract(vec3(p.xyx) * .1031); q += dot(q, q.yzx + 33.33); return fract((q.x + q.y) * q.z); }
      float n(vec2 p){ vec2 i = floor(p), f = fract(p); f = f*f*f*(f*(f*6.-15.)+10.); return mix(mix(h(i),h(i+vec2(1,0)),f.x), mix(h(i+vec2(0,1)),h(i+vec2(1,1)),f.x), f.y); }
      float fbm(vec2 p){ float a = .5, s = 0.; for (int i=0;i<6;i++){ s += a*n(p); p = mat2(1.6,1.2,-1.2,1.6)*p; a *= .5; } return s; }
      void main(){
        vec3 v = normalize(d); float up = max(v.y, 0.);
        vec3 c = mix(low, horizon, smoothstep(0., .12, up)); c = mix(c, zenith, smoothstep(.03, .5, up));
        float s = max(dot(v, sun), 0.); c += sunColour * (pow(s, 6.) * .25 + pow(s, 60.) * .35);
        vec2 p = v.xz / (v.y + .12) * 1.1 + vec2(time * .012, 0.);
        float f = fbm(p + .35 * fbm(p * 1.7)); float m = smoothstep(1. - cover, 1.25 - cover * .5, f) * smoothstep(.015, .16, up);
        c = mix(c, cloud * (.72 + .5 * smoothstep(.4, .9, fbm(p + sun.xz * .25))) + sunColour * pow(s, 8.) * .3, m * .85);
        gl_FragColor = vec4(c * strength, 1.);
        #include <tonemapping_fragment>
        #include <colorspace_fragment>
      }`,
  });
  const dome = new THREE.Mesh(new THREE.SphereGeometry(900, 48, 32), material);
  // Drawn last, behind all: its shader is dear and most of it is hidden.
  dome.renderOrder = 1;
  dome.frustumCulled = false;
  return dome;
}

/** Light from all round, blurred from a scene that holds only the sky (and what reflections should show). */
export function surroundings(renderer, ...objects) {
  const scene = new THREE.Scene();
  for (const object of objects) scene.add(object.clone());
  const generator = new THREE.PMREMGenerator(renderer);
  return generator.fromScene(scene, 0.02).texture;
}
