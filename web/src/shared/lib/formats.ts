// Dates and sizes in one form everywhere, whatever the browser's country.
const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const MINUTE = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const UNITS = ["B", "kB", "MB", "GB", "TB"] as const;

/** 27 Nov 2026 */
export function day(iso: string): string {
  // Some engines put a full stop or “Sept” there.
  return DAY.formatToParts(new Date(iso))
    .map((p) => (p.type === "month" ? p.value.slice(0, 3) : p.value))
    .join("");
}

/** 27 Nov 2026, 09:05 */
export function moment(iso: string): string {
  return `${day(iso)}, ${MINUTE.format(new Date(iso))}`;
}

/** The moment as a camera writes it, 2026:03:14 11:20:05 in its own clock; else as it stands. */
export function taken(exif: string): string {
  const [, y, m, d, time] = /^(\d{4}):(\d\d):(\d\d) (\d\d:\d\d)/.exec(exif) ?? [];
  return y ? `${day(`${y}-${m}-${d}T12:00`)}, ${time}` : exif;
}

/** 9.4 MB: powers of ten, three significant digits at most. */
export function bytes(count: number): string {
  let value = count;
  let unit = 0;
  while (Math.round(value) >= 1000 && unit < UNITS.length - 1) {
    value /= 1000;
    unit += 1;
  }
  const digits = unit === 0 || value >= 99.95 ? 0 : value >= 9.995 ? 1 : 2;
  return `${value.toFixed(digits)} ${UNITS[unit]}`;
}

const two = (n: number): string => String(n).padStart(2, "0");

/** The day of a date, or of 2026-11-27 or 27 Nov 2026, as ISO 8601; null where it is none. */
export function isoDay(of: Date | string): string | null {
  const date = typeof of === "string" ? parsed(of) : of;
  if (!date || Number.isNaN(date.getTime())) return null;
  return [date.getFullYear(), two(date.getMonth() + 1), two(date.getDate())].join("-");
}

function parsed(text: string): Date | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  const words = /^(\d{1,2}) ([A-Za-z]{3})[a-z]* (\d{4})$/.exec(text);
  const date = iso || words ? new Date(iso ? `${text}T12:00` : `${text} 12:00`) : null;
  // 31 February is not the third of March.
  const wanted = Number(iso?.[3] ?? words?.[1]);
  return date?.getDate() === wanted ? date : null;
}
