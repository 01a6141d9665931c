// Calls that wait their turn. The server turns somebody's further requests away while several are
// under way, before it did anything of them: so they are sent again, changes too.

const TURNED_AWAY = 429;
const TRIES = 8;
const LONGEST_MS = 5000; // a server that asks for more than that wants it said to the user

/** Answers of a server that is away or busy for a moment; 0 is none at all. */
export const AWAY: readonly number[] = [0, TURNED_AWAY, 502, 503, 504];

const rest = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** `fetch`, once more after a moment where the server asks for that. */
export async function patiently(request: Request): Promise<Response> {
  // A body is read once: each try sends a copy.
  let answer = await fetch(request.clone());
  for (let tries = 1; answer.status === TURNED_AWAY && tries < TRIES; tries++) {
    const pause = 1000 * Number(answer.headers.get("Retry-After") ?? 1);
    if (!(pause <= LONGEST_MS) || request.signal.aborted) break;
    await rest(pause);
    answer = await fetch(request.clone());
  }
  return answer;
}
