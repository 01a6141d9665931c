import { pageOf, TERMS } from "@/help/terms";

describe("the help of each page", () => {
  it.each([
    ["/studies", "Studies", "first-study"],
    ["/studies/12/set-up", "Set up", "first-study"],
    ["/studies/12/bring-in", "Bring in", "outputs"],
    ["/studies/12/folders/3", "Bring in", "outputs"],
    ["/studies/12/audit", "Like for like", "like-for-like"],
    ["/studies/12/outputs/9", "Like for like", "like-for-like"],
    ["/studies/12/compare", "Compare", "comparing"],
    ["/studies/12/answers", "Compare", "comparing"],
    ["/studies/12/look", "Close look", "comparing"],
    ["/studies/12/judge", "Judge", "publishing"],
    ["/studies/12/publish", "Publish", "publishing"],
    ["/published", "Publish", "publishing"],
    ["/frames/4/degrade", "Frames", "frames"],
    ["/targets/new", "Frames", "frames"],
    ["/tools/new", "Tools", "outputs"],
    ["/bench/people", "Bench and account", "bench"],
    ["/account", "Bench and account", "bench"],
    ["/nowhere", "Glenhail", "first-study"],
  ])("%s is told as %s, chapter %s", (path, title, chapter) => {
    expect(pageOf(path).title).toBe(title);
    expect(pageOf(path).chapter).toBe(chapter);
  });

  it("tells only words that are explained, in a sentence each", () => {
    for (const [term, words] of Object.entries(TERMS)) {
      expect(words, term).toMatch(/^[A-Z].*\.$/);
      expect(words.length, term).toBeLessThan(200);
    }
  });
});
