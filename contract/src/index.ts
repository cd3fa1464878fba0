// What a page may import: no rule of this package is in it, and nothing of Joi.
export * from './errors';
export * from './news';
export * from './print-name';
export * from './types';
