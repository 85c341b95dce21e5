import type { QueryClient, QueryKey } from "@tanstack/react-query";

/**
 * Ask again after a change. A first answer that is still on its way may have been made before the change, and the library would wait for it
 * and be content: it is called off.
 */
export async function askAfter(queries: QueryClient, queryKey: QueryKey): Promise<void> {
  await queries.cancelQueries({ queryKey });
  await queries.invalidateQueries({ queryKey });
}
