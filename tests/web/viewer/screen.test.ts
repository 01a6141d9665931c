import { CARD, MM_PER_INCH, ppiOfCard, useScreen } from "@/viewer/screen";

describe("a screen's pixels", () => {
  it("follow from how many a card is wide (ISO/IEC 7810, ID-1: 85.60 mm)", () => {
    expect(CARD.width / CARD.height).toBeCloseTo(85.6 / 53.98, 9);
    expect(ppiOfCard(CARD.width)).toBeCloseTo(MM_PER_INCH, 9);
    expect(ppiOfCard(337)).toBeCloseTo(100, 0);
  });
  it("are kept, and not believed where they make no sense", () => {
    const { ppi } = useScreen();
    expect(ppi.value).toBeUndefined();
    ppi.value = 163.24;
    expect(useScreen().ppi.value).toBe(163.2);
    ppi.value = 3;
    expect(ppi.value).toBeUndefined();
    ppi.value = undefined;
  });
});
