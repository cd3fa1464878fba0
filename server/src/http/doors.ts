import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { Refusal } from '../refusal';

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])$/;

/** Whether a request's `Host` is a name that this server answers to: of the loopback and of `names` with the server's port, of `names` also with one that they tell. */
function isOwnHost(host: string | undefined, port: number | undefined, names: readonly string[]): boolean {
  if (host === undefined) return false;
  if (names.includes(host)) return true;
  const [, name, at] = /^(.*?)(?::(\d+))?$/.exec(host)!;
  return (LOCAL.test(name!) || names.includes(name!)) && Number(at ?? 80) === port;
}

/**
 * The server is for the application's own pages alone. A page elsewhere must not reach it by a name that leads here, nor by this one; a page of
 * another program on this machine is elsewhere, too.
 */
export const ownPagesOnly =
  (names: readonly string[] = []): RequestHandler =>
  (request, _response, next) => {
    const { host, origin } = request.headers;
    if (!isOwnHost(host, request.socket.localPort, names)) throw new Refusal('forbidden', 'this server does not answer to this name');
    // A browser sends the origin with everything that writes, and with nothing else that comes from the page itself. What speaks TLS for the server is named with its port.
    if (origin !== undefined && origin !== `http://${host}` && !(names.includes(host!) && origin === `https://${host}`))
      throw new Refusal('forbidden', 'this server answers its own pages only');
    const site = request.headers['sec-fetch-site'];
    // A link that somebody follows opens a page and nothing else.
    const opened =
      request.method === 'GET' && request.headers['sec-fetch-mode'] === 'navigate' && request.headers['sec-fetch-dest'] === 'document' && !request.path.startsWith('/api');
    if ((site === 'cross-site' || site === 'same-site') && !opened) throw new Refusal('forbidden', 'this server answers its own pages only');
    next();
  };

/**
 * What the browser is told about every answer: nothing of a page comes from elsewhere, nothing inline runs, nothing is shown in a frame.
 * @param dev a development server's page runs an inline script of its own
 */
export const sealed = (dev: boolean): RequestHandler =>
  helmet({
    contentSecurityPolicy: dev
      ? false
      : {
          useDefaults: false,
          directives: {
            defaultSrc: ["'self'"],
            // The kernels are WebAssembly.
            scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
            scriptSrcAttr: ["'none'"],
            // Parts of the interface place themselves by styles of their own.
            styleSrc: ["'self'", "'unsafe-inline'"],
            imgSrc: ["'self'", 'blob:', 'data:'],
            mediaSrc: ["'self'", 'blob:'],
            fontSrc: ["'self'", 'data:'],
            connectSrc: ["'self'"],
            workerSrc: ["'self'"],
            objectSrc: ["'none'"],
            baseUri: ["'none'"],
            formAction: ["'self'"],
            frameAncestors: ["'none'"],
          },
        },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    strictTransportSecurity: false,
    xFrameOptions: { action: 'deny' },
  });
