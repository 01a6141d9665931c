// One file to the server in pieces (tus 1.0.0), gone on with from where it broke off.
import { DetailedError, Upload } from "tus-js-client";

import { api, ask, csrf, detailOf, Problem, type Shape } from "@/api/client";
import type { Kept } from "./keep";

export type Arrived = Shape["UploadOut"];

const PIECE = 8 * 1024 * 1024;
const STALLED_MS = 120_000;
const BROKEN = "The connection broke off.";

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
 * 0 when the way is broken, or nothing moves on it any more.
 */
export function sendRest(item: Kept, told: (bytes: number) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    let watch: ReturnType<typeof setTimeout>;
    const moves = (): void => {
      clearTimeout(watch);
      watch = setTimeout(() => {
        void upload.abort();
        reject(new Problem(0, BROKEN));
      }, STALLED_MS);
    };
    const upload = new Upload(item.file, {
      uploadUrl: `/api/uploads/${item.id}/bytes`,
      chunkSize: PIECE,
      // When it is tried again is the store's to say, to people too; it keeps files itself.
      retryDelays: null,
      storeFingerprintForResuming: false,
      headers: { "X-CSRFToken": csrf() },
      onProgress: (bytes) => {
        moves();
        told(bytes);
      },
      onSuccess: () => {
        clearTimeout(watch);
        resolve();
      },
      onError: (error) => {
        clearTimeout(watch);
        reject(problemOf(error));
      },
    });
    moves();
    upload.start();
  });
}

function problemOf(error: Error): Problem {
  const answer = error instanceof DetailedError ? error.originalResponse : null;
  if (!answer?.getStatus()) return new Problem(0, BROKEN);
  return new Problem(answer.getStatus(), detailOf(told(answer.getBody())));
}

function told(body: string): unknown {
  try {
    return JSON.parse(body);
  } catch {
    return undefined;
  }
}
