import { tableOf } from "@/charts/table";

const curve = (name: string, x: number[], y: number[]) => ({ name, x, y });

describe("a chart's table", () => {
  it("has curves over the same places side by side", () => {
    const [a, b] = [
      curve("A", [0, 0.1], [1, 0.93217]),
      curve("B", [0, 0.1], [1, 0.5]),
    ];
    expect(tableOf([a, b], "cycles/px", "MTF")).toEqual({
      named: false,
      head: ["cycles/px", "A", "B"],
      rows: [
        ["0", "1", "1"],
        ["0.1", "0.9322", "0.5"],
      ],
    });
  });

  it.each([
    ["of other lengths", [0, 1], [0]],
    ["at other places", [0, 1], [0, 2]],
  ])(
    "has curves %s one below the other, with their names",
    (_, first, second) => {
      const curves = [curve("A", first, first), curve("B", second, second)];
      const table = tableOf(curves, "px", "levels");
      expect(table.named).toBe(true);
      expect(table.head).toEqual(["", "px", "levels"]);
      expect(table.rows.map((row) => row[0])).toEqual([
        ...first.map(() => "A"),
        ...second.map(() => "B"),
      ]);
    },
  );

  it("names a single curve's values by their unit", () => {
    expect(tableOf([curve("output", [1], [2])], "px", "levels").head).toEqual([
      "px",
      "levels",
    ]);
  });

  it("tells what is no number as a gap, small and large ones in four figures", () => {
    const odd = curve(
      "A",
      [1, 2, 3, 4, 5],
      [NaN, Infinity, 0.000123456, 1234567],
    );
    expect(tableOf([odd], "x", "y").rows.map((row) => row[1])).toEqual([
      "–",
      "–",
      "0.0001235",
      "1235000",
      "–",
    ]);
  });

  it("is empty where there is nothing to show", () => {
    expect(tableOf([], "x", "y").rows).toEqual([]);
  });
});
