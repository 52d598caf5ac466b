/** Asking the server. */

/** An error the server explained (RFC 9457), or the lack of a server. */
export class Problem extends Error {
  readonly title: string;
  readonly status: number;

  constructor(title: string, detail: string, status: number) {
    super(detail);
    this.title = title;
    this.status = status;
  }
}

export const SILENT = new Problem(
  "Silvrin does not answer",
  "The program behind this window has stopped. Start it again; nothing you did is lost.",
  0,
);

export function problemFrom(text: string, status: number): Problem {
  try {
    const body = JSON.parse(text);
    return new Problem(body.title ?? "That did not work", body.detail ?? text, status);
  } catch {
    return new Problem("That did not work", text || `The server answered ${status}.`, status);
  }
}

export async function ask<T>(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      keepalive: method !== "GET",
      headers: body === undefined ? undefined : { "content-type": "application/json" },
      body: body === undefined ? undefined : JSON.stringify(body),
      signal,
    });
  } catch {
    throw SILENT;
  }
  if (!response.ok) throw problemFrom(await response.text(), response.status);
  return response.status === 204 ? (null as T) : response.json();
}

/** The answer that holds a picture that is made as asked. */
export async function pictured(
  path: string,
  body: unknown,
  signal: AbortSignal,
): Promise<Response> {
  const response = await fetch(`/api${path}`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
    signal,
  });
  if (!response.ok) throw problemFrom(await response.text(), response.status);
  return response;
}

/** The picture itself. */
export const picture = async (path: string, body: unknown, signal: AbortSignal): Promise<Blob> =>
  (await pictured(path, body, signal)).blob();
