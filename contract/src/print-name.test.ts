import { describe, expect, test } from '@jest/globals';
import { fileStem, nameBy, unknownField, USUAL_NAME } from './print-name';

const known = { reel: 'Last night of line 14', place: 1, shot: 'Conductor', look: 'Sunday reel' };

describe('names by a pattern', () => {
  test.each([
    [USUAL_NAME, 'Conductor, Sunday reel'],
    ['{reel} {number} {shot}', 'Last night of line 14 02 Conductor'],
    ['L14_{number}', 'L14_02'],
    ['{number}{number}', '0202'],
    ['plain', 'plain'],
    ['a } before a {', 'a } before a {'],
  ])('%s gives %s', (pattern, name) => {
    expect(unknownField(pattern)).toBeUndefined();
    expect(nameBy(pattern, known)).toBe(name);
  });

  test('numbers are of two digits, or as many as they take', () => {
    expect([0, 8, 9, 99, 499].map((place) => nameBy('{number}', { ...known, place }))).toEqual(['01', '09', '10', '100', '500']);
  });

  test('what a name brings along is not put in again', () => {
    expect(nameBy('{shot}', { ...known, shot: '{look}' })).toBe('{look}');
  });

  test('names and files are cut after so many characters, none of them in two', () => {
    expect([...nameBy('{shot}{shot}', { ...known, shot: '𝔸'.repeat(90) })].length).toBe(160);
    expect(encodeURIComponent(fileStem(`a${'𝔸'.repeat(120)}`))).toBe(`a${encodeURIComponent('𝔸').repeat(99)}`);
    expect(['Depot: north/south?', '../../x', '...', 'v1.2'].map(fileStem)).toEqual(['Depot_ north_south_', '__.._x', '_', 'v1.2']);
  });

  test('the first that is unknown is told', () => {
    expect(['{shot} {data}', '{}', '{ shot }', '{Shot}'].map(unknownField)).toEqual(['data', '', ' shot ', 'Shot']);
  });
});
