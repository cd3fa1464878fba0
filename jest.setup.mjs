// Pictures are compared as bytes: Jest's own comparison asks for every sample by its name, which takes longer than making the picture.
import { expect } from '@jest/globals';

const bytes = (array) => Buffer.from(array.buffer, array.byteOffset, array.byteLength);

expect.addEqualityTesters([
  (a, b) => {
    if (!ArrayBuffer.isView(a) || !ArrayBuffer.isView(b) || a.constructor !== b.constructor || a.byteLength !== b.byteLength) return undefined;
    // What differs is left to Jest, which says where.
    return bytes(a).equals(bytes(b)) || undefined;
  },
]);
