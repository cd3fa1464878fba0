import { createRequire } from 'node:module';
import type { Router } from 'express';
import { openapi } from '@tin-ghost/contract/openapi';
import { VERSION } from '@tin-ghost/contract/version';

const PAGE = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <title>Tin Ghost: interface of the server</title>
    <script type="module" src="/api/docs/viewer.js"></script>
  </head>
  <body style="margin: 0">
    <rapi-doc spec-url="/api/openapi.json" render-style="view" load-fonts="false" show-header="false" allow-authentication="false"
      allow-server-selection="false" allow-spec-url-load="false" allow-spec-file-load="false" schema-style="table" primary-color="#8c2f25"></rapi-doc>
  </body>
</html>
`;

/** The interface of the server, described: as OpenAPI 3.1, and as a page to read it on. */
export function descriptionRoutes(router: Router): void {
  const description = openapi(VERSION);
  const viewer = createRequire(import.meta.url).resolve('rapidoc/dist/rapidoc-min.js');
  router.get('/openapi.json', (_request, response) => void response.json(description));
  router.get('/docs', (_request, response) => void response.type('html').send(PAGE));
  router.get('/docs/viewer.js', (_request, response) => response.sendFile(viewer, { dotfiles: 'allow' }));
}
