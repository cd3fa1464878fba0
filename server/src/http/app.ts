import { join } from 'node:path';
import express, { type Express, type RequestHandler } from 'express';
import type { Context } from '../context';
import { answerErrors, HttpError } from './errors';
import { eventRoutes } from './routes/events';
import { lookRoutes } from './routes/looks';
import { mediaRoutes } from './routes/media';
import { printRoutes } from './routes/prints';
import { reelRoutes } from './routes/reels';
import { referenceRoutes } from './routes/references';
import { shotRoutes } from './routes/shots';
import { tableRoutes } from './routes/tables';
import { uploadRoutes } from './routes/uploads';

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/** The server is for this machine alone: a page elsewhere must not reach it by a name that leads here. */
const localOnly: RequestHandler = (request, _response, next) => {
  const { host, origin } = request.headers;
  if (!LOCAL.test(host ?? '') || (origin && !LOCAL.test(origin.replace(/^https?:\/\//, '')))) throw new HttpError(403, 'this server answers this machine only');
  next();
};

/** @param pages serves the built application, or a development server's middleware */
export function createApp(context: Context, pages: RequestHandler): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(localOnly);
  app.use('/api/uploads', express.json({ limit: '1mb', type: 'application/json' }), uploadRoutes(context));
  app.use('/api/tables', tableRoutes(context));
  app.use('/api', express.json({ limit: '1mb' }));
  app.use('/api/reels', reelRoutes(context));
  app.use('/api/shots', shotRoutes(context));
  app.use('/api/media', mediaRoutes(context));
  app.use('/api/looks', lookRoutes(context));
  app.use('/api/references', referenceRoutes(context));
  app.use('/api/prints', printRoutes(context));
  app.use('/api/events', eventRoutes(context));
  app.use('/api', () => {
    throw new HttpError(404, 'there is nothing at this address');
  });
  app.use(pages);
  app.use(answerErrors);
  return app;
}

/** The built application; every address that is no file is answered by its page. */
export function builtPages(folder: string): RequestHandler {
  const files = express.static(folder, {
    index: false,
    setHeaders: (response, path) => void (path.includes('assets') && response.setHeader('cache-control', 'public, max-age=31536000, immutable')),
  });
  return (request, response, next) => {
    files(request, response, (error?: unknown) => {
      if (error) return next(error);
      if (request.method !== 'GET' && request.method !== 'HEAD') return next(new HttpError(404, 'there is nothing at this address'));
      response.sendFile(join(folder, 'index.html'), { dotfiles: 'allow' });
    });
  };
}
