import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import type { Context } from '../context';
import { answerErrors, HttpError } from './errors';
import { ownPagesOnly, sealed } from './doors';
import { eventRoutes } from './routes/events';
import { lookRoutes } from './routes/looks';
import { mediaRoutes } from './routes/media';
import { printRoutes } from './routes/prints';
import { reelRoutes } from './routes/reels';
import { referenceRoutes } from './routes/references';
import { shotRoutes } from './routes/shots';
import { tableRoutes } from './routes/tables';
import { uploadRoutes } from './routes/uploads';
import { soundText } from './validate';

/** @param pages serves the built application, or a development server's middleware (`dev`) */
export function createApp(context: Context, pages: RequestHandler, dev = false): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(sealed(dev), ownPagesOnly);
  app.use('/api/tables', soundText, tableRoutes(context));
  app.use('/api', express.json({ limit: '1mb' }), soundText);
  app.use('/api/uploads', uploadRoutes(context));
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

/** The built application, compressed; every address that is no file is answered by its page. */
export function builtPages(folder: string): RequestHandler {
  const files = express.static(folder, {
    index: false,
    setHeaders: (response, path) => void (path.includes('assets') && response.setHeader('cache-control', 'public, max-age=31536000, immutable')),
  });
  const pages: RequestHandler = (request, response, next) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') return next(new HttpError(404, 'there is nothing at this address'));
    response.sendFile(join(folder, 'index.html'), { dotfiles: 'allow' });
  };
  return express.Router().use(compression(), files, pages);
}
