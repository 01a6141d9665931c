import { QueryClient } from "@tanstack/vue-query";

import { askFirst } from "@/app/ahead";

const asked = vi.hoisted((): unknown[] => []);
vi.mock("@/api/client", () => ({
  api: {
    GET: (path: string, of?: { params: { path: { study_id: number } } }) =>
      asked.push(of ? [path, of.params.path.study_id] : path),
  },
  // Nobody is signed in.
  ask: () => Promise.reject(new Error("401")),
}));

describe("what is asked for before a page is there", () => {
  beforeEach(() => void (asked.length = 0));
  for (const [path, study] of [
    ["/studies/7/look", 7],
    ["/studies/12", 12],
    ["/studies", undefined],
    ["/studies/new", undefined],
    ["/frames/7", undefined],
  ] as const)
    it(`is, at ${path}, who one is ${study ? "and the study" : "only"}`, async () => {
      const client = new QueryClient();
      askFirst(client, path);
      expect(asked).toEqual([
        "/api/session",
        ...(study ? [["/api/studies/{study_id}", study]] : []),
      ]);
      // A refusal is not thrown at anybody: the page asks again once they are signed in.
      await vi.waitFor(() => expect(client.isFetching()).toBe(0));
    });
});
