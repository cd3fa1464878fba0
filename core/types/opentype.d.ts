// The file of ES modules, which Node takes as such; its package names it to bundlers alone.
declare module 'opentype.js/dist/opentype.mjs' {
  export * from 'opentype.js';
}
