import { Refusal } from '@ukiyo/contracts';
import type { z } from 'zod';
import { earlyAnswer } from './early.ts';

/** The server refused or could not be reached; `message` is for people. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly body?: unknown,
  ) {
    super(message);
  }
}

export const unreachable = (): ApiError =>
  new ApiError(0, 'unreachable', 'The server cannot be reached. What you typed is still here.');

interface Options {
  readonly method?: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly body?: unknown;
  readonly form?: FormData;
  readonly signal?: AbortSignal;
}

/**
 * A body of up to this many characters reaches the server even if the page is closed or reloaded
 * meanwhile; browsers limit all such requests together to 64 KiB (Fetch, 4.5).
 */
const mostKeptAlive = 8_000;

/**
 * Asks the server and checks the answer.
 * @param path below `/api`
 * @throws ApiError
 */
export async function ask<Answer extends z.ZodType>(
  path: string,
  answer: Answer,
  { method = 'GET', body, form, signal }: Options = {},
): Promise<z.infer<Answer>> {
  let response: Response;
  try {
    const sent = form ?? (body === undefined ? undefined : JSON.stringify(body));
    const early = method === 'GET' ? await earlyAnswer(path) : undefined;
    response =
      early ??
      (await fetch(`/api${path}`, {
        method,
        keepalive: method === 'PUT' && typeof sent === 'string' && sent.length < mostKeptAlive,
        ...(signal ? { signal } : {}),
        ...(sent === undefined ? {} : { body: sent }),
        ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' } }),
      }));
  } catch {
    throw unreachable();
  }
  const text = await response.text();
  const value: unknown = text === '' ? null : JSON.parse(text);
  if (!response.ok) {
    const refusal = Refusal.safeParse(value);
    throw new ApiError(
      response.status,
      refusal.data?.code ?? 'failed',
      refusal.data?.message ?? `The server answered ${response.status}.`,
      value,
    );
  }
  return answer.parse(value);
}

export const messageOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error);
