// A stopwatch through the parts of a run.
import { effectScope } from "vue";

import { useStopwatch } from "@/studies/bring-in/useStopwatch";

function watched() {
  let time = 0;
  const told: [string, number][] = [];
  const scope = effectScope();
  const watch = scope.run(() =>
    useStopwatch(
      ["load", "process"],
      (part, seconds) => told.push([part, seconds]),
      () => time,
    ),
  );
  if (!watch) throw new Error("no scope");
  return {
    watch,
    told,
    wait: (ms: number) => (time += ms),
    end: () => scope.stop(),
  };
}

describe("a stopwatch", () => {
  it("tells each part as it ends, and stops after the last", () => {
    const { watch, told, wait, end } = watched();
    expect(watch.running.value).toBeUndefined();
    watch.press();
    expect(watch.running.value).toBe("load");
    wait(1500);
    watch.press();
    wait(250);
    watch.press();
    expect(told).toEqual([
      ["load", 1.5],
      ["process", 0.25],
    ]);
    expect(watch.running.value).toBeUndefined();
    end();
  });

  it("begins anew after it was stopped without a time", () => {
    const { watch, told, wait, end } = watched();
    watch.press();
    wait(900);
    watch.stop();
    expect(told).toEqual([]);
    watch.press();
    wait(100);
    watch.press();
    expect(told).toEqual([["load", 0.1]]);
    end();
  });
});
