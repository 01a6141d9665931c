// Files on their way, kept by the browser until they have arrived: a reload, or a browser that
// died, loses none.
import type { Shape } from "@/api/client";

export type Delivery = Shape["DeliveryShape"];

export interface Kept {
  id: string;
  file: File;
  delivery: Delivery;
}

const STORE = "files";

function opened(): Promise<IDBDatabase> {
  return new Promise((resolve, reject) => {
    const request = indexedDB.open("glenhail-sending", 1);
    request.onupgradeneeded = () => request.result.createObjectStore(STORE, { keyPath: "id" });
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error ?? new Error("no store"));
  });
}

async function within<T>(
  mode: IDBTransactionMode,
  work: (store: IDBObjectStore) => IDBRequest<T>,
): Promise<T> {
  const base = await opened();
  try {
    return await new Promise<T>((resolve, reject) => {
      const request = work(base.transaction(STORE, mode).objectStore(STORE));
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error ?? new Error("not kept"));
    });
  } finally {
    base.close();
  }
}

/**
 * Keep a file; where there is no room for it, it is sent all the same and can be chosen again after
 * a reload.
 */
export async function keep(item: Kept): Promise<void> {
  await within("readwrite", (store) => store.put(item)).catch(() => undefined);
}

export async function forget(id: string): Promise<void> {
  await within("readwrite", (store) => store.delete(id)).catch(() => undefined);
}

export async function allKept(): Promise<Kept[]> {
  return within("readonly", (store) => store.getAll() as IDBRequest<Kept[]>).catch(() => []);
}
