// One file to the server in pieces (tus 1.0.0), gone on with from where it broke off.
import { DetailedError, Upload } from "tus-js-client";

import { api, ask, csrf, detailOf, Problem, type Shape } from "@/api/client";
import type { Kept } from "./keep";

export type Arrived = Shape["UploadOut"];

const PIECE = 8 * 1024 * 1024;

/** Announce a file, or learn how far it is. */
export function begin({ id, file, delivery }: Kept): Promise<Arrived> {
  const body = { name: file.name, size: file.size, delivery };
  return ask(api.PUT("/api/uploads/{upload_id}", { params: { path: { upload_id: id } }, body }));
}

export function finish(id: string): Promise<Arrived> {
  return ask(api.POST("/api/uploads/{upload_id}/finish", { params: { path: { upload_id: id } } }));
}

/**
 * Send what is missing; `told` hears how many bytes have arrived. Rejects with a Problem of status
 * 0 when the way is broken.
 */
export function sendRest(item: Kept, told: (bytes: number) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    new Upload(item.file, {
      uploadUrl: `/api/uploads/${item.id}/bytes`,
      chunkSize: PIECE,
      // When it is tried again is the store's to say, to people too; it keeps files itself.
      retryDelays: null,
      storeFingerprintForResuming: false,
      headers: { "X-CSRFToken": csrf() },
      onProgress: told,
      onSuccess: () => resolve(),
      onError: (error) => reject(problemOf(error)),
    }).start();
  });
}

function problemOf(error: Error): Problem {
  const answer = error instanceof DetailedError ? error.originalResponse : null;
  if (!answer?.getStatus()) return new Problem(0, "The connection broke off.");
  return new Problem(answer.getStatus(), detailOf(told(answer.getBody())));
}

function told(body: string): unknown {
  try {
    return JSON.parse(body);
  } catch {
    return undefined;
  }
}
