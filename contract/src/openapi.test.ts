import { readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { Validator } from '@seriousme/openapi-schema-validator';
import { ERROR_STATUS } from './errors';
import { openapi } from './openapi';
import { ROUTES } from './routes';
import { nameText, oneLine, PrintOrder } from './rules';
import { VERSION } from './version';

test('the description is valid OpenAPI 3.1', async () => {
  const validator = new Validator();
  expect(await validator.validate(openapi(VERSION) as never)).toMatchObject({ valid: true });
  expect(validator.version).toBe('3.1');
  const broken = { ...openapi(VERSION), paths: { reels: {} } };
  expect((await new Validator().validate(broken as never)).valid).toBe(false);
});

test('what it says of a rule is what the rule takes', () => {
  const { components } = openapi(VERSION) as { components: { schemas: Record<string, { required?: string[]; properties: Record<string, object> }> } };
  expect(components.schemas.PrintOrder).toMatchObject({ required: ['format', 'shotId'], properties: { width: { type: 'integer', minimum: 16, maximum: 8192 } } });
  expect(components.schemas.Reel!.required).toEqual(expect.arrayContaining(['id', 'name', 'shots']));
  expect(PrintOrder.validate({ shotId: '00000000-0000-4000-8000-000000000000', format: 'mp4', width: 16 }).error?.message).toContain('height');
});

test('routes are told apart, and every code of a refusal has its status', () => {
  const all = Object.values(ROUTES).map(({ method, path }) => `${method} ${path.replace(/:\w+/g, ':')}`);
  expect(new Set(all).size).toBe(all.length);
  for (const { refusals } of Object.values(ROUTES)) for (const code of refusals) expect(ERROR_STATUS[code]).toBeGreaterThanOrEqual(400);
});

test('the version is the product’s', () => {
  const { version } = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as { version: string };
  expect(VERSION).toBe(version);
});

test('a name is one line, in one spelling, of so many characters', () => {
  expect(oneLine('  Cafe\u0301 \n line\u0000 14 ', 160)).toBe('Caf\u00e9 line 14');
  expect(oneLine('x'.repeat(200), 160)).toHaveLength(160);
  expect(nameText().validate(' \n ').error).toBeDefined();
});
