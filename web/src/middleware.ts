import { defineMiddleware } from 'astro:middleware';

/** The id that the front has given to the request. Whoever may not come in does not come this far: see server/front. */
export const onRequest = defineMiddleware((context, next) => {
  context.locals.requestId = context.request.headers.get('x-request-id') ?? '';
  return next();
});
