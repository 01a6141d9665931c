// What all charts share: ink, type and axes.
export const ink = "currentColor";
export const font = { fontFamily: "Spline Sans Mono Variable, monospace", fontSize: 11 };
export const axis = {
  type: "value" as const,
  nameLocation: "middle" as const,
  nameTextStyle: { ...font, color: ink },
  axisLabel: { ...font, color: ink },
  axisLine: { show: true, onZero: false, lineStyle: { color: ink } },
  splitLine: { lineStyle: { color: ink, opacity: 0.14 } },
};
