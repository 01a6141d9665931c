import { put, useRow } from "@/sittings/useRow";

describe("a row that is put in order", () => {
  it("puts a picture where another stands, from either side", () => {
    expect(put([0, 1, 2, 3], 3, 1)).toEqual([0, 3, 1, 2]);
    expect(put([0, 1, 2, 3], 0, 2)).toEqual([1, 2, 0, 3]);
    expect(put([0, 1, 2], 1, 1)).toEqual([0, 1, 2]);
    expect(put([0, 1, 2], 0, 9)).toEqual([0, 1, 2]);
  });
  it("is answered once all are chosen, the best first, or as it was dragged", () => {
    const said: number[][] = [];
    const row = useRow(
      () => 3,
      (order) => said.push([...order]),
    );
    row.rank(2);
    row.rank(0);
    row.rank(2);
    row.rank(1);
    expect(said).toEqual([]);
    row.rank(2);
    expect(said).toEqual([[0, 1, 2]]);
    expect(row.moved.value).toBe(false);
    row.dragged.value = 2;
    row.drop(0);
    expect(row.moved.value).toBe(true);
    row.drop(1);
    row.done();
    expect(said[1]).toEqual([2, 0, 1]);
  });
});
