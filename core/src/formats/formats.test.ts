import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { lookOf, newEngine } from '../testing';
import { bakeCube } from './bake';
import { cdlText, type Cdl } from './cdl';
import { cubeText, FormatError, parseCube, sampleTable } from './cube';
import { parseCdl } from './read-cdl';

function failure(run: () => unknown): { line: number; reason: string } {
  try {
    run();
  } catch (error) {
    if (error instanceof FormatError) return { line: error.line, reason: error.reason };
    throw error;
  }
  throw new Error('nothing was refused');
}

describe('.cube', () => {
  const ONE = 'TITLE "Depot"\n# made up\nLUT_1D_SIZE 3\n0 0 0\n.25 0.5 1e0\n1 1 1\n';
  const CUBE = 'LUT_3D_SIZE 2\r\nDOMAIN_MIN 0 0 0\r\nDOMAIN_MAX 2 2 2\r\n0 0 0\r\n1 0 0\r\n0 1 0\r\n1 1 0\r\n0 0 1\r\n1 0 1\r\n0 1 1\r\n1 1 1\r\n';

  test('a curve and a cube are read, and sampled as the format says', () => {
    const curve = parseCube(ONE);
    expect(curve).toMatchObject({ title: 'Depot', dimensions: 1, size: 3 });
    expect(sampleTable(curve, [0.25, 0.25, 0.75])).toEqual([0.125, 0.25, 1]);
    const cube = parseCube(CUBE);
    expect(cube).toMatchObject({ dimensions: 3, size: 2, high: [2, 2, 2] });
    sampleTable(cube, [0.5, 1, 2]).forEach((v, i) => expect(v).toBeCloseTo([0.25, 0.5, 1][i]!, 6));
    // Outside its domain the first and the last points hold.
    expect(sampleTable(cube, [-1, 5, 0])).toEqual([0, 1, 0]);
  });

  test('what is written is read back the same', () => {
    for (const text of [ONE, CUBE]) {
      const table = parseCube(text);
      expect(parseCube(cubeText(table))).toEqual(table);
    }
  });

  test.each([
    ['LUT_3D_SIZE 2\n0 0 0\n1 0 x\n', 3, /"x" is not a number/],
    ['LUT_3D_SIZE 2\n0 0 0\n1 0\n', 3, /takes 3 numbers, here stand 2/],
    ['LUT_3D_SIZE 1\n', 1, /whole number from 2 to 256/],
    ['LUT_3D_SIZE 4096\n', 1, /whole number from 2 to 256/],
    ['0 0 0\n', 1, /points begin before/],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n2 2 2\n', 4, /more points than the 2/],
    ['LUT_1D_SIZE 2\n0 0 0\n', 3, /ends after 1 of 2/],
    ['HELLO 3\n', 1, /word HELLO is not known/],
    ['LUT_1D_SIZE 2\nLUT_3D_SIZE 2\n', 2, /size is given twice/],
    ['DOMAIN_MIN 1 0 0\nLUT_1D_SIZE 2\n0 0 0\n1 1 1\n', 1, /DOMAIN_MIN must lie below/],
    ['LUT_1D_SIZE 2\n0 0 nan\n1 1 1\n', 2, /"nan" is not a number/],
    ['', 1, /neither LUT_1D_SIZE nor LUT_3D_SIZE/],
  ])('%j is refused with its line', (text, line, reason) => {
    const fault = failure(() => parseCube(text));
    expect(fault.line).toBe(line);
    expect(fault.reason).toMatch(reason);
  });
});

describe('ASC CDL', () => {
  const list: Cdl[] = [
    { id: 'depot & street', slope: [1.1, 1, 0.9], offset: [-0.02, 0, 0.03], power: [1, 0.95, 1.2], saturation: 0.85 },
    { id: 'line14', slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1.2 },
  ];

  test.each(['cdl', 'ccc'] as const)('a .%s holds several corrections, read back the same', (kind) => {
    expect(parseCdl(cdlText(list, kind))).toEqual(list);
  });

  test('a .cc holds one', () => {
    expect(parseCdl(cdlText([list[0]!], 'cc'))).toEqual([list[0]]);
    expect(() => cdlText(list, 'cc')).toThrow(/one correction/);
  });

  test('parts left out take their rest; other elements are passed over', () => {
    const text = '<ColorCorrection id="a"><Description>dusk</Description><SOPNode><Slope>2 1 1</Slope></SOPNode></ColorCorrection>';
    expect(parseCdl(text)).toEqual([{ id: 'a', slope: [2, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 }]);
  });

  test.each([
    ['<ColorCorrection>\n<Slope>1 1</Slope></ColorCorrection>', 2, /Slope takes 3 numbers, here stand 2/],
    ['<ColorCorrection>\n\n<Power>1 0 1</Power></ColorCorrection>', 3, /Power must not be 0 or below/],
    ['<ColorCorrection><Slope>1 -1 1</Slope></ColorCorrection>', 1, /Slope must not be below 0/],
    ['<ColorCorrection><Slope>1 1 one</Slope></ColorCorrection>', 1, /"one" is not a number/],
    ['<ColorCorrection>\n<Slope>1 1 1</Slope>', 2, /not well-formed/],
    ['<edl></edl>', 1, /begins with edl/],
    ['<ColorDecisionList></ColorDecisionList>', 1, /holds no ColorCorrection/],
    ['<ColorCorrection></ColorCorrection>', 1, /holds no slope/],
    ['<!DOCTYPE x [<!ENTITY a "b">]><ColorCorrection/>', 1, /document type/],
    ['', 1, /well-formed|holds no/],
  ])('%j is refused with its line', (text, line, reason) => {
    const fault = failure(() => parseCdl(text));
    expect(fault.line).toBe(line);
    expect(fault.reason).toMatch(reason);
  });
});

describe('a look as a cube', () => {
  let engine: Engine;
  beforeAll(async () => {
    engine = await newEngine();
  });

  test('holds its point-wise colour and names what it cannot hold', () => {
    const look = lookOf([
      { trait: 'cdl', settings: { slopeRed: 0.5, offsetBlue: 0.25 } },
      { trait: 'grain' },
      { trait: 'saturation', settings: { amount: 0 }, strength: 0 },
      { trait: 'balance', settings: { gain: 0.5 }, zone: { kind: 'edges' } },
    ]);
    const { table, left } = bakeCube(engine, look, 17);
    expect(left).toEqual(['Grain', 'Balance']);
    const wanted = [
      [0.2, 0.6, 0.9],
      [1, 0, 0.5],
    ];
    for (const [r, g, b] of wanted) sampleTable(table, [r!, g!, b!]).forEach((v, i) => expect(v).toBeCloseTo([r! * 0.5, g!, Math.min(1, b! + 0.25)][i]!, 3));
    expect(parseCube(cubeText(table)).size).toBe(17);
  });

  test('an empty look is the identity', () => {
    const { table } = bakeCube(engine, lookOf([]), 5);
    sampleTable(table, [0.3, 0.7, 0.1]).forEach((v, i) => expect(v).toBeCloseTo([0.3, 0.7, 0.1][i]!, 4));
  });
});
