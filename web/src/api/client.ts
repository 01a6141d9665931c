// The one way to the server: typed calls, errors as Problem, uploads with progress.
import createClient from "openapi-fetch";

import { patiently } from "./patient";
import type { components, paths } from "./schema";

export type Shape = components["schemas"];

/** What went wrong, in the server's words (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    /** Of what somebody else changed meanwhile: how it is now, and under which tag. */
    readonly now?: { current: unknown; tag: string },
  ) {
    super(detail);
  }
}

const UNREACHABLE =
  "The server does not answer. Check that it runs, then try again; nothing was lost.";

export function csrf(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1] ?? "";
}

export function detailOf(body: unknown): string {
  if (body && typeof body === "object" && "detail" in body) return String(body.detail);
  return "The server met something unforeseen. Its log says what; nothing was lost.";
}

export const api = createClient<paths>({ baseUrl: "/", fetch: patiently });
api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf());
    return request;
  },
});

/** Unwrap a call: its data, or a Problem. */
export async function ask<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let answer;
  try {
    answer = await call;
  } catch {
    throw new Problem(0, UNREACHABLE);
  }
  if (!answer.response.ok)
    throw new Problem(answer.response.status, detailOf(answer.error), nowOf(answer.error));
  return answer.data as T;
}

function nowOf(body: unknown): { current: unknown; tag: string } | undefined {
  return body && typeof body === "object" && "tag" in body && "current" in body
    ? { current: body.current, tag: String(body.tag) }
    : undefined;
}

/** The same with the tag of the version that was answered, to be sent with a change. */
export async function askTagged<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<{ data: T; tag: string }> {
  const data = await ask(call);
  return { data, tag: (await call).response.headers.get("ETag") ?? "" };
}

/** The address of something that can be deleted, with its numbers filled in. */
export function addressOf(
  path: { [P in keyof paths]: paths[P] extends { delete: object } ? P : never }[keyof paths],
  numbers: Record<string, number>,
): string {
  return path.replace(/\{(\w+)\}/g, (_, name: string) => String(numbers[name]));
}

/** Delete it; sent before this returns, and sent whole though the page be left meanwhile. */
export async function deleteAt(address: string): Promise<void> {
  const request = new Request(address, {
    method: "DELETE",
    keepalive: true,
    headers: { "X-CSRFToken": csrf() },
  });
  const sent = patiently(request);
  const answer = await sent.catch(() => {
    throw new Problem(0, UNREACHABLE);
  });
  if (!answer.ok) throw new Problem(answer.status, detailOf(await answer.json().catch(() => null)));
}

/** Send one small file as a form; frames and outputs go in pieces, by `sending/store`. */
export async function upload<T>(url: string, file: File): Promise<T> {
  const form = new FormData();
  form.append("file", file);
  let answer: Response;
  try {
    const headers = { "X-CSRFToken": csrf() };
    answer = await patiently(new Request(url, { method: "POST", body: form, headers }));
  } catch {
    throw new Problem(0, UNREACHABLE);
  }
  const body: unknown = await answer.json().catch(() => null);
  if (!answer.ok) throw new Problem(answer.status, detailOf(body));
  return body as T;
}
