import { Problem } from "@/api/client";
import { isAway, patience } from "@/app/useAway";

describe("a server that is away", () => {
  it.each([0, 429, 502, 503, 504])("is waited for after %d", (status) => {
    const error = new Problem(status, "no");
    expect(isAway(error)).toBe(true);
    expect(patience.retry(59, error)).toBe(true);
    expect(patience.retry(60, error)).toBe(false);
  });
  it.each([400, 401, 403, 404, 409, 412, 500])(
    "has answered with %d",
    (status) => {
      const error = new Problem(status, "no");
      expect(isAway(error)).toBe(false);
      expect([patience.retry(0, error), patience.retry(1, error)]).toEqual([
        true,
        false,
      ]);
    },
  );
  it("is not what any other mistake is", () => {
    expect(isAway(new TypeError("undefined is not a function"))).toBe(false);
    expect(isAway(undefined)).toBe(false);
  });
  it("is asked more and more rarely, and never less than every eight seconds", () => {
    expect([0, 1, 2, 3, 4, 30].map(patience.retryDelay)).toEqual([
      1000, 2000, 4000, 8000, 8000, 8000,
    ]);
  });
});
