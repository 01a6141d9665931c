import { CHAPTERS } from "@/help/guide";
import { pageOf } from "@/help/terms";

describe("the user guide", () => {
  it("has its chapters in order, each with a title and a name of its own", () => {
    expect(CHAPTERS.length).toBeGreaterThanOrEqual(3);
    expect(CHAPTERS[0]!.title).toBe("A first study");
    expect(new Set(CHAPTERS.map((c) => c.key)).size).toBe(CHAPTERS.length);
    for (const chapter of CHAPTERS) {
      expect(chapter.key).toMatch(/^[a-z][a-z-]*$/);
      expect(chapter.html).toContain(`<h1>${chapter.title}</h1>`);
    }
  });

  it("shows pictures that ship with it, each told in words", () => {
    for (const { html } of CHAPTERS)
      for (const [image] of html.matchAll(/<img [^>]*>/g)) {
        expect(image).toMatch(/alt="[^"]{5,}"/);
        expect(image).not.toMatch(/src="https?:/);
      }
  });

  it("leads nowhere outside, and to chapters that there are", () => {
    const keys = new Set(CHAPTERS.map((c) => c.key));
    for (const { html } of CHAPTERS)
      for (const [, to] of html.matchAll(/href="([^"]+)"/g)) {
        expect(to).not.toMatch(/^https?:/);
        const chapter = /^\/guide\/([a-z-]+)$/.exec(to!)?.[1];
        if (chapter) expect(keys).toContain(chapter);
      }
  });

  it("runs no markup of its own: text stays text", () => {
    for (const { html } of CHAPTERS)
      expect(html).not.toMatch(/<script|<iframe|onclick/i);
  });

  it("is where every page's help leads", () => {
    const keys = new Set(CHAPTERS.map((c) => c.key));
    const paths = [
      "/studies",
      "/studies/1/audit",
      "/studies/1/look",
      "/frames/1",
      "/queue",
      "/x",
    ];
    for (const path of paths) expect(keys).toContain(pageOf(path).chapter);
  });
});
