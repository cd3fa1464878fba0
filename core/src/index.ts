import './traits';

export * from './bare';
export { shippedLook, shippedLooks, type ShippedLook } from './looks';
