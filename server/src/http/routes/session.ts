import type { Router } from 'express';
import { ROUTES } from '@tin-ghost/contract/routes';
import { Refusal } from '../../refusal';
import { limited } from '../limited';
import { serve } from '../serve';
import type { Sessions } from '../session';

/** Tries of the password that are taken from one address in a minute. */
const TRIES = 10;

/** Giving the password, and taking it back. @param sessions undefined where none is needed */
export function sessionRoutes(router: Router, sessions?: Sessions): void {
  router.post(ROUTES.beginSession.path, limited(TRIES, 'that was tried too often; try again in a minute', true));
  serve(router, ROUTES.readSession, ({ request }) => ({ needed: sessions !== undefined, open: sessions?.isOpen(request) ?? true }));
  serve(router, ROUTES.beginSession, async ({ body, request, response }) => {
    if (!sessions) return;
    if (!(await sessions.isPassword(body.password))) throw new Refusal('password-needed', 'this is not the password', [{ path: 'password', message: 'is another' }]);
    sessions.begin(request, response);
  });
  serve(router, ROUTES.endSession, ({ request, response }) => sessions?.end(request, response));
}
