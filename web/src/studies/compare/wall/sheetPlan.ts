// How crops lie on a contact sheet: as large as fits, in whole pixels, letters below.
import type { Size } from "@/viewer/geometry";

export interface Format extends Size {
  name: string;
  /** Of print; 0 of screens. */
  ppi: number;
}

export const FORMATS: readonly [Format, ...Format[]] = [
  { name: "1920 × 1080 px", width: 1920, height: 1080, ppi: 0 },
  { name: "3840 × 2160 px", width: 3840, height: 2160, ppi: 0 },
  { name: "1080 × 1350 px", width: 1080, height: 1350, ppi: 0 },
  // ISO 216, A4 across.
  { name: "print, A4 at 300 ppi", width: 3508, height: 2480, ppi: 300 },
];
/** As large as fits in whole pixels; else device pixels of a frame's. */
export const FITTING = 0;

export interface Row {
  /** Of its patch, frame px. */
  w: number;
  h: number;
  crops: number;
}

export interface Placed {
  row: number;
  crop: number;
  /** The crop's corner and size on the sheet. */
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Plan {
  /** The type's size, px; all distances follow it. */
  unit: number;
  /** Where rows' names stand. */
  titles: { row: number; x: number; y: number }[];
  placed: Placed[];
  zoom: number;
  /** Whether any crop shows less than its patch. */
  cut: boolean;
  /** Room for a caption, px across. */
  across: number;
}

/** Smaller ones tell nothing. */
const LEAST = 48;

/** Type grows with a sheet. */
export const unitOf = ({ width, height }: Size): number =>
  Math.max(13, Math.round(Math.sqrt(width * height) / 100));

/** Of a crop's sides that may be cut for it to stand a step larger. */
const MOST_CUT = 0.2;

/** Whole pixels, as large as fits; a little larger rather than much smaller. */
function fitting(share: number): number {
  const next = Math.ceil(share);
  return Math.max(1, share >= next * (1 - MOST_CUT) ? next : Math.floor(share));
}

interface Try {
  columns: number;
  across: number;
  down: number;
  area: number;
}

/** The plan of a sheet; nothing where its crops would be too small to tell anything. */
export function planOf(
  format: Size,
  rows: readonly Row[],
  zoom: number,
  withReadings: boolean,
): Plan | undefined {
  const unit = unitOf(format);
  const [margin, gap] = [2 * unit, unit];
  const caption = (withReadings ? 3.6 : 2) * unit;
  const head = margin + 2.6 * unit;
  const foot = margin + 1.6 * unit;
  const most = Math.max(0, ...rows.map((r) => r.crops));
  const largest = {
    w: Math.max(1, ...rows.map((r) => r.w)),
    h: Math.max(1, ...rows.map((r) => r.h)),
  };
  let best: Try | undefined;
  for (let columns = 1; columns <= most; columns++) {
    const lines = rows.reduce((sum, r) => sum + Math.ceil(r.crops / columns), 0);
    const titles = rows.length > 1 ? rows.length * 1.8 * unit : 0;
    const across = Math.floor((format.width - 2 * margin - (columns - 1) * gap) / columns);
    const down = Math.floor(
      (format.height - head - foot - titles - lines * (caption + gap)) / lines,
    );
    const share = Math.min(across / largest.w, down / largest.h);
    const area = zoom
      ? Math.min(across, zoom * largest.w) * Math.min(down, zoom * largest.h)
      : share;
    if (Math.min(across, down) >= LEAST && area > (best?.area ?? 0))
      best = { columns, across, down, area };
  }
  if (!best) return undefined;
  const { columns, across, down } = best;
  const at = zoom || fitting(Math.min(across / largest.w, down / largest.h));
  const plan: Plan = { unit, titles: [], placed: [], zoom: at, cut: false, across };
  let y = head;
  rows.forEach((row, r) => {
    if (rows.length > 1) {
      plan.titles.push({ row: r, x: margin, y });
      y += 1.8 * unit;
    }
    const width = Math.floor(Math.min(across, at * row.w));
    const height = Math.floor(Math.min(down, at * row.h));
    plan.cut ||= width < Math.floor(at * row.w) || height < Math.floor(at * row.h);
    for (let crop = 0; crop < row.crops; crop++) {
      const column = crop % columns;
      if (crop && !column) y += height + caption + gap;
      const x = margin + column * (across + gap);
      plan.placed.push({ row: r, crop, x, y: Math.round(y), width, height });
    }
    y += height + caption + gap;
  });
  return plan;
}
