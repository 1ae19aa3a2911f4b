/** What the server said, or in words why there is no answer. */
export type Answered<T> = { body: T } | { why: string };

/** Asks the application's server for something; a body goes as JSON. */
export async function askServer<T = Record<string, unknown>>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answered<T>> {
  try {
    const response = await fetch(path, {
      method,
      headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: body === undefined ? null : JSON.stringify(body),
    });
    const told = (await response.json().catch(() => ({}))) as T & { title?: string };
    return response.ok ? { body: told } : { why: `${told.title ?? `The server said ${response.status}`}.` };
  } catch {
    return { why: 'The server cannot be reached.' };
  }
}

/** Why something was not done; null where it was. */
export const whyOf = (answer: Answered<unknown>): string | null => ('why' in answer ? answer.why : null);
