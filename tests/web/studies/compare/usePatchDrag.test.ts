import { LEAST } from "@/studies/compare/patches/patches";
import {
  type Drag,
  usePatchDrag,
} from "@/studies/compare/patches/usePatchDrag";

const START = { x: 100, y: 100, w: 60, h: 40 };

function dragged(
  kind: Drag["kind"],
  from: [number, number],
  ...to: [number, number][]
) {
  const done = vi.fn<(drag: Drag) => void>();
  const {
    drag,
    begin,
    to: go,
    end,
  } = usePatchDrag(() => ({ width: 640, height: 427 }), done);
  const nothing = { x: from[0], y: from[1], w: 0, h: 0 };
  const [id, start] = kind === "draw" ? [null, nothing] : [7, START];
  begin(kind, id, { x: from[0], y: from[1] }, start);
  for (const [x, y] of to) go({ x, y });
  end();
  expect(drag.value).toBeUndefined();
  return done.mock.calls[0]?.[0].box;
}

describe("a patch under the pointer", () => {
  it("is drawn from either corner", () => {
    const box = { x: 10, y: 20, w: 90, h: 60 };
    expect(dragged("draw", [10, 20], [100, 80])).toEqual(box);
    expect(dragged("draw", [100, 80], [50, 50], [10, 20])).toEqual(box);
  });

  it("moves with it, and not out of the picture", () => {
    expect(dragged("move", [110, 110], [130, 105])).toEqual({
      ...START,
      x: 120,
      y: 95,
    });
    expect(dragged("move", [110, 110], [-900, 9000])).toEqual({
      ...START,
      x: 0,
      y: 427 - 40,
    });
  });

  it("is not sent when nothing changed or too little was drawn", () => {
    expect(dragged("move", [110, 110], [130, 130], [110, 110])).toBeUndefined();
    expect(dragged("draw", [10, 10], [10 + LEAST - 1, 90])).toBeUndefined();
    expect(dragged("draw", [10, 10])).toBeUndefined();
  });

  it("does nothing before it begins or after it ended", () => {
    const done = vi.fn();
    const { drag, begin, to, end } = usePatchDrag(
      () => ({ width: 10, height: 10 }),
      done,
    );
    to({ x: 5, y: 5 });
    end();
    expect(done).not.toHaveBeenCalled();
    begin("move", 1, { x: 0, y: 0 }, START);
    end();
    to({ x: 5, y: 5 });
    expect(drag.value).toBeUndefined();
  });
});
