import { BLANK, useOf } from "@/studies/shared/uses/entering";

describe("a use of one's own", () => {
  it("has, as a print, the pixels of its paper, and fills it", () => {
    const print = { ...BLANK, name: " Poster ", across: 25.4, down: 20.32 };
    expect(useOf(print)).toEqual({
      name: "Poster",
      width: 3000,
      height: 2400,
      enlarge: true,
      jpeg: null,
      ppi: 300,
      distance_cm: 50,
      part: 1,
    });
  });
  it("has, as a picture, the box it fits, and no compression at 0", () => {
    const picture = { ...BLANK, kind: "picture" as const, part: 20 };
    expect(useOf(picture)).toMatchObject({
      width: 1600,
      enlarge: false,
      jpeg: 85,
      part: 0.2,
    });
    expect(useOf({ ...picture, jpeg: 0 }).jpeg).toBeNull();
  });
});
