// Answers on their way: kept by the browser until the server has them, sent in order, never lost
// with a connection or a closed page. The same answer sent twice is kept once.
import { Problem } from "@/api/client";

export interface Answer {
  place: number;
  answer: Record<string, unknown>;
  kinds: string[];
  took_ms: number;
}

export type Send = (answer: Answer) => Promise<unknown>;
type Kept = Pick<Storage, "getItem" | "setItem" | "removeItem">;

export const PAUSE = 1500; // ms before it is tried again

/** What is not sent yet, in order; a later answer to the same place takes the earlier one's. */
export class Outbox {
  private readonly name: string;
  private sending = false;

  constructor(
    seat: string,
    private readonly send: Send,
    private readonly tell: (waiting: number, problem: string) => void,
    private readonly store: Kept = localStorage,
    private readonly pause = PAUSE,
  ) {
    this.name = `sitting-${seat}`;
  }

  get waiting(): Answer[] {
    try {
      return JSON.parse(this.store.getItem(this.name) ?? "[]") as Answer[];
    } catch {
      return [];
    }
  }

  put(answer: Answer): void {
    const others = this.waiting.filter((a) => a.place !== answer.place);
    this.keep([...others, answer].sort((a, b) => a.place - b.place));
    void this.flush();
  }

  /** Send what waits; what the server refuses for good is dropped with its reason. */
  async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    let problem = "";
    for (let next = this.waiting[0]; next; next = this.waiting[0]) {
      this.tell(this.waiting.length, problem);
      try {
        await this.send(next);
        problem = "";
        this.drop(next);
      } catch (error) {
        const final = error instanceof Problem && error.status >= 400 && error.status < 500;
        problem = error instanceof Error ? error.message : String(error);
        if (final && (error as Problem).status !== 429) {
          this.drop(next);
          break;
        }
        this.tell(this.waiting.length, problem);
        await new Promise((r) => setTimeout(r, this.pause));
      }
    }
    this.sending = false;
    this.tell(this.waiting.length, problem);
  }

  /** Only the very answer that was sent: another one may have been given meanwhile. */
  private drop(sent: Answer): void {
    const same = JSON.stringify(sent);
    this.keep(this.waiting.filter((a) => JSON.stringify(a) !== same));
  }

  private keep(answers: Answer[]): void {
    if (answers.length) this.store.setItem(this.name, JSON.stringify(answers));
    else this.store.removeItem(this.name);
  }
}
