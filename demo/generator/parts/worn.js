// Surfaces as they are: no paint, cloth, skin or ground is even. Works on any lit material and needs no texture coordinates.
const NOISE = `
  float wornHash(vec3 p){ p = fract(p * .1031); p += dot(p, p.zyx + 31.32); return fract((p.x + p.y) * p.z); }
  float wornNoise(vec3 p){ vec3 i = floor(p), f = fract(p); f = f*f*(3.-2.*f);
    return mix(mix(mix(wornHash(i),wornHash(i+vec3(1,0,0)),f.x), mix(wornHash(i+vec3(0,1,0)),wornHash(i+vec3(1,1,0)),f.x), f.y),
      mix(mix(wornHash(i+vec3(0,0,1)),wornHash(i+vec3(1,0,1)),f.x), mix(wornHash(i+vec3(0,1,1)),wornHash(i+vec3(1,1,1)),f.x), f.y), f.z); }
`;

/**
 * Gives a material grain and wear, from noise in the object's own space.
 * @param fine, broad cells per unit of the object @param bump height of the grain, of the folds, in units @param tint how far colour varies
 * @param dirt share of the dark that lies in patches
 */
export function worn(material, { fine = 40, broad = 3, bump = 0, folds = 0, tint = 0.12, dirt = 0.15 } = {}) {
  const number = (v) => v.toFixed(5);
  material.onBeforeCompile = (shader) => {
    shader.vertexShader = shader.vertexShader
      .replace('#include <common>', '#include <common>\nvarying vec3 wornAt;')
      .replace('#include <begin_vertex>', '#include <begin_vertex>\nwornAt = position;\n#ifdef USE_INSTANCING\nwornAt = (instanceMatrix * vec4(position, 1.)).xyz;\n#endif');
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', `#include <common>\nvarying vec3 wornAt;\n${NOISE}`)
      .replace(
        '#include <map_fragment>',
        `#include <map_fragment>
        float wornBroad = .65 * wornNoise(wornAt * ${number(broad)}) + .35 * wornNoise(wornAt * ${number(broad * 2.7)});
        float wornFine = wornNoise(wornAt * ${number(fine)});
        diffuseColor.rgb *= (1. + ${number(tint)} * (wornFine - .5 + wornBroad - .5)) * (1. - ${number(dirt)} * smoothstep(.5, .85, wornBroad));`,
      )
      .replace(
        '#include <normal_fragment_maps>',
        `#include <normal_fragment_maps>
        float wornHigh = ${number(bump)} * wornFine + ${number(folds)} * wornBroad;
        vec3 wornX = dFdx(-vViewPosition), wornY = dFdy(-vViewPosition);
        vec3 wornR = cross(wornY, normal), wornS = cross(normal, wornX);
        float wornDet = dot(wornX, wornR);
        normal = normalize(abs(wornDet) * normal - sign(wornDet) * (dFdx(wornHigh) * wornR + dFdy(wornHigh) * wornS));`,
      );
  };
  material.customProgramCacheKey = () => JSON.stringify([fine, broad, bump, folds, tint, dirt]);
  return material;
}
