// Pictures of a sitting, fetched ahead of being seen: the server lets no cache keep them.

export class Pictures {
  private readonly kept = new Map<string, Promise<string>>();

  constructor(
    private readonly fetched: (address: string) => Promise<Blob> = async (address) => {
      const answer = await fetch(address);
      if (!answer.ok) throw new Error(String(answer.status));
      return answer.blob();
    },
  ) {}

  /** An address of it within the browser; what failed is asked for again the next time. */
  get(address: string): Promise<string> {
    let url = this.kept.get(address);
    if (!url) {
      url = this.fetched(address).then((blob) => URL.createObjectURL(blob));
      this.kept.set(address, url);
      url.catch(() => this.kept.delete(address));
    }
    return url;
  }

  /** Let all others go. */
  keepOnly(addresses: readonly string[]): void {
    for (const [address, url] of this.kept) {
      if (addresses.includes(address)) continue;
      this.kept.delete(address);
      url.then((u) => URL.revokeObjectURL(u)).catch(() => undefined);
    }
  }
}
