import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import type { Context } from '../context';
import { Refusal } from '../refusal';
import { answerErrors } from './errors';
import { ownPagesOnly, sealed } from './doors';
import { descriptionRoutes } from './routes/description';
import { newsRoutes } from './routes/news';
import { fontRoutes } from './routes/fonts';
import { lookRoutes } from './routes/looks';
import { mediaRoutes } from './routes/media';
import { plateRoutes } from './routes/plates';
import { printRoutes } from './routes/prints';
import { reelRoutes } from './routes/reels';
import { referenceRoutes } from './routes/references';
import { shotRoutes } from './routes/shots';
import { tableRoutes } from './routes/tables';
import { uploadRoutes } from './routes/uploads';
import { soundAddress } from './validate';

/** @param pages serves the built application, or a development server's middleware (`dev`) */
export function createApp(context: Context, pages: RequestHandler, dev = false): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(sealed(dev), ownPagesOnly);
  const api = express.Router();
  api.use(soundAddress);
  for (const routes of [reelRoutes, shotRoutes, mediaRoutes, lookRoutes, referenceRoutes, plateRoutes, tableRoutes, fontRoutes, printRoutes, uploadRoutes, newsRoutes])
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

/** The built application, compressed; every address that is no file is answered by its page. */
export function builtPages(folder: string): RequestHandler {
  const files = express.static(folder, {
    index: false,
    setHeaders: (response, path) => void (path.includes('assets') && response.setHeader('cache-control', 'public, max-age=31536000, immutable')),
  });
  const pages: RequestHandler = (request, response, next) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') return next(new Refusal('not-found', 'there is nothing at this address'));
    response.sendFile(join(folder, 'index.html'), { dotfiles: 'allow' });
  };
  return express.Router().use(compression(), files, pages);
}
