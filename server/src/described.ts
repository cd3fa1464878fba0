/** For tests: whether an answer of the server is one that its description has. */
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { openapi } from '@tin-ghost/contract/openapi';
import { ROUTES, type RouteName } from '@tin-ghost/contract/routes';
import { VERSION } from '@tin-ghost/contract/version';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
const description = openapi(VERSION) as { paths: Record<string, Record<string, { responses: Record<string, { content?: Record<string, { schema?: object }> }> }>> };
// Each check is asked a few times: it is not worth the time that making it a fast one takes.
const ajv = new Ajv2020({ strict: false, allErrors: true, formats: { uuid: UUID }, inlineRefs: false, code: { optimize: false } });
ajv.addSchema(description, 'api');
const checks = new Map<string, ValidateFunction>();

/** Routes whose success has been answered as described since the tests began. */
export const answered = new Set<RouteName>();

const patterns = (Object.keys(ROUTES) as RouteName[]).map((name) => {
  const { method, path } = ROUTES[name];
  return { name, method, template: path.replace(/:(\w+)/g, '{$1}'), is: new RegExp(`^${path.replace(/:\w+/g, '[^/]+')}$`) };
});

/** The route that an address belongs to; of several the one with fewer free parts. */
const routeOf = (method: string, path: string) =>
  patterns.filter((p) => p.method === method && p.is.test(path)).sort((a, b) => a.template.split('{').length - b.template.split('{').length)[0];

/**
 * Holds an answer against its description.
 * @param body parsed, where it is JSON; undefined where it is not looked into
 * @throws Error where a route that is described answers otherwise
 */
export function holdAgainstDescription(method: string, address: string, status: number, type: string | null, body: unknown): void {
  const path = address.replace(/\?.*$/, '');
  const route = routeOf(method, path);
  if (!route) return;
  const of = `${method} ${route.template} ${status}`;
  const response = description.paths[route.template]![method.toLowerCase()]!.responses[status];
  if (!response) throw new Error(`${of} is not described: ${JSON.stringify(body)}`);
  if (response.content) {
    const media = (type ?? '').replace(/;.*$/, '');
    if (!(media in response.content)) throw new Error(`${of} answers ${media}, described is ${Object.keys(response.content).join(', ')}`);
    if (response.content[media]!.schema && body !== undefined) {
      const at = (part: string): string => part.replaceAll('~', '~0').replaceAll('/', '~1');
      const ref = `api#/paths/${at(route.template)}/${method.toLowerCase()}/responses/${status}/content/${at(media)}/schema`;
      // A pointer in a reference is part of an address.
      const check =
        checks.get(of) ??
        ajv.compile({
          $ref: ref
            .split('#')
            .map((part, i) => (i ? part.replaceAll('{', '%7B').replaceAll('}', '%7D') : part))
            .join('#'),
        });
      checks.set(of, check);
      if (!check(body)) throw new Error(`${of} is not as described: ${ajv.errorsText(check.errors)}\n${JSON.stringify(body).slice(0, 2000)}`);
    }
  } else if (body !== undefined) throw new Error(`${of} is described without a body`);
  if (status < 300) answered.add(route.name);
}
