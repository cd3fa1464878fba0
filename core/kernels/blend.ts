/** dst = under + share * (dst - under): the strength of a trait. */
export function mix(dst: usize, under: usize, count: i32, share: f32): void {
  const s = f32x4.splat(share);
  for (let x: usize = 0; x < <usize>count << 2; x += 16) {
    const u = v128.load(under + x);
    v128.store(dst + x, f32x4.add(u, f32x4.mul(f32x4.sub(v128.load(dst + x), u), s)));
  }
}

export function copy(dst: usize, src: usize, bytes: usize): void {
  memory.copy(dst, src, bytes);
}
