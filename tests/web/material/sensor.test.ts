import type { SensorFacts } from "@/api/types";
import {
  besides,
  columnsOf,
  halfTold,
  lacking,
  sensorCsv,
} from "@/material/cameras/sensor";

const NONE = { one: null, ten: null, one_of_print: null, ten_of_print: null };
const at = (iso: number, more: object = {}) => ({
  iso,
  files: [`${iso}.dng`],
  gain: [0.35, 0.34, 0.36],
  read_noise: [3.2, 3.1, 3.3],
  top: [(42000 * 100) / iso, 0, 0],
  snr: null,
  ranges: NONE,
  response: null,
  dark: null,
  reason: "",
  no_well: "",
  no_pattern: "shoot 8 frames",
  rows: null,
  columns: null,
  band_rows: null,
  band_columns: null,
  hot: null,
  black_moved: null,
  black_wanders: null,
  doubts: [],
  ...more,
});
const facts = (isos: object[], steps: object[] = []): SensorFacts =>
  ({
    isos,
    steps,
    nothing_gained_from: null,
    said: "",
  }) as unknown as SensorFacts;

describe("a measured sensor", () => {
  it("has columns for what is known of any ISO", () => {
    const some = facts([at(100), at(200, { response: [0.01, 0.009, 0.011] })]);
    expect(columnsOf(some).map((c) => c.title)).toEqual([
      "Gain",
      "Read noise",
      "Top",
      "Uneven",
    ]);
  });
  it("tells what has no bounds without any, and the worse of bands", () => {
    const dark = at(100, {
      hot: 2e-5,
      band_rows: 0.2,
      band_columns: 0.5,
      black_moved: -0.25,
      black_wanders: 0.125,
    });
    const told = columnsOf(facts([dark])).map((c) => [
      c.title,
      c.of(dark as never)?.[0],
    ]);
    expect(told.slice(-4)).toEqual([
      ["Bands", 0.5],
      ["Hot", 20],
      ["Black off by", -0.25],
      ["Black wanders by", 0.125],
    ]);
    expect(halfTold([1, 1, 1], 2)).toBe("");
    expect(halfTold([1, 0.5, 1.7], 1)).toBe("±0.6");
  });
  it("stands beside others, each with what is known of it", () => {
    const [noise] = besides([
      { name: "A", facts: facts([at(100), at(200, { read_noise: null })]) },
      { name: "B", facts: facts([at(400)]) },
    ]);
    expect(noise?.curves).toEqual([
      { name: "A", x: [100], y: [3.2] },
      { name: "B", x: [400], y: [3.2] },
    ]);
  });
  it("tells each reason once, with the ISO values that it holds for", () => {
    const some = facts([at(100, { reason: "too dark" }), at(1600)]);
    expect(lacking(some)).toEqual([
      "Too dark (at ISO 100).",
      "Fixed pattern: shoot 8 frames (at every ISO).",
    ]);
  });
  it("goes out as rows with bounds and files", () => {
    const lines = decodeURIComponent(
      sensorCsv("=Body", facts([at(100)])),
    ).split("\r\n");
    expect(lines[0]).toContain('"body","ISO","Gain codes an e−","low","high"');
    expect(lines[1]).toContain(`"'=Body","100","0.35","0.34","0.36"`);
    expect(lines[1]).toContain('"100.dng"');
  });
});
