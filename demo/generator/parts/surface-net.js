import * as THREE from 'three';

/**
 * A mesh of the surface where a distance function is 0, by naive surface nets: one vertex a cell that the surface
 * crosses, at the mean of its crossings; normals from the function's own slope.
 */
export function surfaceNet(distance, [x0, y0, z0], [x1, y1, z1], cells) {
  const step = (x1 - x0) / cells;
  const [nx, ny, nz] = [cells + 1, Math.ceil((y1 - y0) / step) + 1, Math.ceil((z1 - z0) / step) + 1];
  const field = new Float32Array(nx * ny * nz);
  const at = (i, j, k) => i + nx * (j + ny * k);
  for (let k = 0; k < nz; k++) for (let j = 0; j < ny; j++) for (let i = 0; i < nx; i++) field[at(i, j, k)] = distance(x0 + i * step, y0 + j * step, z0 + k * step);
  const index = new Int32Array(nx * ny * nz).fill(-1);
  const positions = [];
  const EDGES = [
    [0, 1],
    [0, 2],
    [0, 4],
    [1, 3],
    [1, 5],
    [2, 3],
    [2, 6],
    [3, 7],
    [4, 5],
    [4, 6],
    [5, 7],
    [6, 7],
  ];
  const faces = [];
  for (let k = 0; k < nz - 1; k++)
    for (let j = 0; j < ny - 1; j++)
      for (let i = 0; i < nx - 1; i++) {
        const d = [0, 1, 2, 3, 4, 5, 6, 7].map((c) => field[at(i + (c & 1), j + ((c >> 1) & 1), k + (c >> 2))]);
        const inside = d.filter((v) => v < 0).length;
        if (inside === 0 || inside === 8) continue;
        const sum = [0, 0, 0];
        let n = 0;
        for (const [a, b] of EDGES) {
          if (d[a] < 0 === d[b] < 0) continue;
          const t = d[a] / (d[a] - d[b]);
          for (let axis = 0; axis < 3; axis++) sum[axis] += ((a >> axis) & 1) + t * (((b >> axis) & 1) - ((a >> axis) & 1));
          n++;
        }
        index[at(i, j, k)] = positions.length / 3;
        positions.push(x0 + (i + sum[0] / n) * step, y0 + (j + sum[1] / n) * step, z0 + (k + sum[2] / n) * step);
      }
  for (let k = 1; k < nz - 1; k++)
    for (let j = 1; j < ny - 1; j++)
      for (let i = 1; i < nx - 1; i++) {
        const here = field[at(i, j, k)] < 0;
        for (const [di, dj, dk, quad] of [
          [1, 0, 0, [at(i, j - 1, k - 1), at(i, j, k - 1), at(i, j, k), at(i, j - 1, k)]],
          [0, 1, 0, [at(i - 1, j, k - 1), at(i - 1, j, k), at(i, j, k), at(i, j, k - 1)]],
          [0, 0, 1, [at(i - 1, j - 1, k), at(i, j - 1, k), at(i, j, k), at(i - 1, j, k)]],
        ]) {
          if (here === field[at(i + di, j + dj, k + dk)] < 0) continue;
          const [a, b, c, d] = quad.map((q) => index[q]);
          if (here) faces.push(a, b, c, a, c, d);
          else faces.push(a, c, b, a, d, c);
        }
      }
  const normals = [];
  const e = step * 0.5;
  for (let v = 0; v < positions.length; v += 3) {
    const [x, y, z] = positions.slice(v, v + 3);
    const n = new THREE.Vector3(
      distance(x + e, y, z) - distance(x - e, y, z),
      distance(x, y + e, z) - distance(x, y - e, z),
      distance(x, y, z + e) - distance(x, y, z - e),
    ).normalize();
    normals.push(n.x, n.y, n.z);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new THREE.Float32BufferAttribute(normals, 3));
  geometry.setIndex(faces);
  return geometry;
}

/** Distance functions and the soft ways of joining them. */
export const ball = (x, y, z, rx, ry = rx, rz = rx) => {
  const k = Math.hypot(x / rx, y / ry, z / rz);
  return (k - 1) * Math.min(rx, ry, rz);
};
export const rod = (x, y, z, a, b, ra, rb = ra) => {
  const [px, py, pz] = [x - a[0], y - a[1], z - a[2]];
  const [bx, by, bz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const h = Math.max(0, Math.min(1, (px * bx + py * by + pz * bz) / (bx * bx + by * by + bz * bz)));
  return Math.hypot(px - bx * h, py - by * h, pz - bz * h) - (ra + (rb - ra) * h);
};
export const join = (a, b, k) => {
  const h = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - (h * h * k) / 4;
};
export const carve = (a, b, k) => -join(-a, b, k);
