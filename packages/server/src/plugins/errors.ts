// Every failure to the one error shape; faults are logged in full and told in short.
import type { ErrorBody } from '@meridiem/contract';
import { ERROR_STATUS } from '@meridiem/contract';
import { CoreError } from '@meridiem/core';
import type { FastifyError, FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import { refusalOf } from '../database/refusals.ts';
import { ServiceError } from '../errors.ts';
import type { Failure } from './validation-words.ts';
import { validationWords } from './validation-words.ts';

const RETRY_AFTER_SEC = 5;

export const errorsPlugin = fastifyPlugin(async (app: FastifyInstance) => {
  app.setNotFoundHandler((_request, reply) =>
    reply.code(404).send({ code: 'NOT_FOUND', message: 'There is nothing at this address' } satisfies ErrorBody),
  );
  app.setErrorHandler((error: FastifyError, request, reply) => {
    const { status, body } = asRead(request.method, answerTo(error));
    if (status >= 500) request.log.error({ err: error }, 'request failed');
    if (status === 503) reply.header('retry-after', RETRY_AFTER_SEC);

    return reply.code(status).send(body);
  });
});

/** Reading changes nothing, so it can’t collide: what keeps it from answering passes. */
const asRead = (method: string, answer: { status: number; body: ErrorBody }): { status: number; body: ErrorBody } =>
  method === 'GET' && answer.status === 409 ? { status: 503, body: { ...answer.body, code: 'NOT_READY' } } : answer;

function answerTo(error: FastifyError): { status: number; body: ErrorBody } {
  const refusal = error instanceof ServiceError ? error : refusalOf(error);
  if (refusal) {
    const { code, message, field, details, status } = refusal;
    return { status, body: { code, message, ...(field ? { field } : {}), ...(details ? { details } : {}) } };
  }
  if (error instanceof CoreError)
    return {
      status: ERROR_STATUS.VALUE_REFUSED,
      body: { code: 'VALUE_REFUSED', message: error.message, details: { core: error.code } },
    };
  if (error.validation) return { status: 400, body: validationBody(error) };
  if (error.statusCode === 429)
    return { status: 429, body: { code: 'TOO_MANY_TRIES', message: 'Too many tries; wait a minute and try again' } };
  if (error.statusCode === 413)
    return { status: 413, body: { code: 'TOO_LARGE', message: 'That is more than can be taken at once' } };
  if (error.statusCode && error.statusCode < 500)
    return { status: 400, body: { code: 'INPUT_INVALID', message: error.message } };
  return { status: 500, body: { code: 'FAULT', message: 'Something failed here; it has been logged' } };
}

function validationBody({ validation }: FastifyError): ErrorBody {
  const { field, words } = validationWords((validation ?? []) as Failure[]);
  return { code: 'INPUT_INVALID', message: `${field ?? 'The request'} ${words}`, ...(field ? { field } : {}) };
}
