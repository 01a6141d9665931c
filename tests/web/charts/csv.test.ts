import { csvAddress, csvOf } from "@/charts/csv";

const text = (address: string) =>
  decodeURIComponent(address.replace(/^data:text\/csv;charset=utf-8,/, ""));

describe("a chart's numbers as CSV (RFC 4180)", () => {
  it("has a line for each point of each curve, ended as the standard says", () => {
    const address = csvAddress(
      [{ name: "A", x: [1, 2], y: [0.5, 0.25] }],
      "cycles/px",
      "MTF",
    );
    expect(text(address)).toBe(
      'curve,"cycles/px","MTF"\r\n"A",1,0.5\r\n"A",2,0.25',
    );
  });
  it("quotes what would break a line, and survives any sign", () => {
    const name = 'B, "soft" – 60 %; ±1\n#';
    const lines = text(csvAddress([{ name, x: [1], y: [2] }], "x", "y"));
    expect(lines).toContain('"B, ""soft"" – 60 %; ±1\n#",1,2');
  });
  it("has a head alone where there is no curve", () => {
    expect(text(csvAddress([], "x", "y"))).toBe('curve,"x","y"');
  });
});

describe("rows of text as CSV", () => {
  it("takes no text for a formula, and leaves numbers", () => {
    const lines = text(csvOf([["=SUM(A1)", "-3.5", "+x", "@me", "A, b"]]));
    expect(lines).toBe(`"'=SUM(A1)","-3.5","'+x","'@me","A, b"`);
  });
});
