import type { Router } from 'express';
import { ROUTES } from '@tin-ghost/contract/routes';
import type { Context } from '../../context';
import { serve } from '../serve';

const HEARTBEAT_MS = 15_000;

/** News of imports and prints as server-sent events. */
export function newsRoutes(router: Router, { news }: Context): void {
  serve(router, ROUTES.followNews, ({ response }) => {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-cache', connection: 'keep-alive' });
    response.write(': listening\n\n');
    const stop = news.listen((item) => response.write(`data: ${JSON.stringify(item)}\n\n`));
    const beat = setInterval(() => response.write(': still here\n\n'), HEARTBEAT_MS);
    response.on('close', () => {
      stop();
      clearInterval(beat);
    });
  });
}
