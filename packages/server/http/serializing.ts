import type { FastifySerializerCompiler } from 'fastify/types/schema.js';
import { serializerCompiler } from 'fastify-type-provider-zod';
import { z } from 'zod';

type Path = readonly PropertyKey[];

/** The part of a path that leads to the innermost entry of a list. */
function entryPath(path: Path): Path | undefined {
  const last = path.findLastIndex((step) => typeof step === 'number');
  return last === -1 ? undefined : path.slice(0, last + 1);
}

/** A copy of a value without the entries of lists at these paths. */
function withoutEntries(value: unknown, paths: readonly Path[]): unknown {
  const here = new Set(paths.flatMap((path) => (path.length === 1 ? [path[0]] : [])));
  const below = (step: PropertyKey): Path[] =>
    paths.flatMap((path) => (path.length > 1 && path[0] === step ? [path.slice(1)] : []));
  if (Array.isArray(value))
    return value.flatMap((entry: unknown, index) =>
      here.has(index) ? [] : [withoutEntries(entry, below(index))],
    );
  if (typeof value !== 'object' || value === null || paths.length === 0) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, part]) => [name, withoutEntries(part, below(name))]),
  );
}

const zodErrorIn = (error: unknown): z.core.$ZodError | undefined =>
  error instanceof Error && error.cause instanceof z.core.$ZodError ? error.cause : undefined;

/**
 * Writes answers as their schemas say. An entry of a list that does not fit its schema is left out,
 * so that one row that was stored by an older or a faulty version does not take the whole list away
 * from everybody.
 * @param report is told of what was left out
 */
export function tolerantSerializer(
  report: (error: Error) => void,
): FastifySerializerCompiler<z.ZodType> {
  return (route) => {
    const serialize = serializerCompiler(route);
    return (data: unknown) => {
      try {
        return serialize(data);
      } catch (error) {
        const entries = zodErrorIn(error)?.issues.map(({ path }) => entryPath(path)) ?? [];
        const known = entries.filter((path) => path !== undefined);
        if (known.length === 0 || known.length < entries.length) throw error;
        if (error instanceof Error) report(error);
        return serialize(withoutEntries(data, known));
      }
    };
  };
}
