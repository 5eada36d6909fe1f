import type { MutationFunctionContext, QueryClient, QueryKey } from '@tanstack/react-query';

/**
 * Reads anew everything whose key begins with this one. What is just being read for the first time
 * may have been answered before the change, and would not be asked again: it is given up first.
 */
export async function reread(queries: QueryClient, queryKey: QueryKey): Promise<void> {
  await queries.cancelQueries({ queryKey });
  await queries.invalidateQueries({ queryKey });
}

/** Reads anew, once a mutation is through, everything whose key begins with one of those given. */
export const refresh =
  (...keys: QueryKey[]) =>
  (_data: unknown, _asked: unknown, _kept: unknown, { client }: MutationFunctionContext): void => {
    for (const key of keys) void reread(client, key);
  };
