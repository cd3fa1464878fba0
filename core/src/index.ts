import './traits';

export * from './bare';
export { shippedLook, shippedLooks, type ShippedLook } from './looks';
export { partsKept, passLength, writeParts, type PlatePart } from './traits/laid/plate';
