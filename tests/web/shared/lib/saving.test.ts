import { fileName } from "@/shared/lib/saving";

it.each([
  ["Check cloth, 1 of 15.png", "Check cloth, 1 of 15.png"],
  ["a/b\\c:d*?.png", "a-b-c-d-.png"],
  ["  Über  größe  .png ", "Über größe .png"],
])("the file name of %j is %j", (words, wanted) =>
  expect(fileName(words)).toBe(wanted),
);
