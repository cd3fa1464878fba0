// Scalar mathematics for coefficients worked out once a frame or once a row, from the module so that every engine agrees on the last bit.

export function sin(x: f64): f64 {
  return Math.sin(x);
}
export function cos(x: f64): f64 {
  return Math.cos(x);
}
export function exp(x: f64): f64 {
  return Math.exp(x);
}
export function log(x: f64): f64 {
  return Math.log(x);
}
export function pow(x: f64, y: f64): f64 {
  return Math.pow(x, y);
}
