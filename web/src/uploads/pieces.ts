// One file to the server in pieces, gone on with from where it broke off.
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
export async function sendRest(
  item: Kept,
  arrived: number,
  told: (bytes: number) => void,
): Promise<void> {
  while (arrived < item.file.size) {
    const end = Math.min(arrived + PIECE, item.file.size);
    const base = arrived;
    const answer = await put(
      `/api/uploads/${item.id}/from/${base}`,
      item.file.slice(base, end),
      (sent) => told(base + sent),
    );
    if (answer.state !== "open") return;
    arrived = answer.received;
    told(arrived);
  }
}

function put(url: string, piece: Blob, told: (sent: number) => void): Promise<Arrived> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("PUT", url);
    request.setRequestHeader("X-CSRFToken", csrf());
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.responseType = "json";
    request.timeout = 120_000;
    request.upload.onprogress = (event) => told(event.loaded);
    request.onerror = () => reject(new Problem(0, "The connection broke off."));
    request.ontimeout = request.onerror;
    request.onload = () =>
      request.status < 300
        ? resolve(request.response as Arrived)
        : reject(new Problem(request.status, detailOf(request.response)));
    request.send(piece);
  });
}
