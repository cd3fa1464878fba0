import { join } from 'node:path';
import compression from 'compression';
import staticGzip from 'express-static-gzip';
import express, { type Express, type RequestHandler } from 'express';
import type { Context } from '../context';
import { Refusal } from '../refusal';
import { answerErrors } from './errors';
import { ownPagesOnly, sealed } from './doors';
import { limited } from './limited';
import { Metrics } from './metrics';
import { noted } from './request-log';
import { withPassword, type Sessions } from './session';
import { conditionRoutes } from './routes/condition';
import { sessionRoutes } from './routes/session';
import { descriptionRoutes } from './routes/description';
import { newsRoutes } from './routes/news';
import { fontRoutes } from './routes/fonts';
import { lookRoutes } from './routes/looks';
import { machineRoutes } from './routes/machines';
import { mediaRoutes } from './routes/media';
import { plateRoutes } from './routes/plates';
import { printRoutes } from './routes/prints';
import { reelRoutes } from './routes/reels';
import { referenceRoutes } from './routes/references';
import { shotRoutes } from './routes/shots';
import { tableRoutes } from './routes/tables';
import { uploadRoutes } from './routes/uploads';
import { soundAddress } from './validate';

export interface AppOptions {
  /** The pages are a development server's. */
  readonly dev?: boolean;
  /** Those who gave the password; nobody has to where it is absent. */
  readonly sessions?: Sessions;
  /** Names and addresses, beside those of this machine's loopback, by which the server may be asked. */
  readonly names?: readonly string[];
}

/** Requests that are taken from one address in a minute: more than a page that plays and scrolls asks for. */
const REQUESTS = 6000;

/** @param pages serves the built application, or a development server's middleware (`dev`) */
export function createApp(context: Context, pages: RequestHandler, { dev = false, sessions, names }: AppOptions = {}): Express {
  const app = express();
  app.disable('x-powered-by');
  const metrics = new Metrics(context);
  app.use(noted, metrics.watch, sealed(dev), ownPagesOnly(names));
  const api = express.Router();
  api.use(limited(REQUESTS, 'more was asked for in a minute than can be answered'), soundAddress);
  if (sessions) api.use(withPassword(sessions));
  sessionRoutes(api, sessions);
  conditionRoutes(api, context, metrics);
  for (const routes of [
    reelRoutes,
    shotRoutes,
    mediaRoutes,
    lookRoutes,
    referenceRoutes,
    plateRoutes,
    tableRoutes,
    fontRoutes,
    printRoutes,
    machineRoutes,
    uploadRoutes,
    newsRoutes,
  ])
    routes(api, context);
  descriptionRoutes(api);
  api.use(() => {
    throw new Refusal('not-found', 'there is nothing at this address');
  });
  app.use('/api', api);
  app.use(pages);
  app.use(answerErrors);
  return app;
}

/** The built application, compressed when it was built where the browser takes that; every address that is no file is answered by its page. */
export function builtPages(folder: string): RequestHandler {
  const files = staticGzip(folder, {
    index: false,
    enableBrotli: true,
    serveStatic: { setHeaders: (response, path) => void (path.includes('assets') && response.setHeader('cache-control', 'public, max-age=31536000, immutable')) },
  });
  const pages: RequestHandler = (request, response, next) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') return next(new Refusal('not-found', 'there is nothing at this address'));
    response.sendFile(join(folder, 'index.html'), { dotfiles: 'allow' });
  };
  return express.Router().use(compression(), files, pages);
}
